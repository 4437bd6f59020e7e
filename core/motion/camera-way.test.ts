import { beforeAll, describe, expect, it } from 'vitest';
import { fullScene } from '../../tests/attack/documents.ts';
import { ovenRun } from '../../tests/sample-run.ts';
import type { RunDescription } from '../model/run.ts';
import type { Camera, Scene } from '../scene/document.ts';
import { applyEdit } from '../scene/edits.ts';
import { even } from '../scene/reel/ease.ts';
import type { NewLane } from '../scene/reel/lane.ts';
import { alsoAt, hasWay, placesOfWay, wayOfCamera } from './camera-way.ts';
import { editedInFilm, keysOfValues } from './keyed-edit.ts';
import { sceneAt } from './scene-at.ts';

let run: RunDescription;
let plain: Scene;
let from: Camera;
let to: Camera;
beforeAll(async () => {
  run = await ovenRun();
  plain = fullScene(run);
  from = { ...plain.camera, position: [4, 0, 0], target: [0, 0, 0] };
  to = { ...from, position: [0, 4, 2], target: [1, 0, 0] };
});

const TARGET = ['camera', 'target'];
const key = (at: number, value: unknown) => ({ at, value, ease: even });
const filmed = (...lanes: NewLane[]): Scene => applyEdit(plain, { type: 'reel.begin', beginning: { lanes } });
const flight = (): NewLane => ({ of: ['camera'], keys: [key(1, from), key(3, to)] });
const looks = (): NewLane => ({ of: TARGET, keys: [key(0, [5, 5, 5]), key(4, [9, 5, 5])] });

describe('the way of a camera', () => {
  it('is where the film has it, from its first key to its last', () => {
    const scene = filmed(flight());
    const way = wayOfCamera(scene, run);
    expect(hasWay(scene)).toBe(true);
    expect(way[0]).toEqual(from);
    expect(way.at(-1)).toEqual(to);
    for (const [i, camera] of way.entries())
      expect(camera).toEqual(sceneAt(scene, run, 1 + (2 * i) / (way.length - 1)).camera);
  });
  it('is none where the camera stands still, or its lane is switched off', () => {
    expect([hasWay(plain), wayOfCamera(plain, run)]).toEqual([false, []]);
    expect(wayOfCamera(filmed({ of: ['camera'], keys: [key(1, from)] }), run)).toEqual([]);
    const scene = filmed(flight());
    const off = applyEdit(scene, { type: 'lane.change', id: scene.lanes[0].id, change: { off: true } });
    expect(wayOfCamera(off, run)).toEqual([]);
    expect(placesOfWay(off)).toEqual([]);
  });
  it('has its places in its keys, and a key with one of them elsewhere', () => {
    const places = placesOfWay(filmed(flight()));
    expect(places.map(({ part, at, place }) => [part, at, place])).toEqual([
      ['position', 1, from.position],
      ['target', 1, from.target],
      ['position', 3, to.position],
      ['target', 3, to.target],
    ]);
    expect(places[2].with([7, 8, 9])).toEqual({ ...to, position: [7, 8, 9] });
  });
  it('that ends where it began has both its ends at one place', () => {
    const round: NewLane = {
      of: ['camera'],
      keys: [key(0, from), key(1, to), key(2, { ...to, position: from.position })],
    };
    const places = placesOfWay(filmed(round));
    const times = (i: number, near = 1e-9) =>
      alsoAt(places[i], places, near).map(({ part, at }) => `${part} ${at}`);
    expect([0, 1, 2, 3].map((i) => times(i))).toEqual([['position 2'], [], [], ['target 2']]);
    expect(times(1, 10)).toEqual(['target 1', 'target 2']);
  });
  it('takes what is looked at from keys of its own where it has them', () => {
    const scene = filmed(flight(), looks());
    const way = wayOfCamera(scene, run);
    expect(way.map((c) => c.target[1])).toEqual(way.map(() => 5));
    const [target] = placesOfWay(scene).filter(({ part }) => part === 'target');
    expect(target).toMatchObject({ at: 0, place: [5, 5, 5], of: TARGET });
    expect(target.with([1, 2, 3])).toEqual([1, 2, 3]);
    expect(placesOfWay(scene).map(({ part, at }) => `${part} ${at}`)).toEqual([
      'position 1',
      'position 3',
      'target 0',
      'target 4',
    ]);
  });
});

describe('what a camera looks at, with keys of its own', () => {
  const change = (camera: Partial<Camera>) => {
    const scene = filmed(flight(), looks());
    const edited = editedInFilm(
      scene,
      run,
      2,
      { type: 'setting.change', thing: 'camera', change: camera },
      false,
    );
    return edited.lanes.map((l) => l.keys.map((k) => k.at));
  };
  it('gets a key without one of the camera', () =>
    expect(change({ target: [0, 1, 0] })).toEqual([
      [1, 3],
      [0, 2, 4],
    ]));
  it('gets one with the camera where both are moved', () =>
    expect(change({ target: [0, 1, 0], position: [9, 9, 9] })).toEqual([
      [1, 2, 3],
      [0, 2, 4],
    ]));
  it('gets none where only the camera is moved', () =>
    expect(change({ roll: 10 })).toEqual([
      [1, 2, 3],
      [0, 4],
    ]));
  it('is marked by its own keys alone', () => {
    const scene = filmed(flight(), looks());
    expect(keysOfValues(scene, [TARGET], 1)).toMatchObject({ state: 'moves', keys: [], of: [TARGET] });
    expect(keysOfValues(scene, [TARGET], 4).keys).toEqual([{ lane: scene.lanes[1].id, at: 4 }]);
    expect(keysOfValues(scene, [['camera', 'roll']], 1).of).toEqual([['camera']]);
  });
});
