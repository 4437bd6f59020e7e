import { describe, expect, it } from 'vitest';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import { stepOfMoment } from '#core/model/moment.ts';
import { sayStep } from '#core/motion/step-text.ts';
import { chartDrawn } from '#core/scene/charts/chart-drawn.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import type { Layer, Scene } from '#core/scene/document.ts';
import { saidInPicture } from '#core/scene/said-in-picture.ts';
import { markOf, valuesOf } from '../tests/marks.ts';
import { importSteps, ovenSteps, type SampleStep, temperature } from '../tests/sample-run.ts';
import { hexBlock } from '../tests/vtu-builder.ts';
import { ArraySource } from './array-source.ts';
import { GeometryMaker } from './geometry-maker.ts';
import { SceneSource } from './scene-source.ts';

async function opened(steps: SampleStep[]) {
  const { run, store } = await importSteps(steps);
  const maker = new GeometryMaker(new ArraySource(store.load));
  const source = new SceneSource(run, (request) => maker.make(request));
  const plain = defaultScene(run);
  const shown = (of: Scene, step: number, onward: number) =>
    source.frame({ ...of, step, onward }, step, 'view').then((frame) => frame.parts[0]);
  return { run, plain, shown };
}

const withChain = (scene: Scene, ...chain: { op: string; options: object }[]): Scene => ({
  ...scene,
  layers: [
    { ...scene.layers[0], chain: chain.map((step, i) => ({ ...step, id: `step-${i}`, off: false })) },
  ] as Layer[],
});

/** A block moved by so much along x; `cells` along each side. */
function movedBlock(by: number, cells = 2, numbers: number[] | null = null): Uint8Array {
  const mesh = hexBlock(cells);
  const points = mesh.points.map((v, i) => (i % 3 === 0 ? v + by : v));
  const named = numbers
    ? [
        {
          name: 'id',
          location: 'point' as const,
          components: 1,
          unit: null,
          data: Float32Array.from(numbers),
        },
      ]
    : [];
  return writeVtu({ ...mesh, points }, [temperature(mesh, () => 20 + by), ...named], by);
}

const ends = (bounds: readonly number[]) => [bounds[0], bounds[1]].map((v) => Number(v.toFixed(6)));

describe('between two steps', () => {
  it('values go straight from what they are at the one to what they are at the other, on one shape', async () => {
    const { plain, shown } = await opened(ovenSteps());
    const [first, quarter, second] = [
      await shown(plain, 0, 0),
      await shown(plain, 0, 0.25),
      await shown(plain, 1, 0),
    ];
    expect(quarter.shape).toBe(first.shape);
    const [a, between, b] = [first, quarter, second].map(valuesOf);
    // The temperature rises by ten each step, everywhere.
    for (const [v, value] of between.entries()) {
      expect(value).toBeCloseTo(a[v] + 2.5, 4);
      expect(b[v] - a[v]).toBeCloseTo(10, 4);
    }
    // Behind the last step there is nothing to go on to.
    expect(valuesOf(await shown(plain, 2, 0.5))).toEqual(valuesOf(await shown(plain, 2, 0)));
  });

  it('isosurfaces stand where the values between have their level', async () => {
    const { plain, shown } = await opened(ovenSteps());
    const iso = withChain(plain, {
      op: 'isosurface',
      options: { field: 'point:temperature', component: 0, levels: { kind: 'list', values: [26] } },
    });
    // 20 + 10 n + x + 2 y + 3 z = 26: a plane that moves against its normal as n goes on.
    for (const onward of [0.1, 0.3, 0.5]) {
      const { positions: points } = markOf(await shown(iso, 0, onward), 'surface');
      expect(points.length).toBeGreaterThan(9);
      for (let i = 0; i < points.length; i += 3)
        expect(points[i] + 2 * points[i + 1] + 3 * points[i + 2]).toBeCloseTo(6 - 10 * onward, 3);
    }
  });

  it('formulas are made of what is between, not mixed of what they are at the ends', async () => {
    const { plain, shown } = await opened(ovenSteps());
    const squared: Scene = {
      ...plain,
      quantities: [{ id: 'q', name: 'square', formula: 'temperature^2' }],
      layers: plain.layers,
    };
    const { run } = await opened(ovenSteps());
    expect(run.steps).toHaveLength(3);
    const plainValues = valuesOf(await shown(squared, 0, 0.5));
    const layer = { ...squared.layers[0] };
    const field = { ...(layer.colour as { field: string }), field: 'formula:temperature^2', component: 0 };
    const of: Scene = { ...squared, layers: [{ ...layer, colour: field as Layer['colour'] }] };
    const values = valuesOf(await shown(of, 0, 0.5));
    for (const [v, value] of values.entries()) expect(value).toBeCloseTo(plainValues[v] ** 2, 1);
  });

  it('bodies that move are on their way, as long as they keep their points and cells', async () => {
    const moving = [0, 1].map((by) => ({ time: by, parts: { block: movedBlock(by) } }));
    const { plain, shown } = await opened(moving);
    const bare = withChain(plain);
    expect(ends((await shown(bare, 0, 0)).shape.bounds)).toEqual([0, 1]);
    expect(ends((await shown(bare, 0, 0.25)).shape.bounds)).toEqual([0.25, 1.25]);
    expect(ends((await shown(bare, 1, 0)).shape.bounds)).toEqual([1, 2]);
    expect(valuesOf(await shown(bare, 0, 0.25))[0]).toBeCloseTo(20.25, 5);
  });

  it('bodies with other cells at the next step stay as they are until then', async () => {
    const remeshed = [0, 1].map((by) => ({ time: by, parts: { block: movedBlock(by, 2 + by) } }));
    const { plain, shown } = await opened(remeshed);
    const bare = withChain(plain);
    expect(ends((await shown(bare, 0, 0.75)).shape.bounds)).toEqual([0, 1]);
    expect(valuesOf(await shown(bare, 0, 0.75))[0]).toBeCloseTo(20, 5);
  });

  it('points that change places in their list are not mixed up', async () => {
    const there = Array.from({ length: 27 }, (_, i) => i);
    const turned = [...there].reverse();
    const with_ = (numbers: number[]) =>
      [0, 1].map((by) => ({ time: by, parts: { block: movedBlock(by, 2, by === 0 ? there : numbers) } }));
    const same = await opened(with_(there));
    expect(ends((await same.shown(withChain(same.plain), 0, 0.5)).shape.bounds)).toEqual([0.5, 1.5]);
    const other = await opened(with_(turned));
    expect(ends((await other.shown(withChain(other.plain), 0, 0.5)).shape.bounds)).toEqual([0, 1]);
  });

  it('lines that show a step of their own keep to it', async () => {
    const { plain, shown } = await opened(ovenSteps());
    const fixed: Scene = { ...plain, layers: [{ ...plain.layers[0], time: { kind: 'fixed', step: 1 } }] };
    expect(valuesOf(await shown(fixed, 0, 0.5))).toEqual(valuesOf(await shown(plain, 1, 0)));
  });

  it('the picture says the time between, and that it was made', async () => {
    const { run, plain } = await opened(ovenSteps());
    const scene: Scene = { ...plain, step: 1, onward: 0.5 };
    expect(sayStep(stepOfMoment(run, scene), run.timeUnit, { ...scene.stamp, decimals: 1 })).toBe(
      't = 7.5 s',
    );
    expect(saidInPicture(scene, run)).toContain('made between two steps');
    expect(saidInPicture(plain, run)).not.toContain('made between two steps');
    const chart = { id: 'c', curves: [], now: true } as never;
    expect(chartDrawn(chart, {}, scene, run, 1).now).toBe(7.5);
  });
});
