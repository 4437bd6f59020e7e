import { describe, expect, it } from 'vitest';
import { buildBlocks } from '#core/model/blocks.ts';
import { VERTEX } from '#core/model/cell-types.ts';
import type { MeshField } from '#core/model/field.ts';
import type { Mesh } from '#core/model/mesh.ts';
import { copyOf, weighted } from '#core/model/recipe.ts';
import { ALONG_LINE } from '../fields/sources/along-line.ts';
import { sourceOf } from './chain/chain.ts';
import type { StepsThrough } from './chain/operation.ts';
import { plainContext, Workpiece } from './chain/workpiece.ts';
import { subsetCells } from './kernels/subset-cells.ts';
import { type TrailOptions, trails } from './trails.ts';

interface Grain {
  id: number;
  place: number[];
}

const pointsOf = (grains: Grain[]): Mesh => ({
  points: Float32Array.from(grains.flatMap((g) => g.place)),
  types: new Uint8Array(grains.length).fill(VERTEX),
  offsets: Uint32Array.from({ length: grains.length + 1 }, (_, i) => i),
  connectivity: Uint32Array.from(grains.keys()),
});

const numbers = (values: number[]): MeshField => ({
  location: 'point',
  components: 1,
  axial: false,
  data: Float64Array.from(values),
});

const times = [0, 0.5, 1, 2];

/** Grain k goes along x with speed k; at each step the list is turned round, and some are not there. */
function grainsAt(step: number): Grain[] {
  const all = [1, 2, 3, 4, 5]
    .filter((id) => !(id === 2 && step === 1) && !(id === 5 && step < 2))
    .map((id) => ({ id, place: [id * times[step], id, 0] }));
  return step % 2 === 1 ? all.reverse() : all;
}

function gone(
  grains: (step: number) => Grain[],
  more: Partial<TrailOptions> = {},
  shown = 3,
  kept?: Grain[] | Workpiece,
) {
  const steps: StepsThrough = {
    times,
    shown,
    at: async (step) => {
      const mesh = pointsOf(grains(step));
      const blocks = buildBlocks(mesh);
      const fields: Record<string, MeshField> = {
        id: numbers(grains(step).map((g) => g.id)),
        warmth: numbers(grains(step).map((g) => 100 * step + g.id)),
      };
      return { mesh, blocks: () => blocks, field: (key) => fields[key] ?? null };
    },
  };
  const now = Array.isArray(kept) ? kept : grains(shown);
  const piece =
    kept instanceof Workpiece
      ? kept
      : sourceOf(pointsOf(now), {
          origin: [0, 0, 0],
          part: 'flour',
          fields: new Map([['id', numbers(now.map((g) => g.id))]]),
        });
  return trails.runThrough!(piece, trails.schema.parse({ field: 'id', ...more }), steps);
}

const whatIsKept = (mesh: Mesh, points: number[]): Workpiece =>
  sourceOf(mesh, plainContext()).derive(subsetCells(mesh, Uint32Array.from(points)));

/** Places of each trail, one after the other. */
async function placesOf(made: ReturnType<typeof gone>): Promise<Record<number, number[][]>> {
  const { mesh, made: known } = await made;
  const out: Record<number, number[][]> = {};
  for (const [i, n] of known![ALONG_LINE.number].entries())
    (out[n] ??= []).push([...mesh.points.subarray(3 * i, 3 * i + 3)]);
  return out;
}

describe('trails', () => {
  it('link points by their number, though their order and how many there are change', async () => {
    const all = Object.values(await placesOf(gone(grainsAt)));
    expect(all.length).toBe(5);
    for (const trail of all) {
      const id = trail[0][1];
      // A trail has one place for each step at which the grain is there, on its straight way.
      expect(trail.map(([x]) => x)).toEqual(
        times.flatMap((t, step) => (grainsAt(step).some((g) => g.id === id) ? [id * t] : [])),
      );
    }
  });
  it('know times, lengths and what was met at each step', async () => {
    const { made, report } = await gone(grainsAt, { shows: { field: 'warmth', component: 0 } });
    const [time, length, met] = [ALONG_LINE.time, ALONG_LINE.length, 'warmth#0'].map((key) => made![key]);
    expect(report).toMatchObject({ kept: 5, of: 5 });
    // By hand: the list comes in turned round; grain 5 is there from 1 s on, grain 4 all the time.
    expect([...time.subarray(0, 6)]).toEqual([0, 1, 0, 0.5, 1, 2]);
    expect([...length.subarray(0, 6)]).toEqual([0, 5, 0, 2, 4, 8]);
    expect(new Set([...met].map((v) => Math.floor(v / 100)))).toEqual(new Set([0, 1, 2, 3]));
  });
  it('tell numbers apart that single precision does not', async () => {
    const many = (step: number): Grain[] => [0, 1].map((k) => ({ id: 2 ** 24 + k, place: [step, 5 * k, 0] }));
    const found = Object.values(await placesOf(gone(many)));
    expect(found.map((t) => new Set(t.map(([, y]) => y)).size)).toEqual([1, 1]);
  });
  it('are left by what moves', async () => {
    const one = (step: number): Grain[] => [
      { id: 1, place: [0, 0, 0] },
      { id: 2, place: [step, 0, 0] },
    ];
    const { report, made } = await gone(one);
    expect(report).toMatchObject({ kept: 1, of: 2 });
    expect(made![ALONG_LINE.time].length).toBe(4);
  });
  it('go back so many steps, and are those of the points that come in', async () => {
    const last = Object.values(await placesOf(gone(grainsAt, { steps: 1 })));
    expect(last.map((t) => t.length)).toEqual([2, 2, 2, 2, 2]);
    const chosen = grainsAt(3).filter((g) => g.id === 3);
    const [only, ...none] = Object.values(await placesOf(gone(grainsAt, {}, 3, chosen)));
    expect(none).toEqual([]);
    expect(only.every(([, y]) => y === 3)).toBe(true);
  });
  it('break where a point comes back in on the other side', async () => {
    const wrapped = (step: number): Grain[] => [{ id: 1, place: [[0.2, 0.6, 0.1, 0.5][step], 0, 0] }];
    const across = Object.values(await placesOf(gone(wrapped)));
    expect(across[0].length).toBe(4);
    const broken = Object.values(await placesOf(gone(wrapped, { jump: 0.45 })));
    expect(broken.map((t) => t.map(([x]) => Number(x.toFixed(3))))).toEqual([[0.1, 0.5]]);
  });
  it('by their order are those of the points that come in, wherever these stand in what comes in', async () => {
    const steady = (step: number): Grain[] => [1, 2, 3, 4].map((id) => ({ id, place: [step, id, 0] }));
    const kept = whatIsKept(pointsOf(steady(3)), [1, 3]);
    const trailsOf = Object.values(await placesOf(gone(steady, { field: '' }, 3, kept)));
    expect(trailsOf.map((t) => t.map(([x, y]) => [x, y]))).toEqual(
      [2, 4].map((id) => [0, 1, 2, 3].map((x) => [x, id])),
    );
  });
  it('by their order are none of points that lie between those of the file', async () => {
    const steady = (step: number): Grain[] => [1, 2].map((id) => ({ id, place: [step, id, 0] }));
    const piece = sourceOf(pointsOf(steady(3)), plainContext());
    const between = piece.derive({
      mesh: pointsOf([{ id: 0, place: [3, 1.5, 0] }]),
      recipe: {
        points: weighted(2, Uint32Array.of(0, 1), Float32Array.of(0.5, 0.5)),
        cells: copyOf(Uint32Array.of(0)),
      },
    });
    expect((await gone(steady, { field: '' }, 3, between)).report!.lacking).toMatch(/order they came in/);
  });
  it('by their order need as many at each step, and say so', async () => {
    const steady = (step: number): Grain[] => [1, 2].map((id) => ({ id, place: [step, id, 0] }));
    expect(Object.values(await placesOf(gone(steady, { field: '' }))).map((t) => t.length)).toEqual([4, 4]);
    expect((await gone(grainsAt, { field: '' })).report!.lacking).toMatch(
      /^order that stays: there are 4 points at one step and 3 at another/,
    );
    expect((await gone(grainsAt, { field: 'gone' })).report!.lacking).toMatch(/choose another quantity/);
    expect((await gone(grainsAt, {}, 0)).report!.lacking).toMatch(/earlier step/);
  });
});
