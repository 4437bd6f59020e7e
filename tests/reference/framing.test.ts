import { describe, expect, it } from 'vitest';
import type { NumberArray } from '#core/model/arrays.ts';
import { marksOfKind } from '#core/model/mark.ts';
import type { Vector } from '#core/model/vectors.ts';
import { cameraAxes, freeRoom, projectPoint, viewDirections } from '#core/scene/camera.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import type { Scene } from '#core/scene/document.ts';
import { legend as legendThing } from '#core/scene/things/legend.ts';
import { type Body, bestDirection, frameBodies } from '#core/scene/view-choice.ts';
import { ArraySource } from '#engine/array-source.ts';
import { GeometryMaker } from '#engine/geometry-maker.ts';
import { openingScene } from '#engine/opening-scene.ts';
import { SceneSource } from '#engine/scene-source.ts';
import { seeded } from '../made-solids.ts';
import { readRuns } from '../read-run.ts';

const ASPECT = 1.36;
/** Width of the strip at the right in which legends stand, as a share of the picture. */
const STRIP = 0.19 / ASPECT;

/** How far points reach in the picture: left, right, top, bottom. */
function reach(camera: Scene['camera'], positions: Iterable<Vector>): number[] {
  const out = [Infinity, -Infinity, Infinity, -Infinity];
  for (const p of positions) {
    const { x, y, depth } = projectPoint(camera, p, ASPECT);
    expect(depth).toBeGreaterThan(0);
    out[0] = Math.min(out[0], x);
    out[1] = Math.max(out[1], x);
    out[2] = Math.min(out[2], y);
    out[3] = Math.max(out[3], y);
  }
  return out;
}

function* points(all: Float32Array, origin: ArrayLike<number> = [0, 0, 0]): Generator<Vector> {
  for (let i = 0; i < all.length; i += 3)
    yield [all[i] + origin[0], all[i + 1] + origin[1], all[i + 2] + origin[2]];
}

/** The body fills 55 to 80 % of what the legend leaves free, to one side or the other, and stays clear of it. */
function expectFramed([left, right, top, bottom]: number[], legend: boolean): void {
  const free = legend ? 1 - STRIP : 1;
  const filled = Math.max((right - left) / free, bottom - top);
  expect(filled).toBeGreaterThan(0.55);
  expect(filled).toBeLessThan(0.8);
  if (legend) expect(right).toBeLessThan(1 - STRIP + 1e-6);
}

/** A ball, box or ring of triangles, stretched, turned and moved as chance has it. */
function madeBody(seed: number): Body {
  const random = seeded(seed);
  const size = [0, 1, 2].map(() => 10 ** (random() * 2 - 1));
  const offset = [0, 1, 2].map(() => 20 * random() - 10);
  const turn = random() * Math.PI;
  const kind = seed % 3;
  const [n, m] = [24, 12];
  const positions: number[] = [];
  for (let j = 0; j <= m; j++)
    for (let i = 0; i <= n; i++) {
      const [u, v] = [(2 * Math.PI * i) / n, (Math.PI * j) / m - Math.PI / 2];
      const round: Vector = [Math.cos(u) * Math.cos(v), Math.sin(u) * Math.cos(v), Math.sin(v)];
      const most = Math.max(...round.map(Math.abs));
      const ring = 1 + 0.4 * Math.cos(2 * v);
      const made =
        kind === 0
          ? round
          : kind === 1
            ? round.map((c) => c / most)
            : [ring * Math.cos(u), ring * Math.sin(u), 0.4 * Math.sin(2 * v)];
      const [x, y, z] = made.map((c, k) => c * size[k]);
      const [c, s] = [Math.cos(turn), Math.sin(turn)];
      positions.push(c * x - s * y + offset[0], s * x + c * y + offset[1], z + offset[2]);
    }
  const triangles: number[] = [];
  for (let j = 0; j < m; j++)
    for (let i = 0; i < n; i++) {
      const a = j * (n + 1) + i;
      triangles.push(a, a + 1, a + n + 2, a, a + n + 2, a + n + 1);
    }
  const p = Float32Array.from(positions);
  return { positions: p, triangles: Uint32Array.from(triangles), weight: 1, sides: 'both' };
}

describe('the first view', () => {
  it.each(Array.from({ length: 40 }, (_, i) => i + 1))(
    'frames made body %i, with and without a legend',
    (seed) => {
      const body = madeBody(seed);
      const legend = legendThing.plain;
      for (const scales of [[], [{ legend }]])
        for (const projection of ['perspective', 'parallel'] as const) {
          const room = freeRoom(scales, ASPECT);
          const camera = frameBodies([body], bestDirection([body]), [0, 0, 1], ASPECT, room, {
            projection,
            fieldOfView: 28,
          });
          expectFramed(reach(camera, points(body.positions)), scales.length > 0);
        }
    },
  );

  it('goes to the side from which a coloured part within an open box is seen', () => {
    // A wall with a plate behind it, seen from -y only the wall.
    const square = (y: number, half: number, weight: number): Body => ({
      positions: Float32Array.of(-half, y, -half, half, y, -half, half, y, half, -half, y, half),
      triangles: Uint32Array.of(0, 1, 2, 0, 2, 3),
      weight,
      sides: 'both',
    });
    expect(bestDirection([square(0, 1, 0.35), square(0.2, 0.9, 1)])[1]).toBeGreaterThan(0);
    expect(bestDirection([square(0, 1, 1), square(0.2, 0.9, 0.35)])[1]).toBeLessThan(0);
    // Where nothing hides anything, it is the usual view.
    expect(bestDirection([square(0, 1, 1)])).toEqual([...viewDirections.oblique.from]);
    // An open shell is looked into: from behind, the wall would hide the plate.
    const shell = { ...square(0, 1, 0.35), sides: 'inside' as const };
    expect(bestDirection([shell, square(0.2, 0.9, 1), square(0.4, 1, 0.35)])[1]).toBeLessThan(0);
  });

  it.each([
    ['the cavity', ['tests/fixtures/cavity/cavity.pvd']],
    ['the shelf', ['tests/fixtures/shelf/shelf.vtu']],
    ['a case of the family', ['tests/fixtures/family/case_01.vtu']],
    ['polyhedral ducts', ['tests/fixtures/formats/ducts-polyhedral.cgns']],
    ['structured ducts', ['tests/fixtures/formats/ducts-structured.cgns']],
    ['atoms', ['tests/fixtures/formats/atoms.xyz']],
    ['bricks', ['tests/fixtures/formats/bricks-41.msh']],
  ])('frames %s as it opens', async (_, paths) => {
    const read = await readRuns(paths);
    const load = async (ref: { hash: string }): Promise<ArrayBuffer> => {
      const data = read.array(ref as never) as NumberArray;
      return data.buffer.slice(data.byteOffset, data.byteOffset + data.byteLength) as ArrayBuffer;
    };
    const arrays = new ArraySource(load);
    const { run, scene } = await openingScene(read.runs[0], arrays);
    const maker = new GeometryMaker(arrays);
    const frame = await new SceneSource(run, (r) => maker.make(r)).frame(scene, scene.step, 'test');
    const all: Vector[] = [];
    for (const { shape } of frame.parts)
      for (const kind of ['surface', 'line', 'dot'] as const)
        for (const { positions } of marksOfKind(shape.marks, kind))
          all.push(...points(positions, run.origin));
    expect(all.length).toBeGreaterThan(3);
    expectFramed(
      reach(scene.camera, all),
      scene.scales.some((s) => s.legend.visible),
    );
    // What it is coloured by is on a scale of its middle values, or of all where none stick out.
    if (scene.scales.length > 0) expect(run.shares![scene.scales[0].quantity].length).toBeGreaterThan(1);
    // Flat runs are looked at face on.
    const { back } = cameraAxes(scene.camera);
    expect(Math.max(...back.map(Math.abs)) > 0.999).toBe(run.dimension < 3);
  });

  it('leaves out the one hot cell, and nothing where values are evenly spread', async () => {
    const { runs } = await readRuns(['tests/fixtures/shelf/shelf.vtu']);
    const quantity = defaultScene(runs[0]).scales[0].quantity;
    const even = Array.from({ length: 101 }, (_, i) => i);
    const hot = even.map((v) => (v === 100 ? 5000 : v));
    expect(defaultScene({ ...runs[0], shares: { [quantity]: even } }).scales[0].range.kind).toBe('all-steps');
    expect(defaultScene({ ...runs[0], shares: { [quantity]: hot } }).scales[0].range.kind).toBe('middle');
  });
});
