import { beforeAll, describe, expect, it } from 'vitest';
import { ovenRun } from '../../../tests/sample-run.ts';
import { withOfferedQuantities } from '../../fields/quantity-sources.ts';
import type { RunDescription } from '../../model/run.ts';
import { defaultScene } from '../default-scene.ts';
import type { Scene } from '../document.ts';
import { filledIn, templateCompletions, templateNeeds, templateTroubles } from './template.ts';
import type { Here, TemplateSetting } from './template-words.ts';

let run: RunDescription;
let scene: Scene;
beforeAll(async () => {
  run = { ...withOfferedQuantities(await ovenRun()), parameters: { 'fan speed': 1450, grade: 'B', step: 9 } };
  scene = defaultScene(run);
});

// Three steps at 0, 5 and 10 s; temperature = 20 + 10 n + x + 2 y + 3 z on the unit cube.
const setting = (step = 1, here: Here | null = null): TemplateSetting => ({ run, scene, step, here });
const fill = (text: string, step = 1, here: Here | null = null): string =>
  filledIn(text, setting(step, here));

const place: Here = {
  place: [0.5, 0.25, 1],
  part: 'tin',
  index: 7,
  number: 2,
  value: {
    says: 'temperature',
    unit: '°C',
    wanted: { field: 'point:temperature', component: 0 },
    read: () => 21.5,
  },
  tell: ({ field }) => (field === 'point:temperature' ? 21.5 : Number.NaN),
};

describe('a text with values', () => {
  it('tells time, step and run, with decimals as asked', () => {
    expect(fill('t = {time:.2f} s')).toBe('t = 5.00 s');
    expect(fill('t = {time:.2f} s', 2)).toBe('t = 10.00 s');
    expect(fill('step {step} of {steps}: {run}')).toBe(`step 2 of 3: ${run.name}`);
    expect(fill('{TIME}')).toBe('5');
  });

  it('says values in other units that measure the same', () => {
    expect(fill('{time in ms:.0f} ms')).toBe('5000 ms');
    expect(fill('{max temperature in K:.2f} K')).toBe('309.15 K');
  });

  it('tells the lowest, highest and mean value of the step', () => {
    // From 30 at the origin to 36 at the far corner; the mean over an even grid is 33.
    expect(fill('{min temperature} {max temperature} {mean temperature:.1f}')).toBe('30 36 33.0');
    expect(fill('{min}..{max}', 0)).toBe('20..26');
  });

  it('knows the parameters of the run; what has a meaning of its own is told apart', () => {
    expect(fill('{fan speed} rpm, grade {grade}')).toBe('1450 rpm, grade B');
    expect(fill('{step}/{parameter step}')).toBe('2/9');
  });

  it('tells what is there, where it hangs on a place', () => {
    expect(fill('{number}: {value:.1f} at {x:.2f} in {part}', 1, place)).toBe('2: 21.5 at 0.50 in tin');
    expect(fill('{value in K:.2f}', 1, place)).toBe('294.65');
    expect(fill('{temperature} {index}', 1, place)).toBe('21.5 7');
  });

  it('takes the formats of numbers that Python has', () => {
    // From the documentation of Python's format specification, by memory: sign, width of thousands, exponent.
    expect(fill('{fan speed:,.1f}')).toBe('1,450.0');
    expect(fill('{fan speed:+d}')).toBe('+1450');
    expect(fill('{fan speed:.2e}')).toBe('1.45 × 10³');
    expect(fill('{min temperature:.3g}')).toBe('30.0');
  });

  it('leaves braces that are written twice, and texts without any', () => {
    expect(fill('{{time}} is {time}')).toBe('{time} is 5');
    expect(fill('plain')).toBe('plain');
  });

  it('shows what is not understood as it was typed, and says why and what to do', () => {
    expect(fill('{tme} and {time')).toBe('{tme} and {time');
    expect(templateTroubles('{tim}', setting())[0]).toContain('Did you mean {time}?');
    expect(templateTroubles('{time:.2q}', setting())[0]).toContain('.2f');
    expect(templateTroubles('{time in bar}', setting())[0]).toContain('is in s, which cannot be said in');
    expect(templateTroubles('{step in s}', setting())[0]).toContain('no unit');
    expect(templateTroubles('{}', setting())[0]).toContain('Nothing stands');
    expect(templateTroubles('{time:.1f} {max}', setting())).toEqual([]);
  });

  it('has a dash where there is no value', () => {
    expect(fill('{speed-less}')).toBe('{speed-less}');
    expect(fill('{value:.1f}', 1, { ...place, value: { ...place.value!, read: () => Number.NaN } })).toBe(
      '–',
    );
  });

  it('says what it must know', () => {
    expect(templateNeeds('{max temperature}, {time}', setting()).ranges).toEqual(['point:temperature']);
    expect(templateNeeds('{value} {temperature}', setting(1, place)).here).toEqual([
      { field: 'point:temperature', component: 0 },
      { field: 'point:temperature', component: 0 },
    ]);
  });
});

describe('a text that is being typed', () => {
  const offered = (text: string, caret = text.length) =>
    templateCompletions(text, caret, setting())?.map((c) => c.word.name) ?? null;

  it('is completed once a brace is open, by any word of a name', () => {
    expect(offered('t = ')).toBeNull();
    expect(offered('t = {ti')).toEqual(['time']);
    expect(offered('{temp')).toContain('max temperature');
    expect(offered('{time:')).toBeNull();
    expect(offered('{{ti')).toBeNull();
    expect(offered('{time} and')).toBeNull();
  });

  it('puts the name in the braces and keeps what stands behind', () => {
    const [first] = templateCompletions('t = {ti} s', 7, setting())!;
    expect([first.text, first.caret]).toEqual(['t = {time} s', 9]);
  });
});
