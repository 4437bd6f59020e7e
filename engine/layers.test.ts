import { describe, expect, it, vi } from 'vitest';
import { withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import { marksOfKind } from '#core/model/mark.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import type { Layer, Scene } from '#core/scene/document.ts';
import { freshLayer } from '#core/scene/read-layer.ts';
import { markOf, valuesOf } from '../tests/marks.ts';
import { importSteps, ovenSteps } from '../tests/sample-run.ts';
import { ArraySource } from './array-source.ts';
import { GeometryMaker } from './geometry-maker.ts';
import { requestsOfLayer } from './layer-requests.ts';
import { SceneSource } from './scene-source.ts';

async function setUp() {
  const { run: stored, store } = await importSteps(ovenSteps());
  const run = withOfferedQuantities(stored);
  const maker = new GeometryMaker(new ArraySource(store.load));
  const source = new SceneSource(run, (request) => maker.make(request));
  const scene = { ...defaultScene(run), layers: [] as Layer[] };
  const field = {
    kind: 'field' as const,
    field: 'point:temperature',
    component: 0 as const,
    scale: 'scale-1',
  };
  const layer = (id: string, more: Partial<Layer> = {}): Layer => ({
    ...freshLayer(run, id),
    colour: field,
    ...more,
  });
  const show = (layers: Layer[], more: Partial<Scene> = {}, step = 2) =>
    source.frame({ ...scene, ...more, layers }, step, 'view');
  return { run, maker, source, scene, layer, show };
}

const section = (offset: number) => ({
  id: 'cut',
  op: 'section',
  options: { normal: [0, 0, 1], offset },
  off: false,
});
const means = (values: Float32Array): number => values.reduce((a, b) => a + b, 0) / values.length;

describe('layers', () => {
  it('follow another layer with their own operations and colours behind it', async () => {
    const { layer, show } = await setUp();
    const lines = { id: 'lines', op: 'edges', options: {}, off: false };
    const layers = [
      layer('a', { chain: [section(0.5)] }),
      layer('b', { from: 'a', parts: null, chain: [lines] }),
    ];
    const frame = await show(layers);
    const [cut, edges] = frame.parts;
    expect(markOf(cut, 'surface').triangles.length).toBeGreaterThan(0);
    expect(markOf(edges, 'line').segments.length).toBeGreaterThan(0);
    for (let i = 2; i < markOf(edges, 'line').positions.length; i += 3)
      expect(markOf(edges, 'line').positions[i]).toBeCloseTo(0.5, 5);
    const moved = await show([{ ...layers[0], chain: [section(0.25)] }, layers[1]]);
    expect(markOf(moved.parts[1], 'line').positions[2]).toBeCloseTo(0.25, 5);
  });

  it('whose source is gone, or is themselves, say so and show nothing', async () => {
    const { layer, show } = await setUp();
    const frame = await show([
      layer('b', { from: 'a' }),
      layer('c', { from: 'd' }),
      layer('d', { from: 'c' }),
    ]);
    expect(frame.parts).toHaveLength(0);
    expect(frame.news.b).toMatchObject({ empty: true, trouble: expect.stringMatching(/is gone/) });
    expect(frame.news.c.trouble).toMatch(/follows itself/);
  });

  it('show a fixed step, or one before the one on show, while the rest goes on', async () => {
    const { layer, show } = await setUp();
    const frame = await show([
      layer('now'),
      layer('first', { time: { kind: 'fixed', step: 0 } }),
      layer('before', { time: { kind: 'later', by: -1 } }),
    ]);
    const [now, first, before] = frame.parts.map((p) => means(valuesOf(p)));
    expect(now - first).toBeCloseTo(20, 3);
    expect(now - before).toBeCloseTo(10, 3);
  });

  it('limited to a set by value change with the step, or stay when it is frozen', async () => {
    const { layer, show } = await setUp();
    const rule = { kind: 'range', field: 'point:temperature', component: 0, low: 30, high: 36 } as const;
    const sets = [
      { name: 'live', rule: { ...rule, when: 'each step' as const } },
      { name: 'frozen', rule: { ...rule, when: 1 } },
    ];
    const counts: (number | undefined)[][] = [];
    for (const step of [0, 1, 2]) {
      const frame = await show([layer('a', { set: 'live' }), layer('b', { set: 'frozen' })], { sets }, step);
      counts.push([frame.news.a.report.kept, frame.news.b.report.kept]);
    }
    expect(new Set(counts.map(([live]) => live)).size).toBe(2);
    expect(new Set(counts.map(([, frozen]) => frozen)).size).toBe(1);
    expect(counts[1][0]).toBe(counts[1][1]);
    const gone = await show([layer('a', { set: 'nothing' })], { sets });
    expect(gone.news.a.trouble).toMatch(/no part set "nothing"/);
  });

  it('read the field of the step on show: isosurfaces and conditions move, a wrong condition is said', async () => {
    const { layer, show } = await setUp();
    const iso = {
      id: 'iso',
      op: 'isosurface',
      options: { field: 'point:temperature', component: 0, levels: { kind: 'list', values: [33] } },
      off: false,
    };
    const heights: number[] = [];
    for (const step of [0, 1]) {
      const frame = await show([layer('a', { chain: [iso] })], {}, step);
      heights.push(marksOfKind(frame.parts[0].shape.marks, 'surface')[0]?.positions.length ?? 0);
      expect(frame.news.a.empty).toBe(step === 0);
    }
    const where = (condition: string) => ({
      id: 'kept',
      op: 'keep-where',
      options: { by: 'condition', condition },
      off: false,
    });
    const hot = await show([layer('a', { chain: [where('temperature > 43')] })]);
    expect(hot.news.a.report).toMatchObject({ of: 64, what: 'cells' });
    const wrong = await show([layer('a', { chain: [where('pressure > 1')] })]);
    expect(wrong.news.a.trouble).toMatch(/"pressure" is not known here/);
  });

  it('bounds hold copies too', async () => {
    const { layer, show } = await setUp();
    const mirror = { id: 'mirror', op: 'mirror', options: { normal: [1, 0, 0], offset: 0 }, off: false };
    const frame = await show([layer('a', { chain: [mirror] })]);
    expect(frame.bounds[0]).toBeCloseTo(-1, 5);
    expect(frame.bounds[1]).toBeCloseTo(1, 5);
  });
});

it('moving the last operation leaves those before it alone', async () => {
  const { run, maker, scene, layer } = await setUp();
  const clip = { id: 'clip', op: 'clip', options: { normal: [1, 0, 0], offset: 0.3 }, off: false };
  const ask = (offset: number) =>
    maker.make(
      requestsOfLayer(layer('a', { chain: [clip, section(offset)] }), scene, run, 0).requests[0].request,
    );
  await ask(0.4);
  const spy = vi.spyOn(maker as never as { source(): unknown }, 'source');
  const moved = await ask(0.45);
  expect(spy).not.toHaveBeenCalled();
  expect(markOf({ shape: moved.shape! }, 'surface').triangles.length).toBeGreaterThan(0);
});
