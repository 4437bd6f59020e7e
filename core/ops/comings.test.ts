import { describe, expect, it } from 'vitest';
import type { MeshField } from '#core/model/field.ts';
import { sourceOf } from './chain/chain.ts';
import type { StepsThrough } from './chain/operation.ts';
import type { Workpiece } from './chain/workpiece.ts';
import { arrivals, type ComingsOptions, departures } from './comings.ts';
import { loneCells } from './kernels/points-alone.ts';
import { subsetCells } from './kernels/subset-cells.ts';

/** Grains by their numbers, with the x of each; the list is turned round at odd steps. */
const ways: Record<number, number>[] = [
  { 1: 0.1, 2: 0.9, 3: 0.2 },
  { 1: 0.6, 2: 0.8, 3: 0.3, 4: 0.7 },
  { 1: 0.7, 3: 0.9, 4: 0.2 },
];
const numbersAt = (step: number): number[] => {
  const all = Object.keys(ways[step]).map(Number);
  return step % 2 === 1 ? all.reverse() : all;
};
const numbers = (values: number[]): MeshField => ({
  location: 'point',
  components: 1,
  axial: false,
  data: Float64Array.from(values),
});
const meshAt = (step: number) =>
  loneCells(Float32Array.from(numbersAt(step).flatMap((id) => [ways[step][id], id, 0])));
const fieldsAt = (step: number): Map<string, MeshField> =>
  new Map([
    ['id', numbers(numbersAt(step))],
    ['warmth', numbers(numbersAt(step).map((id) => 10 * step + id))],
  ]);
const pieceAt = (step: number): Workpiece =>
  sourceOf(meshAt(step), { origin: [0, 0, 0], part: 'flour', fields: fieldsAt(step) });

async function made(
  of: typeof arrivals,
  step: number,
  more: Partial<ComingsOptions> = {},
  piece: Workpiece = pieceAt(step),
) {
  const steps: StepsThrough = {
    times: [0, 1, 2],
    shown: step,
    at: async (index) => ({
      mesh: meshAt(index),
      blocks: piece.blocks,
      field: (key) => fieldsAt(index).get(key) ?? null,
    }),
  };
  const result = await of.runThrough!(
    piece,
    of.schema.parse({ condition: 'x > 0.5', field: 'id', ...more }),
    steps,
  );
  const end = piece.followedBy(() => result, 0, null, false);
  const warmth = end.field({ field: 'warmth' });
  return {
    // The second coordinate is the number of the grain.
    who: Array.from({ length: result.mesh.points.length / 3 }, (_, i) => result.mesh.points[3 * i + 1]),
    x: Array.from({ length: result.mesh.points.length / 3 }, (_, i) => result.mesh.points[3 * i]),
    warmth: warmth && Array.from(warmth.data),
    report: result.report,
  };
}

describe('arrivals and departures', () => {
  it('are those that came into a region since the step before, or are there for the first time', async () => {
    expect((await made(arrivals, 1)).who.sort()).toEqual([1, 4]);
    expect(await made(arrivals, 2)).toMatchObject({ who: [3], warmth: [23] });
  });

  it('are those that left it, where they are now; what is gone is where it was last, without values', async () => {
    expect((await made(departures, 1)).who).toEqual([]);
    const left = await made(departures, 2);
    const of = (id: number) => [left.x, left.warmth!].map((list) => list[left.who.indexOf(id)]);
    expect(left.who.toSorted()).toEqual([2, 4]);
    expect(of(4)[0]).toBeCloseTo(0.2, 6);
    expect(of(4)[1]).toBe(24);
    expect(of(2)[0]).toBeCloseTo(0.8, 6);
    expect(of(2)[1]).toBeNaN();
  });

  it('balance: what is within is what was within, with what came and without what left', async () => {
    const within = (step: number) => Object.values(ways[step]).filter((x) => x > 0.5).length;
    for (const step of [1, 2]) {
      const [came, left] = [await made(arrivals, step), await made(departures, step)];
      expect(within(step)).toBe(within(step - 1) + came.who.length - left.who.length);
    }
  });

  it('are of what was kept of the points', async () => {
    const kept = pieceAt(1).derive(subsetCells(meshAt(1), Uint32Array.from([numbersAt(1).indexOf(4)])));
    expect((await made(arrivals, 1, {}, kept)).who).toEqual([4]);
  });

  it('are known by their order where it stays, and refused where it does not', async () => {
    const lost = await made(arrivals, 1, { field: '' });
    expect(lost.report?.lacking).toMatch(/there are 3 points at one step and 4 at another/);
    const none = await made(arrivals, 1, { field: 'warm' });
    expect(none.report?.lacking).toMatch(/tells which is which/);
    expect((await made(arrivals, 0)).report?.lacking).toMatch(/at the first one nothing has come/);
  });

  it('take any condition, on fields as well', async () => {
    const names = { warmth: { need: { field: 'warmth' }, unit: null } };
    // 1, 2, 3 are warmer than 10 at step 1, 4 is new.
    expect((await made(arrivals, 1, { condition: 'warmth > 10', names })).who.sort()).toEqual([1, 2, 3, 4]);
    expect((await made(arrivals, 2, { condition: 'warmth > 10', names })).who).toEqual([]);
  });
});
