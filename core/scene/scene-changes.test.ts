import { beforeAll, describe, expect, it } from 'vitest';
import { fullScene } from '../../tests/attack/documents.ts';
import { ovenRun } from '../../tests/sample-run.ts';
import { sameValue } from '../model/document-changes.ts';
import { evenBands } from '../model/levels.ts';
import type { Scene } from './document.ts';
import { applyEdit, type Edit } from './edits.ts';
import { SceneHistory } from './history.ts';
import { changesBetween, sayPlace, withChanges } from './scene-changes.ts';

let scene: Scene;
beforeAll(async () => {
  scene = fullScene(await ovenRun());
});

const edited = (from: Scene, ...edits: Edit[]): Scene => edits.reduce(applyEdit, from);
const named = (name: string): Edit => ({ type: 'scene.rename', name });
const turned = (x: number): Edit => ({
  type: 'setting.change',
  thing: 'camera',
  change: { position: [x, 1, 1] },
});

describe('changes between two states', () => {
  it('are none between equal ones, whatever the order of their entries', () => {
    expect(changesBetween(scene, JSON.parse(JSON.stringify(scene)))).toEqual([]);
    expect(sameValue({ a: 1, b: [2] }, { b: [2], a: 1 })).toBe(true);
    expect(sameValue({ a: 1 }, { a: 1, b: undefined })).toBe(false);
    expect(sameValue([1], { 0: 1 })).toBe(false);
  });
  it('name the smallest place that differs', () => {
    const at = (e: Edit): string[] => changesBetween(scene, edited(scene, e)).map((c) => c.at.join(' '));
    expect(at(named('x'))).toEqual(['name']);
    expect(at({ type: 'layer.change', id: 'layer-2', change: { opacity: 0.5 } })).toEqual([
      'layers layer-2 opacity',
    ]);
    expect(at({ type: 'setting.change', thing: 'light', change: { shadow: false } })).toEqual([
      'light shadow',
    ]);
    expect(at({ type: 'layer.move', id: 'layer-0', to: 3 })).toEqual(['layers *order']);
    expect(at({ type: 'parts.change', parts: ['oven'], change: { hidden: true } })).toEqual(['parts oven']);
    expect(at({ type: 'layer.remove', id: 'layer-3' })).toEqual(['layers layer-3']);
  });
  it('lead from the one to the other through every kind of edit and JSON', () => {
    const edits: Edit[] = [
      named('new'),
      turned(9),
      { type: 'layer.duplicate', id: 'layer-1', newId: 'twin' },
      { type: 'layer.move', id: 'layer-5', to: 0 },
      { type: 'layer.remove', id: 'layer-2' },
      { type: 'scale.change', id: scene.scales[0].id, change: { bands: evenBands(7) } },
      { type: 'set.remove', name: 'hot' },
      { type: 'set.save', set: { name: 'cold', rule: { kind: 'parts', parts: ['oven'] } as never } },
      { type: 'parts.change', parts: ['oven'], change: { colour: '#112233' } },
      { type: 'setting.change', thing: 'picture', change: { aspect: 2 } },
      { type: 'setting.change', thing: 'stamp', change: { decimals: 4 } },
    ];
    for (let n = 1; n <= edits.length; n++) {
      const after = edited(scene, ...edits.slice(0, n));
      const sent = JSON.parse(JSON.stringify(changesBetween(scene, after)));
      const { scene: made, refused } = withChanges(scene, sent);
      expect(refused).toEqual([]);
      expect(made).toEqual(after);
      const back = withChanges(after, JSON.parse(JSON.stringify(changesBetween(after, scene))));
      expect(back.scene).toEqual(scene);
    }
  });
});

describe('changes made to a scene that has become another one', () => {
  const merged = (theirs: Edit[], mine: Edit[]) =>
    withChanges(edited(scene, ...theirs), changesBetween(scene, edited(scene, ...mine)));

  it('stand beside those of others when they touch different things', () => {
    const { scene: both, refused } = merged([named('theirs')], [turned(5)]);
    expect(refused).toEqual([]);
    expect(both.name).toBe('theirs');
    expect(both.camera.position[0]).toBe(5);
    const opacity = (id: string, value: number): Edit => ({
      type: 'layer.change',
      id,
      change: { opacity: value },
    });
    const layers = merged([opacity('layer-1', 0.1)], [opacity('layer-1', 1), opacity('layer-2', 0.2)]).scene
      .layers;
    expect(layers.slice(1, 3).map((l) => l.opacity)).toEqual([0.1, 0.2]);
  });
  it('are given back when both touch the same thing, and leave it alone', () => {
    const { scene: kept, refused } = merged([turned(3), named('theirs')], [turned(5)]);
    expect(refused.map((c) => sayPlace(c, kept))).toEqual(['the camera']);
    expect(kept.camera.position[0]).toBe(3);
    const gone = merged(
      [{ type: 'layer.remove', id: 'layer-1' }],
      [{ type: 'layer.change', id: 'layer-1', change: { opacity: 0.3 } }],
    );
    expect(gone.refused.map((c) => sayPlace(c, gone.scene))).toEqual(['a line that is gone']);
  });
  it('are no conflict when both did the same', () => {
    expect(merged([turned(5)], [turned(5)]).refused).toEqual([]);
    expect(
      merged([{ type: 'layer.remove', id: 'layer-1' }], [{ type: 'layer.remove', id: 'layer-1' }]).refused,
    ).toEqual([]);
  });
  it('keep the lines both added, and their order', () => {
    const twin = (id: string, newId: string): Edit => ({ type: 'layer.duplicate', id, newId });
    const { scene: both, refused } = merged(
      [twin('layer-0', 'a')],
      [twin('layer-0', 'b'), twin('layer-4', 'c')],
    );
    expect(refused).toEqual([]);
    const ids = both.layers.map((l) => l.id);
    expect(ids.slice(0, 3).sort()).toEqual(['a', 'b', 'layer-0']);
    expect(ids.indexOf('c')).toBe(ids.indexOf('layer-4') + 1);
    const moved = merged([twin('layer-0', 'a')], [{ type: 'layer.move', id: 'layer-6', to: 0 }]).scene;
    expect(moved.layers[0].id).toBe('layer-6');
    expect(moved.layers.map((l) => l.id)).toContain('a');
  });
  it('never reach beyond the document', () => {
    for (const at of [
      ['__proto__', 'polluted'],
      ['layers', '__proto__', 'x'],
      ['light', 'rig', 'deeper'],
      ['camera', 'x'],
    ])
      expect(withChanges(scene, [{ at, now: true }]).refused).toHaveLength(1);
    expect(({} as Record<string, unknown>).polluted).toBeUndefined();
  });
  it('reach what undo leads to as well', () => {
    const history = SceneHistory.of(scene).apply(turned(5)).apply(turned(6));
    const also = history.withChangesFromElsewhere(changesBetween(scene, edited(scene, named('theirs'))));
    expect(also.scene.camera.position[0]).toBe(6);
    expect(also.undo().undo().scene).toEqual({ ...scene, name: 'theirs' });
  });
});
