import { describe, expect, it } from 'vitest';
import { defaultScene } from '#core/scene/default-scene.ts';
import type { Layer, Scene } from '#core/scene/document.ts';
import { importSteps, ovenSteps } from '../tests/sample-run.ts';
import { hexBlock } from '../tests/vtu-builder.ts';
import { ArraySource } from './array-source.ts';
import { GeometryMaker } from './geometry-maker.ts';
import { pointsOverTime } from './points-over-time.ts';
import { SceneSource } from './scene-source.ts';

const step = (id: string, op: string, options: object): Layer['chain'][number] => ({
  id,
  op,
  options,
  off: false,
});

async function setUp() {
  const { run, store } = await importSteps(ovenSteps());
  const maker = new GeometryMaker(new ArraySource(store.load));
  const source = new SceneSource(run, (request) => maker.make(request));
  const plain = defaultScene(run);
  const [first] = plain.layers;
  const grains: Layer = {
    ...first,
    id: 'grains',
    chain: [step('p', 'points', {}), step('x', 'clip', { shape: 'plane', normal: [1, 0, 0], offset: 0.4 })],
  };
  // A subset of that subset, the other side of a plane; as spheres.
  const some: Layer = {
    ...first,
    id: 'some',
    parts: null,
    from: 'grains',
    chain: [
      step('y', 'clip', { shape: 'plane', normal: [0, 1, 0], offset: 0.6, invert: true }),
      step('s', 'spheres', { radius: 0.02 }),
    ],
  };
  const scene: Scene = { ...plain, layers: [first, grains, some] };
  return { source, scene };
}

/** By a plain loop over the points of the file: how many are kept, and the sum of their temperatures at a step. */
function looped(step: number, kept: (x: number, y: number) => boolean): [number, number] {
  const { points } = hexBlock(4);
  let [count, sum] = [0, 0];
  for (let i = 0; i < points.length; i += 3) {
    const [x, y, z] = points.slice(i, i + 3);
    if (!kept(x, y)) continue;
    count++;
    sum += 20 + 10 * step + x + 2 * y + 3 * z;
  }
  return [count, sum];
}

describe('the points of a line over time', () => {
  it('are counted and summed at every step, of a subset of a subset too', async () => {
    const { source, scene } = await setUp();
    const told: number[] = [];
    const { signal } = new AbortController();
    for (const [layer, kept] of [
      ['grains', (x: number) => x > 0.4],
      ['some', (x: number, y: number) => x > 0.4 && y < 0.6],
    ] as const) {
      const rows = await pointsOverTime(source, scene, layer, (done) => told.push(done), signal);
      expect(rows.map((r) => r.step)).toEqual([0, 1, 2]);
      for (const row of rows) {
        const [count, sum] = looped(row.step, kept);
        expect(count).toBeGreaterThan(20);
        expect(row.points).toBe(count);
        expect(row.values!.sum).toBeCloseTo(sum, 2);
      }
    }
    expect(told.slice(0, 3)).toEqual([1 / 3, 2 / 3, 1]);
  });
  it('are given up in the middle', async () => {
    const { source, scene } = await setUp();
    const work = new AbortController();
    const counting = pointsOverTime(
      source,
      scene,
      'grains',
      () => work.abort(new Error('enough')),
      work.signal,
    );
    await expect(counting).rejects.toThrow('enough');
  });
});
