import { beforeAll, describe, expect, it } from 'vitest';
import { fullScene } from '../../tests/attack/documents.ts';
import { ovenRun } from '../../tests/sample-run.ts';
import type { RunDescription } from '../model/run.ts';
import { read } from '../scene/addresses.ts';
import type { Scene } from '../scene/document.ts';
import { applyEdit, type Edit } from '../scene/edits.ts';
import { even } from '../scene/reel/ease.ts';
import { editedInFilm, keysOfValues } from './keyed-edit.ts';
import { sceneAt } from './scene-at.ts';

let run: RunDescription;
let scene: Scene;
const OPACITY = ['layers', 'layer-0', 'opacity'];
beforeAll(async () => {
  run = await ovenRun();
  scene = applyEdit(fullScene(run), {
    type: 'reel.begin',
    beginning: {
      lanes: [
        {
          of: OPACITY,
          keys: [
            { at: 0, value: 1, ease: even },
            { at: 4, value: 0, ease: even },
          ],
        },
      ],
    },
  });
});

const opaque = (opacity: number): Edit => ({ type: 'layer.change', id: 'layer-0', change: { opacity } });
const addresses = (s: Scene) => s.lanes.map((l) => l.of.join(' '));

describe('an edit in the film', () => {
  it('of what has keys sets one at that time, and leaves the scene behind them alone', () => {
    const edited = editedInFilm(scene, run, 2, opaque(0.9), false);
    expect(read(edited, OPACITY)).toBe(read(scene, OPACITY));
    expect(edited.lanes[0].keys.map((k) => [k.at, k.value])).toEqual([
      [0, 1],
      [2, 0.9],
      [4, 0],
    ]);
    expect(sceneAt(edited, run, 2).layers[0].opacity).toBe(0.9);
  });
  it('of what has none changes the scene, or sets the first key while keys are kept', () => {
    const light: Edit = { type: 'setting.change', thing: 'light', change: { strength: 0.3, warmth: 0.5 } };
    const plain = editedInFilm(scene, run, 2, light, false);
    expect(plain.light).toMatchObject({ strength: 0.3, warmth: 0.5 });
    expect(plain.lanes).toEqual(scene.lanes);
    const kept = editedInFilm(scene, run, 2, light, true);
    expect(kept.light).toEqual(scene.light);
    expect(addresses(kept).slice(1)).toEqual(['light strength', 'light warmth']);
    expect(sceneAt(kept, run, 2).light).toMatchObject({ strength: 0.3, warmth: 0.5 });
  });
  it('of a camera is one key of the whole, unless what it looks at has keys of its own', () => {
    const position = scene.camera.position.map((v) => v + 1) as [number, number, number];
    const move: Edit = { type: 'setting.change', thing: 'camera', change: { ...scene.camera, position } };
    const kept = editedInFilm(scene, run, 1, move, true);
    expect(addresses(kept).slice(1)).toEqual(['camera']);
    expect(sceneAt(kept, run, 1).camera.position).toEqual(position);
    const looking = applyEdit(scene, {
      type: 'keys.set',
      at: 0,
      values: [{ of: ['camera', 'target'], value: [0, 0, 0] }],
    });
    const target = editedInFilm(
      looking,
      run,
      1,
      { type: 'setting.change', thing: 'camera', change: { target: [1, 1, 1] } },
      true,
    );
    expect(addresses(target).slice(1)).toEqual(['camera target']);
    expect(sceneAt(target, run, 1).camera.target).toEqual([1, 1, 1]);
  });
  it('that adds or deletes a line does so in the whole film', () => {
    const without = editedInFilm(scene, run, 2, { type: 'layer.remove', id: 'layer-1' }, true);
    expect(without.layers.some((l) => l.id === 'layer-1')).toBe(false);
    expect(without.lanes).toEqual(scene.lanes);
  });
  it('of its keys is made as it is', () => {
    const edit: Edit = { type: 'lane.remove', id: scene.lanes[0].id };
    expect(editedInFilm(scene, run, 2, edit, true)).toEqual(applyEdit(scene, edit));
  });
  it('is told by a mark beside the value', () => {
    const lane = scene.lanes.find((l) => l.of.at(-1) === OPACITY.at(-1))!.id;
    expect(keysOfValues(scene, [OPACITY], 4)).toEqual({
      state: 'key here',
      keys: [{ lane, at: 4 }],
      of: [OPACITY],
    });
    expect(keysOfValues(scene, [OPACITY], 3.9)).toMatchObject({ state: 'moves', keys: [] });
    const amount = ['haze', 'amount'];
    expect(keysOfValues(scene, [amount], 4)).toEqual({ state: 'none', keys: [], of: [amount] });
    // Of a line, only where its parts are asked for as well.
    expect(keysOfValues(scene, [OPACITY.slice(0, 2)], 4).state).toBe('none');
    expect(keysOfValues(scene, [OPACITY.slice(0, 2)], 4, true).state).toBe('key here');
    // What moves as a whole has its keys as a whole.
    const { camera } = scene;
    const flown = applyEdit(scene, {
      type: 'keys.set',
      at: 2,
      values: [{ of: ['camera'], value: camera }],
    });
    expect(keysOfValues(flown, [['camera', 'roll']], 2)).toMatchObject({
      state: 'key here',
      of: [['camera']],
    });
  });
});
