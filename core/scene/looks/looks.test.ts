import { beforeAll, describe, expect, it } from 'vitest';
import { ovenRun } from '../../../tests/sample-run.ts';
import { finishById } from '../../light/finishes/registry.ts';
import type { RunDescription } from '../../model/run.ts';
import { newStep, withStepIds } from '../../ops/chain/step.ts';
import { operationById } from '../../ops/registry.ts';
import { defaultScene } from '../default-scene.ts';
import { type Layer, readScene, type Scene } from '../document.ts';
import { applyEdit } from '../edits.ts';
import { SceneHistory } from '../history.ts';
import { settingOf } from '../setting.ts';
import { partLook } from '../things/part-look.ts';
import { type Look, readLook, styledThings, writtenLook } from './look.ts';
import { shippedLooks, USUAL_LOOK } from './registry.ts';
import { type LookSetting, lookOfScene, lookSettingOf, withLook } from './wear-look.ts';

let run: RunDescription;
let scene: Scene;
let setting: LookSetting;
beforeAll(async () => {
  run = await ovenRun();
  setting = lookSettingOf(run);
  const first = defaultScene(run);
  const [valued] = first.layers;
  const line = (id: string, more: Partial<Layer>): Layer => ({
    ...valued,
    id,
    colour: { kind: 'plain', colour: '#a08060' },
    ...more,
  });
  scene = {
    ...first,
    layers: [
      valued,
      line('racks', { parts: [run.parts[0].name] }),
      line('panes', { parts: null, opacity: 0.2 }),
      line('walls', { parts: run.parts.slice(1, 3).map((p) => p.name), sides: 'inside' }),
    ],
  };
});

/** Everything of a scene that is data, or what is done with it. */
const dataOf = ({ layers, ...rest }: Scene) => ({
  layers: layers.map(({ finish: _, colour, opacity: _o, ...l }) => ({
    ...l,
    colour: colour.kind === 'field' ? colour : null,
  })),
  scales: rest.scales,
  sets: rest.sets,
  words: [rest.annotations, rest.stamp, rest.legends],
  camera: [rest.camera.position, rest.camera.target, rest.camera.up],
  step: rest.step,
});

describe('looks that ship', () => {
  it('are ten and the one scenes begin with, each called otherwise', () => {
    expect(shippedLooks).toHaveLength(11);
    for (const of of ['id', 'name', 'purpose'] as const)
      expect(new Set(shippedLooks.map((l) => l[of])).size).toBe(shippedLooks.length);
    expect(shippedLooks.some((l) => l.id === USUAL_LOOK)).toBe(true);
  });
  it('give scenes that are valid, with the same data, and differ from one another', () => {
    const seen = new Set<string>();
    for (const look of shippedLooks) {
      const { scene: worn, unmatched } = withLook(scene, look, setting);
      expect(unmatched, look.id).toEqual([]);
      expect(readScene(worn), look.id).toEqual(worn);
      expect(dataOf(worn), look.id).toEqual(dataOf(scene));
      seen.add(JSON.stringify(worn));
    }
    expect(seen.size).toBe(shippedLooks.length);
  });
  it('leave nothing of the look that was worn before', () => {
    for (const before of shippedLooks)
      for (const look of shippedLooks) {
        const direct = withLook(scene, look, setting).scene;
        const after = withLook(withLook(scene, before, setting).scene, look, setting).scene;
        for (const { id } of styledThings.filter((t) => t.id !== 'camera'))
          expect(after[id], `${look.id} after ${before.id}: ${id}`).toEqual(direct[id]);
        expect(after.layers.map((l) => [l.finish, l.opacity])).toEqual(
          direct.layers.map((l) => [l.finish, l.opacity]),
        );
      }
  });
  it('dress bodies in finishes there are', () => {
    for (const { solid, seenThrough, values } of shippedLooks)
      for (const dress of [solid, seenThrough, values])
        if (typeof dress?.finish === 'string') expect(finishById(dress.finish)).toBeDefined();
  });
});

describe('putting on a look', () => {
  const look = (more: Partial<Look>): Look => ({
    name: 'own',
    purpose: '',
    things: {},
    solid: null,
    housing: null,
    thin: null,
    seenThrough: null,
    values: null,
    lines: [],
    parts: {},
    ...more,
  });
  const worn = (more: Partial<Look>, on: Scene = scene): Scene => withLook(on, look(more), setting).scene;

  it('dresses what hides, what is seen through, and what shows values, each as it says', () => {
    const { layers } = worn({
      solid: { finish: 'matte-paint', colour: '#111111' },
      housing: { finish: 'enamel' },
      seenThrough: { finish: 'clear-glass', opacity: 1 },
      values: { finish: 'satin-paint' },
    });
    expect(layers.map((l) => l.finish)).toEqual(['satin-paint', 'matte-paint', 'clear-glass', 'enamel']);
    expect(layers[0].colour).toEqual(scene.layers[0].colour);
    expect(layers[1].colour).toEqual({ kind: 'plain', colour: '#111111' });
    // What is seen through by its finish need not be faint.
    expect([layers[2].opacity, layers[2].colour]).toEqual([1, scene.layers[2].colour]);
  });
  it('draws lines in a colour of their own, not in that of bodies', () => {
    const edges = newStep(operationById('edges'), operationById('edges').defaults(settingOf(run)));
    const chain = withStepIds([edges]);
    const lined = scene.layers.map((l) => (l.id === 'racks' ? { ...l, chain } : l));
    const white = shippedLooks.find((l) => l.id === 'technical-ink')!;
    const dressed = withLook({ ...scene, layers: lined }, white, setting).scene;
    expect(dressed.layers[1].colour).not.toEqual({ kind: 'plain', colour: '#ffffff' });
    expect(dressed.layers[2].colour).toEqual({ kind: 'plain', colour: '#ffffff' });
    // So are parts that are nothing but lines.
    const wires = { ...setting, lineParts: [run.parts[0].name] };
    expect(withLook(scene, white, wires).scene.layers[1].colour).toEqual(dressed.layers[1].colour);
  });
  it('that is of glass by its finish alone is seen through in every other look too', () => {
    const glazed = scene.layers.map((l) => (l.id === 'racks' ? { ...l, finish: 'clear-glass' } : l));
    const painted = worn({ seenThrough: { finish: null } }, { ...scene, layers: glazed });
    expect(painted.layers[1].opacity).toBeLessThan(0.3);
    const frosted = worn({ seenThrough: { finish: 'frosted-glass' } }, { ...scene, layers: glazed });
    expect(frosted.layers[1]).toMatchObject({ finish: 'frosted-glass', opacity: 1 });
  });
  it('leaves alone what it says nothing of', () => {
    expect(worn({})).toEqual(scene);
  });
  it('takes the finish parts wore away, but not a colour that was chosen for values too', () => {
    const [a, b] = run.parts.map((p) => p.name);
    const parts = {
      [a]: { ...partLook.plain, finish: 'oak', colour: '#ff0000', coversValues: true },
      [b]: { ...partLook.plain, colour: '#00ff00', coversValues: false, hidden: true },
    };
    const dressed = worn({ solid: { finish: 'plaster', colour: '#cccccc' } }, { ...scene, parts });
    expect(dressed.parts[a]).toMatchObject({ finish: null, colour: '#ff0000' });
    expect(dressed.parts[b]).toMatchObject({ colour: null, hidden: true });
  });
  it('is one step of undo', () => {
    const history = SceneHistory.of(scene).apply({ type: 'look.wear', look: shippedLooks[3], on: setting });
    expect(history.undoText).toBe('put on a look');
    expect(history.scene).toEqual(withLook(scene, shippedLooks[3], setting).scene);
    expect(history.undo().scene).toEqual(scene);
  });
  it('of a flat run keeps its light, and says so', () => {
    const flat = { ...setting, dimension: 2 };
    const { scene: next, unmatched } = withLook(scene, shippedLooks[3], flat);
    expect([next.light, next.floor]).toEqual([scene.light, scene.floor]);
    expect(next.backdrop).not.toEqual(scene.backdrop);
    expect(unmatched.join()).toMatch(/the light: the run is flat/);
  });
});

describe('the look of a scene', () => {
  it('put on the same scene changes nothing, however it was kept', () => {
    const edited = [
      { type: 'setting.change', thing: 'floor', change: { kind: 'tiles', edge: 0.3, height: 0.05 } } as const,
      { type: 'setting.change', thing: 'light', change: { rig: 'rim', warmth: 0.4 } } as const,
      { type: 'setting.change', thing: 'focus', change: { blur: 2 } } as const,
      { type: 'layer.change', id: 'racks', change: { finish: 'oak' } } as const,
    ].reduce(applyEdit, scene);
    const kept = JSON.parse(JSON.stringify(writtenLook(lookOfScene(edited, setting, 'mine'))));
    const { look, leftOut } = readLook(kept);
    expect(leftOut).toEqual([]);
    const again = withLook(edited, look, setting);
    expect(again.unmatched).toEqual([]);
    expect(again.scene.camera.fieldOfView).toBeCloseTo(edited.camera.fieldOfView, 12);
    for (const k of [0, 1, 2]) {
      expect(again.scene.camera.position[k]).toBeCloseTo(edited.camera.position[k], 9);
      again.scene.camera.position[k] = edited.camera.position[k];
    }
    again.scene.camera.height = edited.camera.height;
    expect(again.scene).toEqual(edited);
  });
  it('put on another run finds its lines by their parts, and tells what it has no use for', () => {
    const [part] = run.parts.map((p) => p.name);
    const parts = { 'old fan': { ...partLook.plain, finish: 'brass' } };
    const made = lookOfScene({ ...scene, parts }, setting, 'mine');
    made.lines[0] = { parts: ['old tray'], dress: { finish: 'oak' } };
    const { scene: worn, unmatched } = withLook(scene, made, setting);
    // By most of its parts it has none: it is dressed as the first that hides what is behind it.
    expect(worn.layers[1]).toMatchObject({ parts: [part], finish: scene.layers[1].finish });
    expect(unmatched).toEqual([
      'the run has none of "old tray", which have a look',
      'the run has no part "old fan", which has a look',
    ]);
  });
  it('keeps lengths as shares of the model: tiles fit another one', () => {
    const tiled = { ...scene, floor: { ...scene.floor, kind: 'tiles' as const, edge: 0.3 } };
    const made = lookOfScene(tiled, setting, 'mine');
    const wide = { ...setting, bounds: setting.bounds.map((v) => 1000 * v) as LookSetting['bounds'] };
    expect(withLook(scene, made, wide).scene.floor.edge).toBeCloseTo(300, 9);
  });
  it('damaged, or of a newer version, is told and read as far as it goes', () => {
    const kept = writtenLook(lookOfScene(scene, setting, 'mine'));
    const odd = { ...kept, things: { ...kept.things, light: { rig: 'none such' }, aurora: { on: true } } };
    const { look, leftOut } = readLook(odd);
    expect(leftOut).toEqual(['the light is damaged', 'this version has no "aurora"']);
    expect([look.things.light, look.things.floor]).toEqual([undefined, kept.things.floor]);
    expect(() => readLook({ name: 'x' })).toThrow(/damaged at/);
    expect(() => readLook(null)).toThrow(/damaged at/);
  });
});
