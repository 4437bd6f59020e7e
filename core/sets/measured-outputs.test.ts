import { describe, expect, it } from 'vitest';
import type { MeasuredNumber } from '../model/run.ts';
import { columnOfMeasure, numberAt } from './measured-outputs.ts';
import { emptyRunSet, type RunOfSet, tableOfSet, withRunSetEdit } from './run-set.ts';

const number = (perStep: MeasuredNumber['perStep'], unit: string | null = '°C'): MeasuredNumber => ({
  unit,
  components: 1,
  perStep,
});

describe('the number of all steps that is meant', () => {
  const warming = number([20, null, 80, 60]);
  it('is that of a step, an extreme, or the mean of those that are known', () => {
    expect(numberAt(warming, 'at the last step')).toBe(60);
    expect(numberAt(warming, 'at the first step')).toBe(20);
    expect(numberAt(warming, 'highest')).toBe(80);
    expect(numberAt(warming, 'lowest')).toBe(20);
    expect(numberAt(warming, 'mean of the steps')).toBeCloseTo(160 / 3, 12);
  });
  it('of vectors is their length', () => {
    expect(numberAt(number([[3, 4, 0]]), 'at the last step')).toBe(5);
  });
  it('is none where there is none', () => {
    expect(numberAt(number([null]), 'at the last step')).toBeNull();
    expect(numberAt(number([]), 'highest')).toBeNull();
  });
});

describe('measured outputs of a set', () => {
  const sentence = 'average of T over everything';
  const measure = { id: 'm1', sentence, at: 'highest' as const };
  const runs: RunOfSet[] = [
    { id: 'a', name: 'oven a', parameters: { fan: 900 }, numbers: { [sentence]: number([100, 120]) } },
    { id: 'b', name: 'oven b', parameters: { fan: 1200 }, numbers: {} },
    {
      id: 'c',
      name: 'oven c',
      parameters: { fan: 1500 },
      numbers: { [sentence]: { ...number([]), trouble: 'the run has no T.' } },
    },
  ];
  const set = withRunSetEdit(
    { ...emptyRunSet('Ovens'), runs: ['a', 'b', 'c'] },
    { type: 'set.measure', measure },
  );
  it('are columns of their own, with their unit and as outputs; what runs lack is told', () => {
    const table = tableOfSet(set, runs);
    expect(table.columns.at(-1)).toMatchObject({
      key: columnOfMeasure(measure),
      name: `${sentence}, highest`,
      unit: '°C',
      role: 'output',
      values: [120, null, null],
    });
    expect(table.findings).toContain(`oven c, ${sentence}: the run has no T.`);
    // By the name it has, as everything else is told.
    expect(table.findings).toContain(`“${sentence}, highest” is lacking in 2 of 3 runs.`);
  });
  it('change, and go again', () => {
    const last = withRunSetEdit(set, {
      type: 'set.measure',
      measure: { ...measure, at: 'at the first step' },
    });
    expect(last.measures).toHaveLength(1);
    expect(tableOfSet(last, runs).columns.at(-1)?.values[0]).toBe(100);
    const none = withRunSetEdit(last, { type: 'set.measure.remove', id: 'm1' });
    expect(tableOfSet(none, runs).columns.map((c) => c.key)).toEqual(['fan']);
  });
  it('give way to what is typed, as all that is known of runs does', () => {
    const typed = withRunSetEdit(set, {
      type: 'set.type',
      run: 'b',
      key: columnOfMeasure(measure),
      value: 111,
    });
    expect(tableOfSet(typed, runs).columns.at(-1)?.values).toEqual([120, 111, null]);
  });
});
