import { readFileSync } from 'node:fs';
import { beforeAll, describe, expect, it } from 'vitest';
import { type CurveData, curveFrom } from '#core/measure/curves/curve-data.ts';
import { curveWorks, worked } from '#core/measure/curves/registry.ts';
import type { RunDescription } from '#core/model/run.ts';
import { type ReadRuns, readRuns } from '../read-run.ts';

// Facts computed from the files by a script that shares nothing with this project; see the README of the fixtures.
const { history } = JSON.parse(readFileSync('tests/fixtures/expected.json', 'utf8'));

let read: ReadRuns;
beforeAll(async () => {
  read = await readRuns([
    'tests/fixtures/samples/door_history.csv.gz',
    'tests/fixtures/samples/door_forces.csv.gz',
  ]);
});

function column(table: string, name: string): CurveData {
  const found = read.runs.flatMap((r: RunDescription) => r.tables).find((t) => t.name === table)!;
  const at = (wanted: string) => found.columns.find((c) => c.name === wanted)!;
  const [time, values] = [at('time [s]'), at(name)];
  return curveFrom(
    { name: 'time', unit: 's' },
    { name, unit: values.unit },
    read.array(time.values),
    read.array(values.values),
    false,
  );
}

function work(curve: CurveData, op: string, beside: CurveData | null = null, more: object = {}): CurveData {
  const known = curveWorks.find((w) => w.id === op)!;
  const options = { ...known.defaults(curve), ...more };
  return worked(curve, [{ id: 'a', op, options, off: false }], { curve: () => beside });
}

const extremes = ({ y }: CurveData): [number, number] => [Math.min(...y), Math.max(...y)];

describe('a recorded impulse', () => {
  it.each(Object.keys(history.impulses))('%s has the slope that the script found, in newtons', (name) => {
    const facts = history.impulses[name];
    const slope = work(column('door_history', name), 'derivative');
    expect(slope.up.unit).toBe('N');
    const [low, high] = extremes(slope);
    const size = Math.max(Math.abs(facts.central_difference_max), Math.abs(facts.central_difference_min));
    expect(Math.abs(high - facts.central_difference_max)).toBeLessThan(1e-4 * size);
    expect(Math.abs(low - facts.central_difference_min)).toBeLessThan(1e-4 * size);
  });

  it.each(Object.keys(history.impulses))('%s misses the true force by what the script says', (name) => {
    const facts = history.impulses[name];
    const force = column('door_forces', name.replace('impulse', 'force').replace('[N s]', '[N]'));
    const slope = work(column('door_history', name), 'derivative');
    const gap = work(slope, 'difference', force, { other: 'force' });
    const inner = gap.y.slice(1, -1);
    const most = Math.max(...inner.map(Math.abs));
    const rms = Math.sqrt(inner.reduce((sum, v) => sum + v * v, 0) / inner.length);
    // Columns are written to eight digits; a slope over half a millisecond makes a hundredth of a newton of their last.
    expect(most / facts.largest_difference_to_true_force).toBeCloseTo(1, 3);
    expect(rms / facts.rms_difference_to_true_force).toBeCloseTo(1, 2);
  });

  it.each(Object.entries(history.true_forces))(
    '%s is in turn the force added up over time',
    (name, given) => {
      const facts = given as { trapezoid: number };
      const sum = work(column('door_forces', name), 'integral');
      expect(sum.y.at(-1)! / facts.trapezoid).toBeCloseTo(1, 5);
      expect(sum.up.unit).toBe('N·s');
    },
  );
});
