import { describe, expect, it, vi } from 'vitest';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import { HEXAHEDRON, TETRA } from '#core/model/cell-types.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import { markOf, valuesOf } from '../tests/marks.ts';
import { importSteps, MemoryStore, ovenSteps, temperature } from '../tests/sample-run.ts';
import { hexBlock } from '../tests/vtu-builder.ts';
import { ArraySource } from './array-source.ts';
import { GeometryMaker } from './geometry-maker.ts';
import { SceneSource } from './scene-source.ts';
import { answerJobs, Superseded, WorkerPool, type WorkerPort } from './worker-pool.ts';

describe('importing', () => {
  it('stores a mesh that does not change once, and takes times and units from the files', async () => {
    const { run, store } = await importSteps(ovenSteps());
    expect(run.steps).toEqual([
      { index: 0, time: 0, kind: 'time', number: 1 },
      { index: 1, time: 5, kind: 'time', number: 2 },
      { index: 2, time: 10, kind: 'time', number: 3 },
    ]);
    expect(run).toMatchObject({ timeUnit: 's', lengthUnit: 'm', dimension: 3, warnings: [] });
    expect(run.parts[0].meshes).toHaveLength(1);
    expect(store.arrays.size).toBe(4 + 3);
    expect(run.fields[0]).toMatchObject({
      role: 'temperature',
      unit: '°C',
      overall: { components: [{ min: 20, max: 46 }] },
    });
    expect(run.fields[0].perStep.map((s) => s!.components[0].min)).toEqual([20, 30, 40]);
  });

  it('names what is missing, leaves a damaged step out and goes on', async () => {
    const steps = ovenSteps();
    const mesh = hexBlock(4);
    steps[1].parts.oven = writeVtu(mesh, [], 5);
    steps.push({ time: null, parts: { oven: new Uint8Array(10) } });
    const { run, problems } = await importSteps(steps);
    expect(run.steps).toHaveLength(3);
    expect(problems).toMatchObject([{ file: 'oven_3.vtu', reason: 'the content is of no known format' }]);
    expect(run.warnings).toEqual([
      'temperature is missing in 1 of 3 steps of oven (step 2)',
      expect.stringMatching(/^oven_3\.vtu: .*left out$/),
    ]);
  });

  it('refuses when nothing can be read', async () => {
    await expect(importSteps([{ time: 0, parts: { oven: new Uint8Array(0) } }])).rejects.toThrow(/empty/);
  });

  it('keeps the detail of coordinates far from zero', async () => {
    const mesh = hexBlock(2, 1);
    const far = { ...mesh, points: Float64Array.from(mesh.points, (v) => v + 4_500_000.125) };
    const { run, store } = await importSteps([{ time: 0, parts: { oven: writeVtu(far, []) } }]);
    const points = store.arrays.get(run.parts[0].meshes[0].points.hash)!;
    for (let i = 0; i < points.length; i++)
      expect(points[i] + run.origin[i % 3]).toBeCloseTo(far.points[i], 7);
  });

  it('counts values that are not numbers and leaves them out of the range', async () => {
    const mesh = hexBlock(1);
    const field = temperature(mesh, (x, y) => (x === 0 && y === 0 ? Number.NaN : 5));
    const { run } = await importSteps([{ time: 0, parts: { oven: writeVtu(mesh, [field]) } }]);
    expect(run.fields[0].overall.components[0]).toMatchObject({ min: 5, max: 5, count: 6, nanCount: 2 });
    expect(run.warnings[0]).toMatch(/2 values that are not a number/);
  });
});

describe('frames', () => {
  const setUp = async (steps = ovenSteps()) => {
    const { run, store } = await importSteps(steps);
    const load = vi.fn(store.load);
    const maker = new GeometryMaker(new ArraySource(load));
    const make = vi.fn((request: Parameters<GeometryMaker['make']>[0]) => maker.make(request));
    return { run, load, make, source: new SceneSource(run, make), scene: defaultScene(run) };
  };

  it('replay values for another step without sending the shape again', async () => {
    const { source, scene, make } = await setUp();
    const first = await source.frame(scene, 0, 'view');
    const third = await source.frame(scene, 2, 'view');
    expect(third.parts[0].shape).toBe(first.parts[0].shape);
    expect((await make.mock.results[1].value).shape).toBeNull();
    const { positions } = markOf(first.parts[0], 'surface');
    for (const [frame, rise] of [
      [first, 0],
      [third, 20],
    ] as const) {
      valuesOf(frame.parts[0]).forEach((v, i) => {
        expect(v).toBeCloseTo(
          20 + rise + positions[3 * i] + 2 * positions[3 * i + 1] + 3 * positions[3 * i + 2],
          4,
        );
      });
    }
  });

  it('follow a mesh that changes between steps', async () => {
    const steps = ovenSteps();
    const other = hexBlock(2);
    steps[1].parts.oven = writeVtu(other, [temperature(other, () => 7)], 5);
    const { source, scene } = await setUp(steps);
    const second = await source.frame(scene, 1, 'view');
    expect(markOf(second.parts[0], 'surface').positions.length / 3).toBe(valuesOf(second.parts[0]).length);
    expect(new Set(valuesOf(second.parts[0]))).toEqual(new Set([7]));
  });

  it('show nothing of hidden layers and of parts a scene does not name', async () => {
    const { source, scene } = await setUp();
    expect(
      (await source.frame({ ...scene, layers: scene.layers.map((l) => ({ ...l, visible: false })) }, 0, 'a'))
        .parts,
    ).toEqual([]);
    expect(
      (await source.frame({ ...scene, layers: scene.layers.map((l) => ({ ...l, parts: ['roof'] })) }, 0, 'b'))
        .parts,
    ).toEqual([]);
  });

  it('colour cell by cell where the field is on cells', async () => {
    const mesh = hexBlock(2);
    const data = Float32Array.from({ length: 8 }, (_, i) => i);
    const { source, scene } = await setUp([
      { time: 0, parts: { oven: writeVtu(mesh, [{ name: 'load', location: 'cell', components: 1, data }]) } },
    ]);
    const [part] = (await source.frame(scene, 0, 'view')).parts;
    for (let t = 0; t < markOf(part, 'surface').triangles.length; t += 3) {
      const [a, b, c] = markOf(part, 'surface').triangles.subarray(t, t + 3);
      expect(valuesOf(part)[a]).toBe(valuesOf(part)[b]);
      expect(valuesOf(part)[a]).toBe(valuesOf(part)[c]);
    }
    expect(new Set(valuesOf(part))).toEqual(new Set([0, 1, 2, 3, 4, 5, 6, 7]));
  });
});

it('the array source keeps within its budget and fetches what it dropped again', async () => {
  const store = new MemoryStore();
  const refs = await Promise.all([1, 2, 3].map((n) => store.put(new Float64Array(100).fill(n))));
  const load = vi.fn(store.load);
  const source = new ArraySource(load, 1700);
  for (const i of [0, 1, 0, 2, 0, 1]) expect((await source.get(refs[i]))[5]).toBe(i + 1);
  expect(load.mock.calls.map(([r]) => refs.indexOf(r))).toEqual([0, 1, 2, 1]);
  await expect(
    source.get({ ...refs[0], hash: refs[2].hash, length: 7 }).catch((e) => e),
  ).resolves.toBeDefined();
});

/** A worker that runs in this thread: `sum` adds, `fail` fails, `hang` never answers. */
function fakeWorker(started: string[]): WorkerPort {
  const outer: WorkerPort = {
    postMessage: (m) => queueMicrotask(() => inner.onmessage?.({ data: m })),
    terminate: () => started.push('terminated'),
    onmessage: null,
    onerror: null,
  };
  const inner = {
    postMessage: (m: unknown) => queueMicrotask(() => outer.onmessage?.({ data: m })),
    onmessage: null as WorkerPort['onmessage'],
  };
  answerJobs(inner, async (payload, progress) => {
    const { kind, numbers = [] } = payload as { kind: string; numbers?: number[] };
    started.push(kind);
    if (kind === 'hang') return new Promise(() => undefined);
    if (kind === 'fail') throw Object.assign(new Error('broken'), { where: 'byte 7' });
    progress(0.5);
    return numbers.reduce((a, b) => a + b, 0);
  });
  return outer;
}

describe('the worker pool', () => {
  it('answers, tells progress, and passes errors on with their details', async () => {
    const pool = new WorkerPool(() => fakeWorker([]), 1);
    const seen: number[] = [];
    await expect(
      pool.run({ kind: 'sum', numbers: [1, 2, 3] }, { progress: (p) => seen.push(p) }),
    ).resolves.toBe(6);
    expect(seen).toEqual([0.5]);
    await expect(pool.run({ kind: 'fail' })).rejects.toMatchObject({ message: 'broken', where: 'byte 7' });
  });
  it('lets the latest wish of a slot win', async () => {
    const started: string[] = [];
    const pool = new WorkerPool(() => fakeWorker(started), 1);
    const running = pool.run({ kind: 'sum' }, { slot: 'view' });
    const dropped = pool.run({ kind: 'sum', numbers: [1] }, { slot: 'view' });
    const latest = pool.run({ kind: 'sum', numbers: [2] }, { slot: 'view' });
    await expect(dropped).rejects.toBeInstanceOf(Superseded);
    await expect(Promise.all([running, latest])).resolves.toEqual([0, 2]);
    expect(started).toEqual(['sum', 'sum']);
  });
  it('replaces a worker that is cancelled in the middle, and goes on', async () => {
    const started: string[] = [];
    const pool = new WorkerPool(() => fakeWorker(started), 1);
    const abort = new AbortController();
    const hanging = pool.run({ kind: 'hang' }, { signal: abort.signal });
    const waiting = pool.run({ kind: 'sum', numbers: [4] });
    await new Promise((r) => setTimeout(r, 5));
    abort.abort(new Error('cancelled'));
    await expect(hanging).rejects.toThrow('cancelled');
    await expect(waiting).resolves.toBe(4);
    expect(started).toEqual(['hang', 'terminated', 'sum']);
  });
});

it('cell type ids are those of the file format', () => expect([TETRA, HEXAHEDRON]).toEqual([10, 12]));
