import { sameJson } from '../model/same-json.ts';
import { withStepIds } from '../ops/chain/step.ts';
import { GLASS } from './bodies-around.ts';
import type {
  Annotation,
  ChainStep,
  KeptCamera,
  Layer,
  Legend,
  PartLook,
  Scale,
  Scene,
  SceneQuantity,
  SceneSet,
} from './document.ts';
import { type GaugeEdit, gaugeEditsSaid, isGaugeEdit, withGaugeEdit } from './gauge-edits.ts';
import { movedTo, replacedOrAdded } from './keyed-lists.ts';
import { withLegendsSet } from './legend-places.ts';
import type { Look } from './looks/look.ts';
import { type LookSetting, withLook } from './looks/wear-look.ts';
import { withQuantitiesChanged, withSetsChanged } from './named-quantities.ts';
import { isReelEdit, type ReelEdit, reelEditsSaid, withReelEdit } from './reel/reel-edits.ts';
import {
  isSceneryEdit,
  type SceneryEdit,
  sceneryEditsSaid,
  withSceneryEdit,
} from './scenery/scenery-edits.ts';
import { withoutUnusedScales } from './shown-scales.ts';
import { partLook } from './things/part-look.ts';
import { type AnySceneThing, type SceneThings, sceneThing, type ThingId } from './things/registry.ts';
import { withArrowKey } from './with-arrow-key.ts';

/**
 * Every way a scene can change. An edit is a named, plain record; applying it gives a new scene and leaves the old
 * one as it was.
 */
export type Edit =
  /** `thin`: lines that would hide it become as thin as glass. */
  | { type: 'layer.add'; layer: Layer; scale?: Scale; thin?: readonly string[] }
  | { type: 'layer.remove'; id: string }
  | { type: 'layer.change'; id: string; change: Partial<Omit<Layer, 'id'>>; scale?: Scale }
  | { type: 'layer.move'; id: string; to: number }
  | { type: 'layer.duplicate'; id: string; newId: string }
  | {
      type: 'layers.change';
      change: Partial<Pick<Layer, 'opacity' | 'edges' | 'lineWidth' | 'sides' | 'time' | 'wipe'>>;
    }
  | { type: 'chain.change'; id: string; step: string; options: Record<string, unknown> }
  | { type: 'chain.add'; id: string; step: Omit<ChainStep, 'id'> }
  | { type: 'chain.remove'; id: string; step: string }
  | { type: 'chain.move'; id: string; step: string; to: number }
  | { type: 'chain.switch'; id: string; step: string; off: boolean }
  | { type: 'quantity.save'; quantity: SceneQuantity }
  | { type: 'quantity.remove'; id: string }
  | { type: 'set.save'; set: SceneSet }
  | { type: 'set.remove'; name: string }
  | { type: 'scale.change'; id: string; change: Partial<Omit<Scale, 'id' | 'legend'>> }
  | { type: 'legend.change'; id: string; change: Partial<Legend> }
  | { type: 'annotation.add'; annotation: Annotation }
  | { type: 'annotation.change'; id: string; change: Record<string, unknown> }
  | { type: 'annotation.remove'; id: string }
  | { type: 'annotation.move'; id: string; to: number }
  | { type: 'parts.change'; parts: string[]; change: Partial<PartLook> }
  | { type: 'parts.alone'; shown: string[]; all: string[] }
  | GaugeEdit
  | SceneryEdit
  | ReelEdit
  | SettingEdit
  | { type: 'camera.keep'; camera: KeptCamera }
  | { type: 'camera.remove'; name: string }
  | { type: 'look.wear'; look: Look; on: LookSetting }
  | { type: 'scene.rename'; name: string }
  | { type: 'scene.replace'; scene: Scene };

/** A change of what a scene has one of: the light, the lens, the time stamp ... */
type SettingEdit = {
  [Id in ThingId]: { type: 'setting.change'; thing: Id; change: Partial<SceneThings[Id]> };
}[ThingId];

const said: Record<Exclude<Edit['type'], 'setting.change'>, string> = {
  ...gaugeEditsSaid,
  ...sceneryEditsSaid,
  ...reelEditsSaid,
  'layer.add': 'add a line',
  'layer.remove': 'delete a line',
  'layer.change': 'change a line',
  'layer.move': 'move a line',
  'layer.duplicate': 'duplicate a line',
  'layers.change': 'change all lines',
  'chain.change': 'change an operation',
  'chain.add': 'add an operation',
  'chain.remove': 'take an operation away',
  'chain.move': 'move an operation',
  'chain.switch': 'switch an operation on or off',
  'quantity.save': 'save a quantity',
  'quantity.remove': 'delete a quantity',
  'set.save': 'save a part set',
  'set.remove': 'delete a part set',
  'scale.change': 'change a colour scale',
  'legend.change': 'change a legend',
  'annotation.add': 'add words',
  'annotation.change': 'change words',
  'annotation.remove': 'delete words',
  'annotation.move': 'move words in order',
  'parts.change': 'hide, show or colour a part',
  'parts.alone': 'show a part alone',
  'camera.keep': 'keep a camera',
  'camera.remove': 'delete a camera',
  'look.wear': 'put on a look',
  'scene.rename': 'rename the scene',
  'scene.replace': 'open a shot',
};

/** What an edit does, for "undo ...". */
export const sayEdit = (edit: Edit): string =>
  edit.type === 'setting.change' ? `change ${sceneThing(edit.thing).name}` : said[edit.type];

/** A scene with an edit; legends are set anew where it shows others than before, and new arrows get their key. */
export function applyEdit(scene: Scene, edit: Edit): Scene {
  const next = edited(scene, edit);
  return edit.type === 'scene.replace' ? next : withArrowKey(withLegendsSet(next, scene), scene);
}

function edited(scene: Scene, edit: Edit): Scene {
  if (isGaugeEdit(edit)) return withGaugeEdit(scene, edit);
  if (isSceneryEdit(edit)) return withSceneryEdit(scene, edit);
  if (isReelEdit(edit)) return withReelEdit(scene, edit);
  switch (edit.type) {
    case 'layer.add':
      return withScale(
        {
          ...scene,
          layers: [
            ...scene.layers.map((l) => (edit.thin?.includes(l.id) ? { ...l, opacity: GLASS } : l)),
            edit.layer,
          ],
        },
        edit.scale,
      );
    case 'layer.remove':
      return withoutUnusedScales({ ...scene, layers: scene.layers.filter((l) => l.id !== edit.id) });
    case 'layer.change':
      return withoutUnusedScales(
        withScale(
          changeLayer(scene, edit.id, (l) => ({ ...l, ...edit.change })),
          edit.scale,
        ),
      );
    case 'layer.move':
      return changeLayers(scene, movedTo(scene.layers, edit.id, edit.to));
    case 'layer.duplicate': {
      const at = scene.layers.findIndex((l) => l.id === edit.id);
      if (at < 0) return scene;
      const copy = structuredCopy(scene.layers[at]);
      const layers = [...scene.layers];
      layers.splice(at + 1, 0, { ...copy, id: edit.newId });
      return { ...scene, layers };
    }
    case 'chain.change':
      return changeLayer(scene, edit.id, (l) => ({
        ...l,
        chain: l.chain.map((s) =>
          s.id === edit.step ? { ...s, options: { ...(s.options as object), ...edit.options } } : s,
        ),
      }));
    case 'layers.change':
      return { ...scene, layers: scene.layers.map((l) => ({ ...l, ...edit.change })) };
    case 'chain.add':
      return changeLayer(scene, edit.id, (l) => ({
        ...l,
        chain: withStepIds<Omit<ChainStep, 'id'> & { id?: string }>([...l.chain, edit.step]),
      }));
    case 'chain.remove':
      return changeLayer(scene, edit.id, (l) => ({ ...l, chain: l.chain.filter((s) => s.id !== edit.step) }));
    case 'chain.move':
      return changeLayer(scene, edit.id, (l) => ({ ...l, chain: movedTo(l.chain, edit.step, edit.to) }));
    case 'chain.switch':
      return changeLayer(scene, edit.id, (l) => ({
        ...l,
        chain: l.chain.map((s) => (s.id === edit.step ? { ...s, off: edit.off } : s)),
      }));
    case 'quantity.save':
      return withQuantitiesChanged(scene, replacedOrAdded(scene.quantities, 'id', edit.quantity));
    case 'quantity.remove':
      return withQuantitiesChanged(
        scene,
        scene.quantities.filter((q) => q.id !== edit.id),
      );
    case 'set.save':
      return withSetsChanged(scene, [...scene.sets.filter((s) => s.name !== edit.set.name), edit.set]);
    case 'set.remove':
      return withSetsChanged(
        scene,
        scene.sets.filter((s) => s.name !== edit.name),
      );
    case 'scale.change':
      return changeScale(scene, edit.id, (s) => ({ ...s, ...edit.change }));
    case 'legend.change':
      return changeScale(scene, edit.id, (s) => ({ ...s, legend: { ...s.legend, ...edit.change } }));
    case 'annotation.add':
      return { ...scene, annotations: [...scene.annotations, edit.annotation] };
    case 'annotation.change':
      return {
        ...scene,
        annotations: scene.annotations.map((a) => (a.id === edit.id ? { ...a, ...edit.change } : a)),
      };
    case 'annotation.remove':
      return { ...scene, annotations: scene.annotations.filter((a) => a.id !== edit.id) };
    case 'annotation.move':
      return { ...scene, annotations: movedTo(scene.annotations, edit.id, edit.to) };
    case 'parts.change': {
      const parts = { ...scene.parts };
      for (const name of edit.parts) {
        const look = { ...partLook.plain, ...parts[name], ...edit.change };
        // A part that looks as its lines say needs no entry.
        if (sameJson(look, partLook.plain)) delete parts[name];
        else parts[name] = look;
      }
      return { ...scene, parts };
    }
    case 'parts.alone':
      return applyEdit(
        applyEdit(scene, {
          type: 'parts.change',
          parts: edit.all.filter((p) => !edit.shown.includes(p)),
          change: { hidden: true },
        }),
        { type: 'parts.change', parts: edit.shown, change: { hidden: false } },
      );
    case 'setting.change':
      return changeThing(scene, sceneThing(edit.thing), edit.change);
    case 'camera.keep':
      return { ...scene, cameras: replacedOrAdded(scene.cameras, 'name', edit.camera) };
    case 'camera.remove':
      return { ...scene, cameras: scene.cameras.filter((c) => c.name !== edit.name) };
    case 'look.wear':
      return withLook(scene, edit.look, edit.on).scene;
    case 'scene.rename':
      return { ...scene, name: edit.name };
    case 'scene.replace':
      return edit.scene;
  }
}

function changeThing(scene: Scene, thing: AnySceneThing, change: object): Scene {
  const value = { ...scene[thing.id], ...change };
  return { ...scene, ...thing.takesAlong?.(value, scene), [thing.id]: value };
}

const structuredCopy = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T;

const changeLayers = (scene: Scene, layers: Layer[]): Scene =>
  layers === scene.layers ? scene : { ...scene, layers };

function changeLayer(scene: Scene, id: string, change: (layer: Layer) => Layer): Scene {
  return { ...scene, layers: scene.layers.map((l) => (l.id === id ? change(l) : l)) };
}

function changeScale(scene: Scene, id: string, change: (scale: Scale) => Scale): Scene {
  return { ...scene, scales: scene.scales.map((s) => (s.id === id ? change(s) : s)) };
}

function withScale(scene: Scene, scale: Scale | undefined): Scene {
  return scale ? { ...scene, scales: [...scene.scales, scale] } : scene;
}
