import { describe, expect, it, vi } from 'vitest';
import { defaultScene } from '#core/scene/default-scene.ts';
import type { Scene } from '#core/scene/document.ts';
import { markOf, valuesOf } from '../tests/marks.ts';
import { importSteps, ovenSteps } from '../tests/sample-run.ts';
import { ArraySource } from './array-source.ts';
import { type GeometryAnswer, GeometryMaker, type GeometryRequest } from './geometry-maker.ts';
import { SceneSource } from './scene-source.ts';

async function setUp() {
  const { run, store } = await importSteps(ovenSteps());
  const load = vi.fn(store.load);
  const maker = new GeometryMaker(new ArraySource(load));
  const asked: { request: GeometryRequest; slot: string }[] = [];
  const make = async (request: GeometryRequest, slot: string): Promise<GeometryAnswer> => {
    asked.push({ request, slot });
    return maker.make(request);
  };
  const plain = defaultScene(run);
  const section = (offset: number): Scene => ({
    ...plain,
    layers: [
      {
        ...plain.layers[0],
        chain: [{ id: 'cut', op: 'section', options: { normal: [0, 0, 1], offset }, off: false }],
      },
    ],
  });
  return { run, load, asked, make, plain, section };
}

describe('a scene source', () => {
  it('sends a shape once; another step or colour brings values only', async () => {
    const { run, make, asked, plain } = await setUp();
    const source = new SceneSource(run, make);
    const first = await source.frame(plain, 0, 'view');
    const second = await source.frame(plain, 2, 'view');
    expect(asked.map((a) => a.request.have)).toEqual([null, first.parts[0].key]);
    expect(second.parts[0].shape).toBe(first.parts[0].shape);
    // The temperature rises by ten each step.
    const [before, after] = [valuesOf(first.parts[0]), valuesOf(second.parts[0])];
    for (let v = 0; v < before.length; v++) expect(after[v] - before[v]).toBeCloseTo(20, 3);
  });

  it('keeps sixteen shapes that are not on show, the youngest', async () => {
    const { run, make, asked, section } = await setUp();
    const source = new SceneSource(run, make);
    const keys: string[] = [];
    for (let i = 0; i < 18; i++)
      keys.push((await source.frame(section(0.01 + i * 0.02), 0, 'view')).parts[0].key);
    asked.length = 0;
    // The last is on show, sixteen rest, the first has gone.
    await source.frame(section(0.01 + 17 * 0.02), 0, 'view');
    await source.frame(section(0.01 + 1 * 0.02), 0, 'view');
    await source.frame(section(0.01), 0, 'view');
    expect(asked.map((a) => a.request.have)).toEqual([keys[17], keys[1], null]);
  });

  it('does not let go of a shape that a frame under way counts on', async () => {
    const { run, make, section } = await setUp();
    let release = (): void => undefined;
    let hold = false;
    const source = new SceneSource(run, async (request, slot) => {
      const answer = await make(request, slot);
      if (hold && slot.startsWith('slow')) await new Promise<void>((r) => (release = r));
      return answer;
    });
    const wanted = section(0.31);
    const { key } = (await source.frame(wanted, 0, 'view')).parts[0];
    hold = true;
    const slow = source.frame(wanted, 1, 'slow');
    await vi.waitFor(() => expect(release).not.toThrow());
    for (let i = 0; i < 20; i++) await source.frame(section(0.02 + i * 0.01), 0, 'view');
    release();
    const frame = await slow;
    expect(frame.parts[0].key).toBe(key);
    expect(markOf(frame.parts[0], 'surface').triangles.length).toBeGreaterThan(0);
  });

  it('gives the lines that are there while one keeps it waiting, each when it is whole', async () => {
    const { run, make, section, plain } = await setUp();
    const line = (id: string) => ({ ...plain.layers[0], id });
    const scene = {
      ...plain,
      layers: [line('quick'), line('later'), { ...section(0.3).layers[0], id: 'slow' }],
    };
    const release = new Map<string, () => void>();
    const source = new SceneSource(run, async (request, slot) => {
      const id = slot.split('/')[1];
      if (id !== 'quick') await new Promise<void>((r) => release.set(id, r));
      return make(request, slot);
    });
    const early: string[][] = [];
    const coming = source.frame(scene, 0, 'view', {
      after: 5,
      show: (frame) => early.push(frame.parts.map((p) => p.layer)),
    });
    await vi.waitFor(() => expect(early).toEqual([['quick']]));
    release.get('later')!();
    await vi.waitFor(() => expect(early.at(-1)).toEqual(['quick', 'later']));
    release.get('slow')!();
    expect((await coming).parts.map((p) => p.layer)).toEqual(['quick', 'later', 'slow']);
    expect(early, 'the whole is not early').toHaveLength(2);
  });

  it('gives nothing early where nothing keeps it waiting', async () => {
    const { run, make, plain } = await setUp();
    const show = vi.fn();
    await new SceneSource(run, make).frame(plain, 0, 'view', { after: 60_000, show });
    expect(show).not.toHaveBeenCalled();
  });

  it('reads ahead the arrays of coming steps and nothing else, and a failure there hurts nobody', async () => {
    const { run, load, make, asked, plain } = await setUp();
    const source = new SceneSource(run, make);
    await source.frame(plain, 0, 'view');
    const before = load.mock.calls.length;
    source.readAhead([1, 2].map((step) => ({ ...plain, step })));
    await vi.waitFor(() => expect(load.mock.calls.length).toBe(before + 2));
    expect(asked.slice(1).map((a) => [a.slot.split('/')[0], a.request.ahead])).toEqual([
      ['ahead', true],
      ['ahead', true],
    ]);
    await source.frame(plain, 1, 'view');
    expect(load.mock.calls.length, 'what was read ahead is not read again').toBe(before + 2);
    const failing = new SceneSource(run, () => Promise.reject(new Error('gone')));
    failing.readAhead([{ ...plain, step: 1 }]);
    await expect(failing.frame(plain, 1, 'view')).rejects.toThrow('gone');
  });

  it('asks for nothing of layers that are not to be seen', async () => {
    const { run, make, asked, plain } = await setUp();
    const source = new SceneSource(run, make);
    const hidden = { ...plain, layers: [{ ...plain.layers[0], visible: false }] };
    const frame = await source.frame(hidden, 0, 'view');
    expect([frame.parts, asked]).toEqual([[], []]);
    expect(frame.bounds, 'the run itself').toEqual([0, 1, 0, 1, 0, 1]);
  });
});

describe('an array source', () => {
  const ref = (hash: string, length: number) => ({ hash, type: 'f32' as const, length });
  const bytes = (length: number) => Promise.resolve(new Float32Array(length).buffer);

  it('asks once for what several want at a time, and keeps the youngest within its budget', async () => {
    const load = vi.fn(({ length }: { length: number }) => bytes(length));
    const source = new ArraySource(load, 4 * 250);
    const [a, b] = await Promise.all([source.get(ref('a', 100)), source.get(ref('a', 100))]);
    expect(a).toBe(b);
    expect(load).toHaveBeenCalledTimes(1);
    await source.get(ref('b', 100));
    await source.get(ref('a', 100));
    await source.get(ref('c', 100));
    load.mockClear();
    await source.get(ref('a', 100));
    expect(load).not.toHaveBeenCalled();
    await source.get(ref('b', 100));
    expect(load).toHaveBeenCalledTimes(1);
  });

  it('gives an empty array and one larger than its budget', async () => {
    const source = new ArraySource(({ length }) => bytes(length), 40);
    expect(await source.get(ref('none', 0))).toHaveLength(0);
    expect(await source.get(ref('large', 100))).toHaveLength(100);
  });

  it('says when an array is not what it should be, and tries again the next time', async () => {
    const load = vi.fn(() => bytes(7));
    const source = new ArraySource(load);
    await expect(source.get(ref('a', 8))).rejects.toThrow('has 7 numbers instead of 8');
    await expect(source.get(ref('a', 8))).rejects.toThrow();
    expect(load).toHaveBeenCalledTimes(2);
  });
});
