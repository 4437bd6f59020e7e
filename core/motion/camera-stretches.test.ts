import { beforeAll, describe, expect, it } from 'vitest';
import { ovenRun } from '../../tests/sample-run.ts';
import type { RunDescription } from '../model/run.ts';
import { defaultScene } from '../scene/default-scene.ts';
import type { Camera, Scene } from '../scene/document.ts';
import { applyEdit } from '../scene/edits.ts';
import { shippedLooks } from '../scene/looks/registry.ts';
import { waysOf } from '../scene/reel/lane.ts';
import { readScript, writeScript } from '../scene/scene-script.ts';
import { begun, readMotion } from './beginnings/read-motion.ts';
import { settingOfReel } from './beginnings/registry.ts';
import { sceneAt } from './scene-at.ts';

let run: RunDescription;
let plain: Scene;
let cameras: Camera[];
beforeAll(async () => {
  run = await ovenRun();
  const opening = defaultScene(run);
  plain = readScript(
    ['Scene "Film"', 'Section of oven at y = 0.5 m', 'Film of 12 s, 25 pictures a second'].join('\n'),
    run,
    { ...opening, layers: [] },
  );
  cameras = [0, 1, 2].map((n) => ({ ...plain.camera, position: [4 + n, -3 + 2 * n, 2 + n * n] }));
});

function film(...typed: string[]): Scene {
  return typed.reduce((now, text) => {
    const views = cameras.map((camera, i) => ({ name: `view ${i}`, camera }));
    const setting = settingOfReel(now, run, { views, looks: shippedLooks });
    const motion = readMotion(text, setting);
    if ('at' in motion) throw new Error(`${text}: at ${motion.at}`);
    return applyEdit(now, { type: 'reel.begin', beginning: begun(motion, setting) });
  }, plain);
}

const ONE = 1 / 25;
const cameraAt = (scene: Scene, time: number) => sceneAt(scene, run, time).camera;
const offsetAt = (scene: Scene, time: number) => {
  const [layer] = sceneAt(scene, run, time).layers;
  return (layer.chain[0].options as { offset: number }).offset;
};

/** Both films show the same camera at these times. */
function alike(a: Scene, b: Scene, times: readonly number[]) {
  for (const time of times)
    for (const part of ['position', 'target'] as const)
      for (const k of [0, 1, 2])
        expect(cameraAt(a, time)[part][k]).toBeCloseTo(cameraAt(b, time)[part][k], 9);
}

const FLY = 'fly through the kept views at one speed';
const first = [0, 0.7, 1.9, 3, 4.1, 4.9];
const second = [5, 5.6, 7, 8.3, 9.9, 10];

describe('several motions of one camera', () => {
  it('a flight that is followed by a cut comes to its end, and the cut has no way', () => {
    const both = film(`from 0 s to 5 s ${FLY}`, 'from 5 s to 8 s cut through the kept views');
    const [, , end] = cameras;
    expect(cameraAt(both, 5 - ONE).position).toEqual(end.position);
    for (const [time, view] of [
      [5, 0],
      [5.98, 0],
      [6, 1],
      [6.5, 1],
      [7.1, 2],
      [11, 2],
    ])
      expect(cameraAt(both, time).position).toEqual(cameras[view].position);
    // It is one picture shorter, and else as it was: at one speed in one curve.
    const alone = film(`from 0 s to ${5 - ONE} s ${FLY}`);
    alike(both, alone, first);
  });

  it('each keeps its own speed and its own curve, whichever comes first', () => {
    const turntable = film('from 0 s to 5 s turntable');
    const flight = film(`from 5 s to 10 s ${FLY}`);
    for (const both of [
      film('from 0 s to 5 s turntable', `from 5 s to 10 s ${FLY}`),
      film(`from 5 s to 10 s ${FLY}`, 'from 0 s to 5 s turntable'),
    ]) {
      alike(both, flight, second);
      // Where both have a key at one time, the earlier motion ends one picture before.
      for (const time of first) {
        const squeezed = (time * 5) / (5 - ONE);
        const [a, b] = [cameraAt(both, time).position, cameraAt(turntable, squeezed).position];
        for (const k of [0, 1, 2]) expect(a[k]).toBeCloseTo(b[k], 6);
      }
      expect(cameraAt(both, 5 - ONE)).toEqual(cameraAt(turntable, 5));
    }
  });

  it('are written in scripts and read back', () => {
    const both = film('from 0 s to 5 s turntable', `from 5 s to 10 s ${FLY}`);
    const script = writeScript(both, run);
    expect(script).toContain(', from here smooth, steady');
    const { lanes } = readScript(script, run, plain);
    expect(lanes.map((l) => l.keys)).toEqual(both.lanes.map((l) => l.keys));
    alike({ ...both, lanes }, both, [...first, ...second]);
  });

  it('go alike when that is asked of the whole lane', () => {
    const both = film('from 0 s to 5 s turntable', `from 5 s to 10 s ${FLY}`);
    const [{ id }] = both.lanes;
    expect(new Set(waysOf(both.lanes[0]).map((w) => w.smooth)).size).toBe(2);
    const [lane] = applyEdit(both, { type: 'lane.change', id, change: { smooth: true } }).lanes;
    expect(waysOf(lane).every((w) => w.smooth)).toBe(true);
    expect(lane.keys.every((k) => !('way' in k))).toBe(true);
    // Switched off, it keeps them.
    const [off] = applyEdit(both, { type: 'lane.change', id, change: { off: true } }).lanes;
    expect(off.keys).toEqual(both.lanes[0].keys);
  });

  it('a key that is set anew goes on as the one that stood there', () => {
    const both = film('from 0 s to 5 s turntable', `from 5 s to 10 s ${FLY}`);
    const value = { ...cameras[0], position: [9, 9, 9] };
    const [lane] = applyEdit(both, { type: 'keys.set', at: 5, values: [{ of: ['camera'], value }] }).lanes;
    expect(lane.keys.find((k) => k.at === 5)).toMatchObject({ value, way: { smooth: true, steady: true } });
  });
});

describe('two sweeps of one number', () => {
  const one = 'from 2 s to 5 s sweep section 1 from 0 to 0.8 m, evenly';
  const two = 'from 5 s to 8 s sweep section 1 from 0.1 to 0.4 m, evenly';
  it.each([
    ['in their order', [one, two]],
    ['the later one first', [two, one]],
  ])('one behind the other go all their way: %s', (_, typed) => {
    const both = film(...typed);
    expect([2, 5 - ONE, 5, 6.5, 8].map((t) => offsetAt(both, t))).toEqual([0, 0.8, 0.1, 0.25, 0.4]);
    expect(both.lanes[0].keys.every((k) => !('way' in k))).toBe(true);
  });

  it('that meet in one value share its key', () => {
    const both = film(one, 'from 5 s to 8 s sweep section 1 from 0.8 to 0.4 m, evenly');
    expect(both.lanes[0].keys.map((k) => k.at)).toEqual([2, 5, 8]);
  });
});
