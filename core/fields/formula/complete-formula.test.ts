import { describe, expect, it } from 'vitest';
import { changesWithSteps } from '../quantity-sources.ts';
import { formulaProposals, pieceAt } from './complete-formula.ts';
import { expandedFormula } from './expanded-formula.ts';
import { formulaFunctions } from './functions/registry.ts';
import { parseFormula } from './parse-formula.ts';
import { quantityFunctions } from './quantity-functions.ts';

const names = [
  { name: 'temperature', says: '°C' },
  { name: 'wall temperature', says: '°C' },
  { name: 'T [raw]', says: '' },
];
const proposed = (text: string, caret = text.length) =>
  formulaProposals(text, caret, names)?.proposals.map((p) => p.text) ?? [];

describe('what is proposed while a formula is typed', () => {
  it('are names that begin so, then functions, then names that have it further on', () => {
    expect(proposed('te')).toEqual(['temperature', 'tensor(', 'wall temperature']);
    expect(proposed('2 * tr')).toEqual(['trace(', 'transpose(', 'tresca(', 'triaxiality(']);
    expect(proposed('[T')).toContain('[T [raw]]');
  });
  it('is nothing behind a number, a sign, or a word that is complete', () => {
    expect(proposed('2 * ')).toEqual([]);
    expect(proposed('34')).toEqual([]);
    expect(proposed('wall temperatur', 3)).toEqual(['wall temperature', 'wall_gradient(']);
    expect(formulaProposals('temperature', 11, names.slice(0, 1))).toBeNull();
  });
  it('takes the place of the word that is begun', () => {
    expect(formulaProposals('2 * tempXX + 1', 8, names)?.piece).toEqual({ from: 4, to: 10, text: 'temp' });
  });
  it('proposes other runs where one of them is named, and puts in what belongs around the name', () => {
    const runs = ['fan slow', 'fan fast', 'no fan "at all"'];
    const at = (text: string, caret = text.length) => formulaProposals(text, caret, names, runs);
    expect(at('T - in_run(')?.proposals.map((p) => p.text)).toEqual([
      '"fan slow", ',
      '"fan fast", ',
      '"no fan \\"at all\\"", ',
    ]);
    expect(at('T - in_run("slo')).toMatchObject({
      piece: { from: 11, to: 15 },
      proposals: [{ text: '"fan slow", ' }],
    });
    // What is there already is taken the place of.
    expect(at('in_run("fast" , T)', 10)?.piece).toEqual({ from: 7, to: 16, text: '"fa' });
    expect(at('in_run("none')).toBeNull();
    // Behind the name it is a quantity that is named.
    expect(at('in_run("fan slow", te')?.proposals.map((p) => p.text)).toEqual(
      formulaProposals('te', 2, names)?.proposals.map((p) => p.text),
    );
  });
});

describe('the piece under the caret', () => {
  const at = (text: string, caret: number) => pieceAt(text, caret, ['wall temperature'])?.text ?? null;
  it('is a name with its component, one of several words, or what stands in brackets', () => {
    expect(at('2 * velocity.x + 1', 6)).toBe('velocity.x');
    expect(at('wall temperature - 2', 9)).toBe('wall temperature');
    expect(at('2 * [T [raw]', 6)).toBe('[T [raw]');
    expect(at('2 + 3', 2)).toBeNull();
  });
});

describe('names within formulas', () => {
  const known = [
    { name: 'heat', formula: 'T * 2' },
    { name: 'wall heat', formula: '(T * 2) + p' },
  ];
  it.each([
    ['heat + 1', '(T * 2) + 1'],
    ['wall heat / heat', '((T * 2) + p) / (T * 2)'],
    ['[wall heat].x', '((T * 2) + p).x'],
    ['heater + v.heat + heat(2)', 'heater + v.heat + heat(2)'],
    ['[my heat] = "heat"', '[my heat] = "heat"'],
  ])('%s is %s', (text, wanted) => expect(expandedFormula(text, known)).toBe(wanted));
});

it('every function can be written as it says, and says what it is', () => {
  const columns: Record<string, Parameters<typeof parseFormula>[0] | object> = {
    v: { data: [1, 2, 3], components: 3 },
    t: { data: [1, 2, 3, 4, 5, 6], components: 6 },
  };
  for (const [name, { written, says }] of Object.entries(formulaFunctions)) {
    expect(says, name).not.toBe('');
    const text = written.replace(', …', '').replace('condition', 'x').replace('≠', '!=');
    const column = (given: string) =>
      // Vector functions have letters a and b too.
      (columns[/^(?:dot|cross)$/.test(name) && /^[ab]$/.test(given) ? 'v' : given] ?? [0.5]) as number[];
    expect(() => parseFormula(text).evaluate(1, column), written).not.toThrow();
  }
  for (const { says, prefix } of Object.values(quantityFunctions)) {
    expect(says, prefix).not.toBe('');
    // Some source gives what begins so.
    expect(changesWithSteps(`${prefix}:point:T`), prefix).toBe(true);
  }
});
