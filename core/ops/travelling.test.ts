import { describe, expect, it } from 'vitest';
import type { Mesh } from '#core/model/mesh.ts';
import { enclosed } from '../../tests/made-solids.ts';
import { ALONG_LINE } from '../fields/sources/along-line.ts';
import { sourceOf } from './chain/chain.ts';
import { Workpiece } from './chain/workpiece.ts';
import { piecesAlong } from './kernels/cut-along.ts';
import { type TravellingOptions, travelling } from './travelling.ts';

const along = (n: number, place: (i: number) => number[]): Mesh => ({
  points: Float32Array.from(Array.from({ length: n + 1 }, (_, i) => place(i)).flat()),
  types: new Uint8Array(n).fill(3),
  offsets: Uint32Array.from({ length: n + 1 }, (_, i) => 2 * i),
  connectivity: Uint32Array.from({ length: 2 * n }, (_, i) => (i + 1) >> 1),
});
/** Ten units along x. */
const straight = along(40, (i) => [i / 4, 0, 0]);
const usual: TravellingOptions = { form: 'dashes', by: 'length', every: 2, size: 0.5, radius: 0.1, on: 0 };
const xs = ({ points }: Mesh): number[] => Array.from(points).filter((_, i) => i % 3 === 0);
const total = ({ points, connectivity }: Mesh): number => {
  let sum = 0;
  for (let i = 0; i < connectivity.length; i += 2) {
    const [a, b] = [3 * connectivity[i], 3 * connectivity[i + 1]];
    sum += Math.hypot(points[b] - points[a], points[b + 1] - points[a + 1], points[b + 2] - points[a + 2]);
  }
  return sum;
};

/** A line that knows the travel time of each of its points. */
const timed = (mesh: Mesh, time: (x: number) => number) =>
  Workpiece.source(mesh).followedBy(
    () => ({
      mesh,
      recipe: null,
      made: { [ALONG_LINE.time]: Float32Array.from(xs(mesh), time) },
    }),
    1,
    null,
  );

describe('marks that travel along lines', () => {
  it('are as long and as far apart as asked', () => {
    const { mesh, recipe } = travelling.run(sourceOf(straight), usual);
    // They begin at 0, 2, ... 8, and one has just come to the end.
    expect(total(mesh)).toBeCloseTo(5 * 0.5, 5);
    expect(recipe!.points.weight).toHaveLength((2 * mesh.points.length) / 3);
    const moved = travelling.run(sourceOf(straight), { ...usual, on: 0.9 }).mesh;
    expect(Math.min(...xs(moved))).toBeCloseTo(0, 6);
    // From 1.8 on, every 2; that from -0.2 has its rest at the beginning, that from 9.8 its front at the end.
    expect(total(moved)).toBeCloseTo(0.3 + 4 * 0.5 + 0.2, 5);
  });
  it('come in one cycle to where the next ones were', () => {
    const begin = travelling.run(sourceOf(straight), { ...usual, form: 'beads' }).mesh;
    const end = travelling.run(sourceOf(straight), { ...usual, form: 'beads', on: 1 }).mesh;
    expect(xs(begin)).toEqual([0, 2, 4, 6, 8, 10]);
    expect(xs(end)).toEqual(xs(begin));
    const half = travelling.run(sourceOf(straight), { ...usual, form: 'beads', on: 0.5 });
    expect(xs(half.mesh)).toEqual([1, 3, 5, 7, 9]);
    expect(half.spheres).toEqual({ radius: 0.1, radii: null, onPicture: false });
  });
  it('by time are where the flow takes them: far apart where it is fast', () => {
    // x = t² / 4: the flow gets faster all the way.
    const line = timed(straight, (x) => 2 * Math.sqrt(x));
    const { mesh } = travelling.run(line, { ...usual, form: 'beads', by: 'time', every: 1, on: 0.5 });
    for (const [k, x] of xs(mesh).entries()) {
      const t = 0.5 + k;
      // Straight between points that are a quarter apart.
      expect(Math.abs(x - t ** 2 / 4)).toBeLessThan(0.07);
    }
    expect(xs(mesh)).toHaveLength(6);
  });
  it('run the way of the flow, also on lines that are written the other way round', () => {
    const against = timed(straight, (x) => 10 - x);
    const { mesh } = travelling.run(against, { ...usual, form: 'beads', every: 20, on: 0.1 });
    expect(xs(mesh)).toEqual([8]);
  });
  it('as comets grow towards their heads and are closed bodies', () => {
    const { mesh } = travelling.run(sourceOf(straight), { ...usual, form: 'comets', every: 5, size: 2 });
    const cone = (8 * Math.sin(Math.PI / 4) * 0.5 * 0.1 ** 2 * 2) / 3;
    // At 0 and at 5; that at 10 has not begun.
    expect(enclosed(mesh)).toBeCloseTo(2 * cone, 3);
    const radius = (x: number): number =>
      Math.max(
        ...xs(mesh).map((v, i) =>
          Math.abs(v - x) < 1e-5 ? Math.hypot(mesh.points[3 * i + 1], mesh.points[3 * i + 2]) : 0,
        ),
      );
    expect(radius(1)).toBeCloseTo(0.05, 5);
    expect(radius(2)).toBeCloseTo(0.1, 5);
  });
  it('say what they lack', () => {
    const said = (input: Workpiece, by: 'length' | 'time') =>
      travelling.run(input, { ...usual, by }).report?.lacking;
    expect(said(sourceOf(straight), 'time')).toMatch(/let them travel by length/);
    const point = {
      ...straight,
      types: new Uint8Array(1).fill(1),
      offsets: Uint32Array.of(0, 1),
      connectivity: Uint32Array.of(0),
    };
    expect(said(sourceOf(point), 'length')).toMatch(/a step that makes lines/);
  });
  it('pieces overlap where they are longer than their distance', () => {
    const line = { along: Float64Array.of(0, 10) };
    expect(piecesAlong(line, { every: 4, size: 6, offset: 0 })).toEqual([
      { from: 0, to: 2, whole: -4 },
      { from: 0, to: 6, whole: 0 },
      { from: 4, to: 10, whole: 4 },
      { from: 8, to: 10, whole: 8 },
    ]);
    expect(piecesAlong(line, { every: 100, size: 1, offset: 50 })).toEqual([]);
  });
});
