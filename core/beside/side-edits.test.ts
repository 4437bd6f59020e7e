import { beforeAll, describe, expect, it } from 'vitest';
import { ovenRun } from '../../tests/sample-run.ts';
import { differences } from '../model/document-changes.ts';
import type { RunDescription } from '../model/run.ts';
import { defaultScene } from '../scene/default-scene.ts';
import type { Scene } from '../scene/document.ts';
import {
  emptySideBySide,
  pairOf,
  panesAcross,
  type SideBySide,
  scenePanes,
  sideBySideForm,
  sideBySideSchema,
} from './side-by-side.ts';
import { type SideEdit, withSideEdit } from './side-edits.ts';

let run: RunDescription;
let scene: Scene;
let runs: Map<string, RunDescription>;
let side: SideBySide;
beforeAll(async () => {
  run = await ovenRun();
  scene = defaultScene(run);
  const slow = { ...run, steps: run.steps.map((s) => ({ ...s, time: 2 * s.time })) };
  runs = new Map([
    ['a', run],
    ['b', run],
    ['slow', slow],
  ]);
  side = {
    ...emptySideBySide('Ovens'),
    panes: ['a', 'b', 'slow'].map((id) => ({ id, kind: 'scene', title: null, run: id, scene, free: [] })),
  };
});

const edited = (from: SideBySide, ...edits: SideEdit[]): SideBySide =>
  edits.reduce((s, e) => withSideEdit(s, e, runs), from);
const sceneOf = (from: SideBySide, id: string): Scene => scenePanes(from).find((p) => p.id === id)!.scene;
const turn = (id: string): SideEdit => ({
  type: 'side.scene',
  id,
  edit: {
    type: 'setting.change',
    thing: 'camera',
    change: { ...scene.camera, position: [9, 8, 7.123456789] },
  },
});

describe('what is changed in one pane', () => {
  it('is changed in all that are linked with it: cameras are equal to the last digit', () => {
    const after = edited(side, turn('a'));
    expect(sceneOf(after, 'a').camera.position).toEqual([9, 8, 7.123456789]);
    for (const id of ['b', 'slow']) expect(sceneOf(after, id).camera).toEqual(sceneOf(after, 'a').camera);
  });
  it('stays in it where it, or another, goes its own way', () => {
    const free: SideEdit = { type: 'side.free', id: 'b', link: 'camera', free: true };
    const after = edited(side, free, turn('a'));
    expect(sceneOf(after, 'b').camera).toEqual(scene.camera);
    expect(sceneOf(after, 'slow').camera.position[0]).toBe(9);
    // Linked again, it looks as the others do.
    const again = edited(after, { ...free, free: false });
    expect(sceneOf(again, 'b').camera).toEqual(sceneOf(again, 'a').camera);
    const alone = edited(side, { type: 'side.link', link: 'camera', on: false, leader: null }, turn('a'));
    expect(sceneOf(alone, 'slow').camera).toEqual(scene.camera);
    const led = edited(alone, { type: 'side.link', link: 'camera', on: true, leader: 'a' });
    expect(sceneOf(led, 'slow').camera.position[0]).toBe(9);
  });
  it('of scales and looks is taken over when they are linked, and nothing else is', () => {
    const [first] = scene.scales;
    const apart = edited(
      side,
      { type: 'side.link', link: 'scales', on: false, leader: null },
      { type: 'side.link', link: 'looks', on: false, leader: null },
      {
        type: 'side.scene',
        id: 'a',
        edit: { type: 'scale.change', id: first.id, change: { map: 'cividis', reversed: true } },
      },
      {
        type: 'side.scene',
        id: 'a',
        edit: { type: 'setting.change', thing: 'light', change: { contact: 0.123 } },
      },
    );
    expect(sceneOf(apart, 'b')).toEqual(scene);
    const scales = edited(apart, { type: 'side.link', link: 'scales', on: true, leader: 'a' });
    expect(sceneOf(scales, 'b').scales[0]).toMatchObject({ map: 'cividis', reversed: true });
    expect(sceneOf(scales, 'b').light).toEqual(scene.light);
    const looks = edited(scales, { type: 'side.link', link: 'looks', on: true, leader: 'a' });
    expect(sceneOf(looks, 'b').light.contact).toBe(0.123);
  });
  it('of the time is the nearest time in each run', () => {
    const after = edited(side, { type: 'side.step', id: 'a', step: 2 });
    expect(sceneOf(after, 'b').step).toBe(2);
    expect(sceneOf(after, 'slow').step).toBe(1);
    const back = edited(after, { type: 'side.step', id: 'slow', step: 1 });
    expect(sceneOf(back, 'a').step).toBe(2);
  });
});

describe('panes', () => {
  it('come, go, move, and get another run', () => {
    const moved = edited(side, { type: 'side.pane.move', id: 'slow', to: 0 });
    expect(moved.panes.map((p) => p.id)).toEqual(['slow', 'a', 'b']);
    const fewer = edited(moved, { type: 'side.pane.remove', id: 'a' });
    expect(fewer.panes.map((p) => p.id)).toEqual(['slow', 'b']);
    const rules = { fields: { 'point:T': 'point:temperature' }, parts: {} };
    const swapped = edited(fewer, { type: 'side.pane.run', id: 'b', run: 'a', scene, rules });
    expect(scenePanes(swapped)[1].run).toBe('a');
    expect(swapped.rules).toEqual(rules);
    const more = edited(swapped, {
      type: 'side.panes.add',
      panes: [{ id: 'r', kind: 'readings', title: null }],
    });
    expect(sideBySideSchema.safeParse(more).success).toBe(true);
  });
  it('that two change at once are told apart by their ids', () => {
    const one = edited(side, { type: 'side.pane.title', id: 'b', title: 'Vent open' });
    expect(differences(sideBySideForm, side, one)).toMatchObject([{ at: ['panes', 'b', 'title'] }]);
  });
  it('lie upon each other two by two, as chosen or the first two', () => {
    expect(pairOf(side)!.map((p) => p.id)).toEqual(['a', 'b']);
    const chosen = edited(side, { type: 'side.show', change: { first: 'slow' } });
    expect(pairOf(chosen)!.map((p) => p.id)).toEqual(['slow', 'a']);
    const only = edited(side, { type: 'side.show', change: { second: 'a' } });
    expect(pairOf(only)!.map((p) => p.id)).toEqual(['b', 'a']);
    expect(pairOf({ ...side, panes: side.panes.slice(0, 1) })).toBeNull();
  });
  it('stand in rows so that each is large', () => {
    expect(panesAcross(1, 1.5)).toBe(1);
    expect(panesAcross(2, 1.6)).toBe(2);
    expect(panesAcross(2, 0.6)).toBe(1);
    expect(panesAcross(4, 1.5)).toBe(2);
    expect(panesAcross(9, 1.5)).toBe(3);
    expect(panesAcross(3, 4)).toBe(3);
  });
});
