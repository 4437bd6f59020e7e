import { seenThrough } from '../../light/finish.ts';
import { type FinishOf, valuesOf } from '../../light/own-finish.ts';
import { boundsDiagonal } from '../../model/mesh.ts';
import type { RunDescription, RunPart } from '../../model/run.ts';
import { sameJson } from '../../model/same-json.ts';
import type { OperationSetting } from '../../ops/chain/operation.ts';
import { understood } from '../../ops/chain/understood.ts';
import { GLASS } from '../bodies-around.ts';
import type { Layer, PartLook, Scene } from '../document.ts';
import { activeSteps, wholeChain } from '../layer-chain.ts';
import { isEven } from '../light-rigs/light-rig.ts';
import { lightRigById } from '../light-rigs/registry.ts';
import { settingOf } from '../setting.ts';
import { partLook } from '../things/part-look.ts';
import type { SceneThings } from '../things/registry.ts';
import { type Dress, type Look, styledThings } from './look.ts';

/** What a look must know of the run whose scene it is put on. */
export interface LookSetting extends Pick<OperationSetting, 'bounds' | 'dimension' | 'parts'> {
  /** Those of the parts that are nothing but lines. */
  lineParts: readonly string[];
}

export function lookSettingOf(run: RunDescription): LookSetting {
  const { bounds, dimension, parts } = settingOf(run);
  const isLine = (p: RunPart): boolean => p.meshes.length > 0 && p.meshes.every((m) => m.dimension === 1);
  return { bounds, dimension, parts, lineParts: run.parts.filter(isLine).map((p) => p.name) };
}

/** What there is of a look to be put on. */
export interface Worn {
  scene: Scene;
  /** What of the look found nothing it fits, in words. */
  unmatched: string[];
}

const sizeOf = ({ bounds }: LookSetting): number => boundsDiagonal(bounds) || 1;

const isClear = (finish: FinishOf): boolean => {
  const values = valuesOf(finish);
  return values !== null && seenThrough(values) > 0;
};

/** Whether what it shows in the end is drawn as lines. */
function isThin(layer: Layer, scene: Scene, { dimension, lineParts }: LookSetting): boolean {
  const { parts } = wholeChain(layer, scene);
  const first = parts && parts.length > 0 && parts.every((p) => lineParts.includes(p)) ? 1 : dimension;
  const steps = activeSteps(layer, scene).map((step) => understood(step)!);
  return steps.reduce((d, { operation, options }) => operation.gives(d, options), first) === 1;
}

const isSeenThrough = ({ opacity, sides, finish }: Pick<Layer, 'opacity' | 'sides' | 'finish'>): boolean =>
  opacity < 1 || sides === 'clear' || isClear(finish);

/** What a line is to a look, which has a dress for each. */
type LineKind = 'values' | 'thin' | 'housing' | 'seenThrough' | 'solid';

function kindOfLine(layer: Layer, scene: Scene, setting: LookSetting): LineKind {
  if (layer.colour.kind !== 'plain') return 'values';
  if (isThin(layer, scene, setting)) return 'thin';
  if (layer.sides === 'inside') return 'housing';
  return isSeenThrough(layer) ? 'seenThrough' : 'solid';
}

/** What is flat is a drawing: light from one side, and a floor below it, tell nothing. */
const SOLID_ONLY: ReadonlySet<keyof SceneThings> = new Set(['light', 'floor', 'haze']);

/** The style of a scene, to be kept under a name. */
export function lookOfScene(scene: Scene, setting: LookSetting, name: string): Look {
  const size = sizeOf(setting);
  const lines = scene.layers.map((layer) => ({ layer, kind: kindOfLine(layer, scene, setting) }));
  const first = (kind: LineKind): Dress | null => {
    const found = lines.find((l) => l.kind === kind);
    return found ? dressOf(found.layer) : null;
  };
  const valued = first('values');
  const parts = Object.entries(scene.parts).flatMap(([part, { finish, colour }]) =>
    finish === null && colour === null
      ? []
      : [[part, { finish, ...(colour === null ? {} : { colour }) }] as const],
  );
  return {
    name,
    purpose: '',
    things: Object.fromEntries(
      styledThings.map((t) => [t.id, t.style.keep(scene[t.id], size)]),
    ) as Look['things'],
    solid: first('solid'),
    housing: first('housing'),
    seenThrough: first('seenThrough'),
    thin: first('thin'),
    values: valued && { finish: valued.finish },
    lines: lines
      .filter(({ kind }) => kind !== 'values')
      .map(({ layer }) => ({ parts: layer.parts, dress: dressOf(layer) })),
    parts: Object.fromEntries(parts),
  };
}

const dressOf = ({ finish, opacity, colour }: Layer): Dress => ({
  finish,
  opacity,
  ...(colour.kind === 'plain' ? { colour: colour.colour } : {}),
});

/** A scene in a look. Its data, what its lines do, its camera and its words stay as they are. */
export function withLook(scene: Scene, look: Look, setting: LookSetting): Worn {
  const unmatched: string[] = [];
  let next = withThings(scene, look, setting, unmatched);
  const worn = new Set<Look['lines'][number]>();
  const layers = next.layers.map((layer) => {
    const kind = kindOfLine(layer, scene, setting);
    if (kind === 'values') return { ...layer, ...look.values };
    const own = lineFor(layer, look);
    if (own) worn.add(own);
    const made = dressed(layer, own?.dress ?? look[kind]);
    return kind === 'seenThrough' ? stillSeenThrough(layer, made) : made;
  });
  next = { ...next, layers, parts: partsWith(scene, look) };
  for (const line of look.lines)
    if (!worn.has(line) && line.parts && !line.parts.some((p) => setting.parts.includes(p)))
      unmatched.push(`the run has none of ${line.parts.map((p) => `"${p}"`).join(', ')}, which have a look`);
  for (const part of Object.keys(look.parts))
    if (!setting.parts.includes(part)) unmatched.push(`the run has no part "${part}", which has a look`);
  return { scene: next, unmatched };
}

function withThings(scene: Scene, look: Look, setting: LookSetting, unmatched: string[]): Scene {
  const size = sizeOf(setting);
  let next = scene;
  for (const thing of styledThings) {
    const kept = look.things[thing.id];
    if (!kept) continue;
    if (setting.dimension === 2 && SOLID_ONLY.has(thing.id)) {
      const even = thing.id === 'light' && isEven(lightRigById((kept as SceneThings['light']).rig));
      if (!even) unmatched.push(`${thing.name}: the run is flat, and keeps its own`);
      if (!even) continue;
    }
    const value = thing.style.wear(kept, next[thing.id], size);
    next = { ...next, ...thing.takesAlong?.(value, next), [thing.id]: value };
  }
  return next;
}

/** What a look says of a line of its own: that which shows the same parts, or else most of them. */
function lineFor({ parts }: Layer, { lines }: Look): Look['lines'][number] | null {
  const same = lines.find((l) => sameJson(l.parts && [...l.parts].sort(), parts && [...parts].sort()));
  if (same || !parts) return same ?? null;
  const shared = (l: Look['lines'][number]): number => parts.filter((p) => l.parts?.includes(p)).length;
  const most = [...lines].sort((a, b) => shared(b) - shared(a))[0];
  return most && shared(most) > parts.length / 2 ? most : null;
}

function dressed(layer: Layer, dress: Dress | null): Layer {
  if (!dress) return layer;
  const { colour, ...rest } = dress;
  return { ...layer, ...rest, colour: colour === undefined ? layer.colour : { kind: 'plain', colour } };
}

/** A pane of glass that becomes one of paint hides nothing all the same. */
const stillSeenThrough = (before: Layer, layer: Layer): Layer =>
  isClear(before.finish) && !isSeenThrough(layer) ? { ...layer, opacity: GLASS } : layer;

/** Looks of parts: what a look dresses all bodies in takes the place of what they wore, but for colours that were chosen for values too. */
function partsWith({ parts }: Scene, look: Look): Scene['parts'] {
  const out: Scene['parts'] = {};
  const keep = (name: string, value: PartLook): void => {
    if (!sameJson(value, partLook.plain)) out[name] = value;
  };
  const undressed: Partial<PartLook> = look.solid ? { finish: null } : {};
  for (const [name, part] of Object.entries(parts)) {
    const uncoloured = look.solid?.colour !== undefined && !part.coversValues ? { colour: null } : {};
    keep(name, { ...part, ...undressed, ...uncoloured, ...(look.parts[name] ?? {}) });
  }
  for (const [name, dress] of Object.entries(look.parts))
    if (!parts[name]) keep(name, { ...partLook.plain, coversValues: false, ...dress });
  return out;
}
