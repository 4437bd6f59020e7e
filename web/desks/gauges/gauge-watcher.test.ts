import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { chart } from '#core/scene/charts/chart.ts';
import type { Curves } from '#core/scene/charts/chart-drawn.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import type { SceneSource } from '#engine/scene-source.ts';
import { goToStep, openDesk, useDesk } from '#web/desks/stage/desk-store.ts';
import { ovenRun } from '../../../tests/sample-run.ts';
import { GaugeWatcher } from './gauge-watcher.ts';

/** What the watcher asks of its source; answered when the test says so. */
interface Asked {
  step: number;
  told(done: number, curves: Curves): void;
  answer(curves: Curves): void;
}
let asked: Asked[];
const settled = () => new Promise((r) => setTimeout(r, 0));
const measuring = () => useDesk.getState().measuring;
let watcher: GaugeWatcher;

beforeEach(async () => {
  asked = [];
  vi.spyOn(performance, 'now').mockImplementation(
    (
      (at) => () =>
        (at += 1000)
    )(0),
  );
  const run = await ovenRun();
  const document = { ...defaultScene(run), charts: [{ ...chart.plain, id: 'c', curves: [] }] };
  openDesk({ id: 's', runId: 'r', run, shots: [], repairs: [], document });
  useDesk.setState({ desk: 'gauges', measuring: null });
  const source = {
    run,
    gauges: { readings: async () => ({}) },
    curves: {
      of: (
        _charts: unknown,
        _scene: unknown,
        _run: unknown,
        step: number,
        progress: never,
        signal: AbortSignal,
      ) =>
        new Promise<Curves>((resolve, fail) => {
          signal.addEventListener('abort', () => fail(signal.reason));
          const told = (done: number, curves: Curves): void =>
            (progress as (done: number, curves: () => Curves) => void)(done, () => curves);
          asked.push({ step, told, answer: resolve });
        }),
    },
  };
  watcher = new GaugeWatcher(source as unknown as SceneSource);
});

afterEach(() => {
  watcher.close();
  vi.restoreAllMocks();
});

const halfway: Curves = { a: { trouble: 'half of it' } };
const whole: Curves = { a: { trouble: 'all of it' } };

describe('curves that are measured', () => {
  it('are drawn as far as they are known, and whole in the end', async () => {
    asked[0].told(0.5, halfway);
    expect(measuring()).toMatchObject({ done: 0.5 });
    expect(useDesk.getState().curves).toBe(halfway);
    asked[0].answer(whole);
    await settled();
    expect([measuring(), useDesk.getState().curves]).toEqual([null, whole]);
  });
  it('stay as far as they came when they are stopped, and go on when they are asked to', async () => {
    asked[0].told(0.5, halfway);
    const under = measuring();
    if (!under || !('cancel' in under)) throw new Error('It cannot be cancelled.');
    under.cancel();
    await settled();
    const stopped = measuring();
    expect(stopped).toMatchObject({ done: 0.5 });
    expect(useDesk.getState().curves).toBe(halfway);
    if (!stopped || !('goOn' in stopped)) throw new Error('It cannot go on.');
    stopped.goOn();
    expect(asked).toHaveLength(2);
    asked[1].answer(whole);
    await settled();
    expect([measuring(), useDesk.getState().curves]).toEqual([null, whole]);
  });
  it('are not told to be stopped when a newer step takes their place', async () => {
    asked[0].told(0.5, halfway);
    goToStep(1);
    await settled();
    expect(asked.map((a) => a.step)).toEqual([2, 1]);
    asked[1].answer(whole);
    await settled();
    expect(measuring()).toBeNull();
  });
});
