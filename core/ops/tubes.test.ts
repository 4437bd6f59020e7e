import { describe, expect, it } from 'vitest';
import type { MeshField } from '#core/model/field.ts';
import type { Mesh } from '#core/model/mesh.ts';
import { enclosed, hexBlockBetween } from '../../tests/made-solids.ts';
import { ALONG_LINE } from '../fields/sources/along-line.ts';
import { sourceOf } from './chain/chain.ts';
import { lineRuns } from './kernels/line-runs.ts';
import { ribbons } from './ribbons.ts';
import { tubes } from './tubes.ts';

/** Points joined one after the other. */
function lineThrough(places: number[][]): Mesh {
  const n = places.length - 1;
  return {
    points: Float32Array.from(places.flat()),
    types: new Uint8Array(n).fill(3),
    offsets: Uint32Array.from({ length: n + 1 }, (_, i) => 2 * i),
    connectivity: Uint32Array.from({ length: 2 * n }, (_, i) => (i + 1) >> 1),
  };
}

const axis = lineThrough(Array.from({ length: 21 }, (_, i) => [0, 0, i / 10]));

describe('lines with a body', () => {
  it('a straight tube encloses its outline times its length', () => {
    const sides = 12;
    const { mesh, recipe } = tubes.run(sourceOf(axis), { radius: 0.1, sides });
    const outline = 0.5 * sides * 0.1 ** 2 * Math.sin((2 * Math.PI) / sides);
    expect(enclosed(mesh)).toBeCloseTo(2 * outline, 6);
    expect(recipe!.points.index.length).toBe(mesh.points.length / 3);
  });

  it('a bent tube stays as wide everywhere', () => {
    const bent = lineThrough(
      Array.from({ length: 60 }, (_, i) => [Math.cos(i / 10), Math.sin(i / 10), 0.05 * i]),
    );
    const { mesh, recipe } = tubes.run(sourceOf(bent), { radius: 0.03, sides: 8 });
    for (let v = 0; v < recipe!.points.index.length; v++) {
      const q = 3 * recipe!.points.index[v];
      const away = [0, 1, 2].map((k) => mesh.points[3 * v + k] - bent.points[q + k]);
      expect(Math.hypot(...away)).toBeCloseTo(0.03, 5);
    }
  });

  it('points at one place and closed lines do no harm', () => {
    const stuck = lineThrough([
      [0, 0, 0],
      [0, 0, 0],
      [1, 0, 0],
    ]);
    expect(tubes.run(sourceOf(stuck), { radius: 0.1, sides: 4 }).mesh.points.every(Number.isFinite)).toBe(
      true,
    );
    const ring = { ...axis, connectivity: axis.connectivity.slice() };
    ring.connectivity[ring.connectivity.length - 1] = 0;
    const [run] = lineRuns(ring);
    expect(run.points[0]).toBe(run.points[run.points.length - 1]);
  });

  it('where lines branch, runs end', () => {
    const star: Mesh = {
      points: Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1),
      types: Uint8Array.of(3, 3, 3),
      offsets: Uint32Array.of(0, 2, 4, 6),
      connectivity: Uint32Array.of(0, 1, 0, 2, 0, 3),
    };
    expect(lineRuns(star).map((r) => r.points.length)).toEqual([2, 2, 2]);
  });

  it('tells who has no lines', () => {
    expect(tubes.run(sourceOf(hexBlockBetween(2)), { radius: 0.1, sides: 4 }).report!.lacking).toContain(
      'lines',
    );
  });

  it('ribbons turn by half the curl along them', () => {
    // On the axis of a solid rotation at rate 1 that rises with speed 0.5 the curl is 2 along the axis: a turn of 1 rad
    // in a time of 1, which is a way of 0.5.
    const n = axis.points.length / 3;
    const field = (components: number, of: (i: number) => number[]): MeshField => ({
      location: 'point',
      components,
      axial: components === 3,
      data: Float32Array.from(Array.from({ length: n }, (_, i) => of(i)).flat()),
    });
    const piece = sourceOf(axis, {
      origin: [0, 0, 0],
      part: '',
      fields: new Map([
        ['curl:v', field(3, () => [0, 0, 2])],
        [ALONG_LINE.time, field(1, (i) => [i / 10 / 0.5])],
      ]),
    });
    const { mesh } = ribbons.run(piece, { width: 0.2, field: 'v', component: 'magnitude' });
    const direction = (i: number): number =>
      Math.atan2(
        mesh.points[6 * i + 4] - mesh.points[6 * i + 1],
        mesh.points[6 * i + 3] - mesh.points[6 * i],
      );
    const turned = direction(5) - direction(0);
    expect(Math.cos(turned)).toBeCloseTo(Math.cos(1), 4);
    expect(Math.abs(Math.sin(turned))).toBeCloseTo(Math.sin(1), 4);
    const plain = ribbons.run(piece, { width: 0.2, field: '', component: 'magnitude' }).mesh;
    expect(plain.points[3 * 10]).toBeCloseTo(plain.points[0], 5);
  });
});
