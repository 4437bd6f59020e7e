import { beforeAll, describe, expect, it } from 'vitest';
import { ovenRun } from '../../tests/sample-run.ts';
import { evenBands } from '../model/levels.ts';
import { defaultScene } from './default-scene.ts';
import type { ChainStep, Layer, Scale, Scene } from './document.ts';
import { sceneSchema } from './document.ts';
import { applyEdit, type Edit, sayEdit } from './edits.ts';
import { SceneHistory } from './history.ts';
import { repairScene } from './repair-scene.ts';
import { changesBetween, sayPlace, withChanges } from './scene-changes.ts';
import { readScript, writeScript } from './scene-script.ts';
import { partLook } from './things/part-look.ts';

/** Each goes by the name of its operation. */
const step = (op: string, options: object = {}): ChainStep => ({ id: op, op, options, off: false });

let scene: Scene;
let scale: Scale;
beforeAll(async () => {
  const first = defaultScene(await ovenRun());
  const [layer] = first.layers;
  [scale] = first.scales;
  const cut: Layer = { ...layer, id: 'cut', chain: [step('section', { offset: 0.4 }), step('edges')] };
  scene = { ...first, layers: [{ ...layer, id: 'all' }, cut] };
});

const ids = (s: Scene): string[] => s.layers.map((l) => l.id);
const ops = (s: Scene, at = 1): string[] => s.layers[at].chain.map((c) => c.op);

/** Applies an edit and makes sure that the scene before is left as it was and the new one can be written. */
function after(edit: Edit, before: Scene = scene): Scene {
  const kept = structuredClone(before);
  const next = applyEdit(before, edit);
  expect(before).toEqual(kept);
  expect(sceneSchema.safeParse(next).success).toBe(true);
  expect(sayEdit(edit)).toMatch(/^[a-z ,]+$/);
  return next;
}

describe('edits of lines', () => {
  it('add a line with the scale it needs, and take both away together', () => {
    const own: Scale = { ...scale, id: 'own' };
    const colour = { kind: 'field', field: 'point:temperature', component: 0, scale: 'own' } as const;
    const layer: Layer = { ...scene.layers[0], id: 'new', colour };
    const added = after({ type: 'layer.add', layer, scale: own });
    expect([ids(added), added.scales.map((s) => s.id)]).toEqual([
      ['all', 'cut', 'new'],
      [scale.id, 'own'],
    ]);
    const removed = after({ type: 'layer.remove', id: 'new' }, added);
    expect(removed).toEqual(scene);
  });
  it('drop a scale with the last line that is coloured by it', () => {
    const plain = { colour: { kind: 'plain', colour: '#112233' } } as const;
    const one = after({ type: 'layer.change', id: 'all', change: plain });
    expect(one.scales).toHaveLength(1);
    expect(after({ type: 'layer.change', id: 'cut', change: plain }, one).scales).toEqual([]);
  });
  it('move, double and leave lines alone that are not there', () => {
    expect(ids(after({ type: 'layer.move', id: 'cut', to: 0 }))).toEqual(['cut', 'all']);
    expect(applyEdit(scene, { type: 'layer.move', id: 'gone', to: 0 })).toBe(scene);
    const twice = after({ type: 'layer.duplicate', id: 'all', newId: 'copy' });
    expect(ids(twice)).toEqual(['all', 'copy', 'cut']);
    expect({ ...twice.layers[1], id: 'all' }).toEqual(scene.layers[0]);
    expect(applyEdit(scene, { type: 'layer.duplicate', id: 'gone', newId: 'copy' })).toBe(scene);
    expect(after({ type: 'layer.change', id: 'gone', change: { opacity: 0 } })).toEqual(scene);
  });
  it('change all at once', () => {
    const all = after({ type: 'layers.change', change: { opacity: 0.3, sides: 'inside' } });
    expect(all.layers.map((l) => [l.opacity, l.sides])).toEqual([
      [0.3, 'inside'],
      [0.3, 'inside'],
    ]);
  });
});

describe('edits of operations', () => {
  it('change single options and keep the others', () => {
    const options = { normal: [0, 0, 1], locked: true };
    const changed = after({ type: 'chain.change', id: 'cut', step: 'section', options });
    expect(changed.layers[1].chain[0].options).toEqual({ offset: 0.4, ...options });
    expect(changed.layers[1].chain[1]).toBe(scene.layers[1].chain[1]);
  });
  it('add, move, switch off and take away', () => {
    const three = after({ type: 'chain.add', id: 'cut', step: step('mirror') });
    expect(ops(three)).toEqual(['section', 'edges', 'mirror']);
    expect(ops(after({ type: 'chain.move', id: 'cut', step: 'mirror', to: 0 }, three))).toEqual([
      'mirror',
      'section',
      'edges',
    ]);
    expect(ops(after({ type: 'chain.move', id: 'cut', step: 'gone', to: 0 }, three))).toEqual(ops(three));
    const off = after({ type: 'chain.switch', id: 'cut', step: 'edges', off: true });
    expect(off.layers[1].chain.map((c) => c.off)).toEqual([false, true]);
    expect(ops(after({ type: 'chain.remove', id: 'cut', step: 'section' }))).toEqual(['edges']);
  });
});

describe('edits of everything else', () => {
  it('save part sets by their names, and delete them', () => {
    const set = { name: 'hot', rule: { kind: 'parts' as const, parts: ['oven'] } };
    const saved = after({ type: 'set.save', set });
    const again = after({ type: 'set.save', set: { ...set, rule: { kind: 'parts', parts: [] } } }, saved);
    expect(again.sets).toEqual([{ name: 'hot', rule: { kind: 'parts', parts: [] } }]);
    expect(after({ type: 'set.remove', name: 'hot' }, again).sets).toEqual([]);
  });
  it('change scales and legends', () => {
    const banded = after({
      type: 'scale.change',
      id: scale.id,
      change: { bands: evenBands(7), reversed: true },
    });
    expect(banded.scales[0]).toEqual({ ...scale, bands: evenBands(7), reversed: true });
    const titled = after({ type: 'legend.change', id: scale.id, change: { title: 'Crust' } });
    expect(titled.scales[0].legend).toEqual({ ...scale.legend, title: 'Crust' });
  });
  it('keep an entry only for parts that look unlike what their lines say', () => {
    const hidden = after({ type: 'parts.change', parts: ['tin', 'rack'], change: { hidden: true } });
    expect(Object.keys(hidden.parts)).toEqual(['tin', 'rack']);
    const shown = after({ type: 'parts.change', parts: ['tin', 'rack'], change: { hidden: false } }, hidden);
    expect(shown.parts).toEqual({});
    const bare = after({ type: 'parts.change', parts: ['tin'], change: { edges: false } });
    expect(bare.parts).toEqual({ tin: { ...partLook.plain, edges: false } });
    const alone = after({ type: 'parts.alone', shown: ['tin'], all: ['tin', 'rack', 'wall'] }, hidden);
    expect(Object.keys(alone.parts).sort()).toEqual(['rack', 'wall']);
  });
  it('set camera, light, backdrop, stamp, shape, name, and the way inside', () => {
    const camera = { ...scene.camera, fieldOfView: 50 };
    expect(after({ type: 'setting.change', thing: 'camera', change: camera }).camera).toEqual(camera);
    expect(after({ type: 'setting.change', thing: 'light', change: { shadow: false } }).light).toEqual({
      ...scene.light,
      shadow: false,
    });
    expect(after({ type: 'setting.change', thing: 'backdrop', change: { kind: 'ink' } }).backdrop).toEqual({
      ...scene.backdrop,
      kind: 'ink',
    });
    expect(after({ type: 'setting.change', thing: 'stamp', change: { unit: 'min' } }).stamp).toEqual({
      ...scene.stamp,
      unit: 'min',
    });
    expect(after({ type: 'setting.change', thing: 'picture', change: { aspect: 1.5 } }).picture.aspect).toBe(
      1.5,
    );
    expect(after({ type: 'scene.rename', name: 'Crust' }).name).toBe('Crust');
    expect(
      after({ type: 'setting.change', thing: 'lookInside', change: { front: 'removed' } }).lookInside,
    ).toEqual({ front: 'removed' });
  });
  it('replace the whole scene, and are all undone and done again', () => {
    const other = { ...scene, name: 'Other' };
    const replaced = SceneHistory.of(scene).apply({ type: 'scene.replace', scene: other });
    expect(replaced.scene).toBe(other);
    expect(replaced.undo().scene).toEqual(scene);
    expect(replaced.undo().redo().scene).toEqual(other);
    const edits: Edit[] = [
      { type: 'scene.rename', name: 'a' },
      { type: 'layer.remove', id: 'all' },
      { type: 'chain.add', id: 'cut', step: step('points') },
      { type: 'parts.change', parts: ['tin'], change: { hidden: true } },
    ];
    let history = SceneHistory.of(scene);
    for (const edit of edits) history = history.apply(edit);
    const end = history.scene;
    for (const _ of edits) history = history.undo();
    expect(history.scene).toEqual(scene);
    for (const _ of edits) history = history.redo();
    expect(history.scene).toEqual(end);
  });
});

describe('kept cameras', () => {
  it('are kept, set anew under the same name, and deleted; the view itself stays', () => {
    const camera = { ...scene.camera, fieldOfView: 40 };
    const one = after({ type: 'camera.keep', camera: { name: 'front', camera: scene.camera } });
    const two = after({ type: 'camera.keep', camera: { name: 'top', camera } }, one);
    expect(two.cameras.map((c) => c.name)).toEqual(['front', 'top']);
    const again = after({ type: 'camera.keep', camera: { name: 'front', camera } }, two);
    expect(again.cameras.map((c) => [c.name, c.camera.fieldOfView])).toEqual([
      ['front', 40],
      ['top', 40],
    ]);
    expect(after({ type: 'camera.remove', name: 'front' }, again).cameras).toEqual([{ name: 'top', camera }]);
    expect(again.camera).toEqual(scene.camera);
  });
  it('are part of a script and of changes from elsewhere, and damaged ones are left out', async () => {
    const run = await ovenRun();
    const kept = applyEdit(defaultScene(run), {
      type: 'camera.keep',
      camera: { name: 'into the oven', camera: { ...defaultScene(run).camera, roll: 12, shiftRise: 5 } },
    });
    expect(readScript(writeScript(kept, run), run).cameras).toEqual(kept.cameras);
    const changes = changesBetween(defaultScene(run), kept);
    expect(withChanges(defaultScene(run), changes).scene).toEqual(kept);
    expect(changes.map((c) => sayPlace(c, kept))).toContain('the camera “into the oven”');
    const damaged = { ...kept, cameras: [...kept.cameras, { name: 'half', camera: { position: 'x' } }] };
    const { scene: repaired, repairs } = repairScene(damaged);
    expect(repaired.cameras).toEqual(kept.cameras);
    expect(repairs.join()).toMatch(/camera/);
  });
});
