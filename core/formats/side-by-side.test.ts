import { describe, expect, it } from 'vitest';
import { emptyPlan, type RunPlan } from '../model/run-plan.ts';
import { sideBySide } from './side-by-side.ts';

/** A run of files of which each has one state, at those times. */
const series = (name: string, times: (number | null)[], pieces = 0): RunPlan => ({
  ...emptyPlan(name),
  steps: times.map((time, n) => ({
    time,
    files: Array.from({ length: pieces || 1 }, (_, i) => ({
      path: `${name}_${n}_${i}`,
      part: pieces ? name : null,
      piece: pieces ? i : null,
      step: 0,
    })),
  })),
});
const together = (...plans: RunPlan[]): RunPlan =>
  sideBySide(plans.map((plan) => ({ plan, lengthUnit: null })));
const paths = (plan: RunPlan): string[][] => plan.steps.map((s) => s.files.map((f) => f.path));

describe('runs side by side', () => {
  it('keep their steps and partitions; what has one state stands there all the time', () => {
    const flow = series('flow', [0, 0.5], 2);
    const made = together(series('seeds', [null]), flow);
    expect(made).toMatchObject({ name: 'flow', arrangement: 'parts', collection: null, warnings: [] });
    expect(made.steps.map((s) => s.time)).toEqual([0, 0.5]);
    expect(paths(made)).toEqual([
      ['seeds_0_0', 'flow_0_0', 'flow_0_1'],
      ['seeds_0_0', 'flow_1_0', 'flow_1_1'],
    ]);
    expect(made.steps[1].files.map((f) => [f.part, f.piece])).toEqual([
      ['seeds', null],
      ['flow', 0],
      ['flow', 1],
    ]);
  });
  it('of other times hold each state until its next, and are absent before their first', () => {
    const made = together(series('dust', [0, 1, 2, 3, 4]), series('flow', [1, 2.5]));
    expect(paths(made)).toEqual([
      ['dust_0_0'],
      ['dust_1_0', 'flow_0_0'],
      ['dust_2_0', 'flow_0_0'],
      ['dust_3_0', 'flow_1_0'],
      ['dust_4_0', 'flow_1_0'],
    ]);
    expect(made.warnings).toEqual([
      '“flow” has 2 steps, “dust” has 5: each state is held from its time to the next',
    ]);
  });
  it('without times go by their number', () => {
    const made = together(series('flow', [null, null]), series('dust', [0, 1, 2]));
    expect(paths(made).map((files) => files[0])).toEqual(['flow_0_0', 'flow_1_0', 'flow_1_0']);
    expect(made.warnings[0]).toContain('in order');
  });
  it('of one name become parts of their own, not partitions of one', () => {
    const made = together(series('air', [0]), series('air', [0]), series('air', [0]));
    expect(made.steps[0].files.map((f) => f.part)).toEqual(['air', 'air 2', 'air 3']);
  });
  it('take their tables, pictures and units along', () => {
    const plate = {
      ...series('plate', [0]),
      tables: ['loads.csv'],
      parameters: [['load', 3]] as [string, number][],
    };
    const drawn = { ...series('deck', [0]), pictures: ['deck.png'] };
    const made = sideBySide([
      { plan: plate, lengthUnit: 'mm' },
      { plan: drawn, lengthUnit: null },
    ]);
    expect(made).toMatchObject({ tables: ['loads.csv'], pictures: ['deck.png'], parameters: [['load', 3]] });
    expect(made.steps[0].files.map((f) => f.lengthUnit)).toEqual(['mm', undefined]);
  });
  it('whose tables are read in different ways are refused, with what to do', () => {
    const read = (name: string, x: number): RunPlan => ({
      ...series(name, [null]),
      reading: { as: 'points', x, y: 1, z: 2, vectors: [], diameter: null, step: null, id: null },
    });
    expect(() => together(read('a', 0), read('b', 0))).not.toThrow();
    expect(() => together(read('a', 0), read('b', 4))).toThrow(/read in different ways/);
  });
});
