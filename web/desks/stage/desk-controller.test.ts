import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { RunDescription } from '#core/model/run.ts';
import { newStep, withStepIds } from '#core/ops/chain/step.ts';
import { operationById } from '#core/ops/registry.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import type { Scene } from '#core/scene/document.ts';
import { settingOf } from '#core/scene/setting.ts';
import type { EarlyFrames, Frame } from '#engine/scene-source.ts';
import { Superseded } from '#engine/worker-pool.ts';
import type { Viewport } from '#stage/viewport.ts';
import { ovenRun } from '../../../tests/sample-run.ts';

/** What the controller asks of its source, in order; each is answered when the test says so. */
interface Asked {
  scene: Scene;
  step: number;
  answer(change?: Partial<Frame>): void;
  early(): void;
  fail(error: Error): void;
}
const asked: Asked[] = [];
const ahead = vi.fn();
let signal: () => AbortSignal | undefined = () => undefined;

vi.mock('./geometry-pool.ts', () => ({
  geometryPool: () => ({ close: () => undefined }),
  pooledSource: (run: RunDescription, _pool: unknown, _id: string, cancelled: typeof signal) => {
    signal = cancelled;
    return {
      run,
      readAhead: ahead,
      frame: (scene: Scene, step: number, _slot: string, early?: EarlyFrames) =>
        new Promise<Frame>((resolve, fail) => {
          const plain: Frame = {
            run,
            step,
            parts: [],
            bounds: [0, 1, 0, 1, 0, 1],
            news: {},
            attached: {},
            readings: {},
            curves: {},
          };
          asked.push({
            scene,
            step,
            fail,
            answer: (change = {}) => resolve({ ...plain, ...change }),
            early: () => early?.show(plain),
          });
        }),
    };
  },
}));

const { DeskController } = await import('./desk-controller.ts');
const { statesAhead } = await import('./play-track.ts');
const { edit, openDesk, sceneNow, undo, useDesk } = await import('./desk-store.ts');

let controller: InstanceType<typeof DeskController>;
const viewport = { show: vi.fn(), restyle: vi.fn(), setMoving: vi.fn(), idle: vi.fn(async () => {}) };
const settled = () => new Promise((r) => setTimeout(r, 0));
const last = (): Asked => asked[asked.length - 1];
const layerId = (): string => sceneNow().layers[0].id;

beforeEach(async () => {
  vi.stubGlobal('window', globalThis);
  vi.stubGlobal('addEventListener', () => undefined);
  vi.stubGlobal('removeEventListener', () => undefined);
  vi.stubGlobal('requestAnimationFrame', (then: () => void) => setTimeout(then, 0));
  vi.stubGlobal('fetch', () => Promise.resolve(Response.json({ revision: 2 })));
  asked.length = 0;
  for (const spy of [ahead, ...Object.values(viewport)]) spy.mockClear();
  const run = await ovenRun();
  openDesk({ id: 's', runId: 'r', run, shots: [], repairs: [], document: defaultScene(run) });
  controller = new DeskController(run, 1);
  controller.attach(viewport as unknown as Viewport);
});
afterEach(() => {
  controller.close();
  vi.unstubAllGlobals();
});

/** The first frame is there. */
async function opened(): Promise<void> {
  last().answer();
  await vi.waitFor(() => expect(viewport.show).toHaveBeenCalled());
  await settled();
  asked.length = 0;
  for (const spy of Object.values(viewport)) spy.mockClear();
}

describe('the desk keeps its stage in step with the scene', () => {
  it('asks for shapes when it opens, and shows them with the scene they were made for', async () => {
    expect(asked).toHaveLength(1);
    expect(viewport.show).not.toHaveBeenCalled();
    last().answer();
    await settled();
    expect(viewport.show).toHaveBeenCalledTimes(1);
    expect(viewport.show.mock.calls[0][1].layers).toEqual(sceneNow().layers);
  });
  it('fills an empty stage with what is there; a picture changes as a whole', async () => {
    last().early();
    expect(viewport.show).toHaveBeenCalledTimes(1);
    last().answer();
    await settled();
    edit({ type: 'layer.change', id: layerId(), change: { parts: [] } });
    last().early();
    expect(viewport.show).toHaveBeenCalledTimes(2);
    last().answer();
    await settled();
    expect(viewport.show).toHaveBeenCalledTimes(3);
  });
  it('restyles at once where shapes stay as they are', async () => {
    await opened();
    const edits: Parameters<typeof edit>[0][] = [
      { type: 'setting.change', thing: 'light', change: { shadow: false } },
      { type: 'setting.change', thing: 'backdrop', change: { kind: 'ink' } },
      { type: 'layer.change', id: layerId(), change: { opacity: 0.5 } },
      { type: 'scale.change', id: sceneNow().scales[0].id, change: { reversed: true } },
      { type: 'parts.change', parts: ['oven'], change: { colour: '#ff0000' } },
    ];
    for (const one of edits) edit(one);
    expect(asked).toHaveLength(0);
    expect(viewport.restyle).toHaveBeenCalledTimes(edits.length);
    expect(viewport.restyle.mock.lastCall![0].light.shadow).toBe(false);
  });
  it('asks for shapes where they change, and only then', async () => {
    await opened();
    edit({ type: 'layer.change', id: layerId(), change: { visible: false } });
    expect(asked).toHaveLength(1);
    edit({ type: 'parts.change', parts: ['oven'], change: { hidden: true } });
    edit({ type: 'layer.change', id: layerId(), change: { parts: [] } });
    expect(asked).toHaveLength(3);
    edit({ type: 'scene.rename', name: 'Crust' });
    expect(asked).toHaveLength(3);
  });
  it('changes shapes, colours and step together; what does not depend on them follows at once', async () => {
    await opened();
    edit({ type: 'layer.change', id: layerId(), change: { opacity: 0.4, parts: [] } });
    edit({ type: 'setting.change', thing: 'light', change: { contact: 0 } });
    const styled = viewport.restyle.mock.lastCall![0] as Scene;
    expect(styled.light.contact).toBe(0);
    // The line is drawn as it was until its new shape is there.
    expect(styled.layers[0].opacity).toBe(1);
    expect(viewport.show).not.toHaveBeenCalled();
    last().answer();
    await settled();
    expect(viewport.show.mock.lastCall![1].layers[0].opacity).toBe(0.4);
  });
  it('shows only what was asked for last', async () => {
    await opened();
    edit({ type: 'layer.change', id: layerId(), change: { parts: [] } });
    edit({ type: 'layer.change', id: layerId(), change: { parts: null, visible: false } });
    const [first, second] = asked;
    second.answer();
    await settled();
    expect(viewport.show).toHaveBeenCalledTimes(1);
    first.answer();
    await settled();
    expect(viewport.show).toHaveBeenCalledTimes(1);
  });
  it('after an undo within the time a shape takes goes back to what it was without a trace', async () => {
    await opened();
    edit({ type: 'layer.change', id: layerId(), change: { parts: [] } });
    undo();
    expect(viewport.restyle.mock.lastCall![0].layers[0].parts).toBe(sceneNow().layers[0].parts);
  });
  it('follows the levels of a colour scale only where an operation takes them', async () => {
    await opened();
    const scale = sceneNow().scales[0].id;
    edit({ type: 'scale.change', id: scale, change: { range: { kind: 'this-step' } } });
    expect(asked).toHaveLength(0);
    const contour = operationById('contour-lines');
    const options = { ...contour.defaults(settingOf(useDesk.getState().run)), levels: { kind: 'scale' } };
    edit({
      type: 'layer.change',
      id: layerId(),
      change: { chain: withStepIds([newStep(contour, options)]) },
    });
    last().answer();
    await settled();
    asked.length = 0;
    edit({ type: 'scale.change', id: scale, change: { range: { kind: 'all-steps' } } });
    expect(asked).toHaveLength(1);
  });
  it('waits for what bands of equal shares must know of all values', async () => {
    await opened();
    const { id } = sceneNow().scales[0];
    edit({ type: 'scale.change', id, change: { bands: { kind: 'share', count: 4 } } });
    expect(asked).toHaveLength(1);
    last().answer();
    await settled();
    edit({ type: 'scale.change', id, change: { bands: { kind: 'share', count: 5 } } });
    expect(asked).toHaveLength(1);
  });
  it('lights up a part set that is being made, without keeping it', async () => {
    await opened();
    useDesk.setState({ draft: { name: 'hot', rule: { kind: 'parts', parts: ['oven'] } } });
    expect(last().scene.layers.at(-1)).toMatchObject({ id: 'draft-set', set: 'hot' });
    expect(sceneNow().layers).toHaveLength(1);
    last().answer();
    await settled();
    useDesk.setState({ draft: null });
    expect(last().scene.layers).toHaveLength(1);
  });
});

describe('work that takes long or fails', () => {
  it('is said after a while, and can be cancelled', async () => {
    await opened();
    vi.useFakeTimers();
    edit({ type: 'layer.change', id: layerId(), change: { parts: [] } });
    vi.advanceTimersByTime(500);
    expect(useDesk.getState().busy).toBe(false);
    vi.advanceTimersByTime(200);
    expect(useDesk.getState().busy).toBe(true);
    const under = signal()!;
    controller.cancel();
    expect(under.aborted).toBe(true);
    expect(signal()!.aborted).toBe(false);
    vi.useRealTimers();
    last().fail(under.reason as Error);
    await settled();
    expect(useDesk.getState()).toMatchObject({ busy: false, trouble: expect.stringMatching(/^Cancelled/) });
  });
  it('is told, leaves the picture as it was, and is tried again with the next change', async () => {
    await opened();
    edit({ type: 'layer.change', id: layerId(), change: { parts: [] } });
    last().fail(new Error('A stored array is missing.'));
    await settled();
    expect(useDesk.getState().trouble).toBe('A stored array is missing.');
    expect(viewport.show).not.toHaveBeenCalled();
    edit({ type: 'setting.change', thing: 'floor', change: { kind: 'none' } });
    expect(asked).toHaveLength(2);
    last().answer();
    await settled();
    expect(useDesk.getState().trouble).toBeNull();
  });
  it('that newer work has replaced is not told of', async () => {
    await opened();
    edit({ type: 'layer.change', id: layerId(), change: { parts: [] } });
    last().fail(new Superseded());
    await settled();
    expect(useDesk.getState().trouble).toBeNull();
  });
});

describe('play', () => {
  it('knows the steps that come next, over the end to the beginning', () => {
    expect(statesAhead(0, 10)).toEqual([1, 2, 3]);
    expect(statesAhead(8, 10)).toEqual([9, 0, 1]);
    expect(statesAhead(0, 2)).toEqual([1]);
    expect(statesAhead(0, 1)).toEqual([]);
  });
  it('shows one step after the other, reads ahead, and rests when it is stopped', async () => {
    await opened();
    const begin = sceneNow().step;
    useDesk.setState({ rate: 200, playing: true });
    await vi.waitFor(() => expect(asked.length).toBeGreaterThan(0));
    expect(viewport.setMoving).toHaveBeenLastCalledWith(true);
    const step = last().step;
    expect(step).not.toBe(begin);
    last().answer();
    await vi.waitFor(() => expect(sceneNow().step).toBe(step));
    expect(ahead).toHaveBeenCalled();
    useDesk.setState({ playing: false });
    await vi.waitFor(() => {
      last().answer();
      expect(viewport.setMoving).toHaveBeenLastCalledWith(false);
    });
  });
  it('asks for no further step before the last one is drawn', async () => {
    await opened();
    let drawn = (): void => undefined;
    viewport.idle.mockImplementationOnce(() => new Promise((resolve) => (drawn = resolve)));
    useDesk.setState({ rate: 200, playing: true });
    await vi.waitFor(() => expect(asked.length).toBeGreaterThan(0));
    const shown = last().step;
    last().answer();
    await vi.waitFor(() => expect(sceneNow().step).toBe(shown));
    const before = asked.length;
    await new Promise((r) => setTimeout(r, 60));
    expect(asked).toHaveLength(before);
    drawn();
    await vi.waitFor(() => expect(asked.length).toBeGreaterThan(before));
    useDesk.setState({ playing: false });
    last().answer();
    await vi.waitFor(() => expect(viewport.setMoving).toHaveBeenLastCalledWith(false));
  });
  it('stops and says why when a step cannot be shown', async () => {
    await opened();
    useDesk.setState({ rate: 200, playing: true });
    await vi.waitFor(() => expect(asked.length).toBeGreaterThan(0));
    last().fail(new Error('the disk does not answer'));
    await vi.waitFor(() => expect(useDesk.getState().playing).toBe(false));
    expect(useDesk.getState().trouble).toBe('the disk does not answer');
  });
});

it('what is shown already is kept, though other shapes asked for before come after', async () => {
  await opened();
  const hide = (visible: boolean) => edit({ type: 'layer.change', id: layerId(), change: { visible } });
  hide(false);
  const late = last();
  hide(true);
  // Nor does one wait for them, however long they take.
  await new Promise((r) => setTimeout(r, 700));
  expect(useDesk.getState().busy).toBe(false);
  late.answer();
  await settled();
  expect(viewport.show).not.toHaveBeenCalled();
  expect(useDesk.getState().busy).toBe(false);
});
