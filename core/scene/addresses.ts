import type { OptionControl } from '../ops/chain/operation.ts';
import { understood } from '../ops/chain/understood.ts';
import { type Blend, blended, blendOf } from './blending.ts';
import type { ChainStep, Layer, Scene } from './document.ts';
import { keyedLists } from './keyed-lists.ts';
import { kindIn, kindListNames, ofKinds } from './kind-lists.ts';
import { layerLabel } from './layer-chain.ts';
import type { Declaration } from './things/declaration.ts';
import { layerLook } from './things/layer-look.ts';
import { legend } from './things/legend.ts';
import { partLook } from './things/part-look.ts';
import { sceneThings } from './things/registry.ts';
import { scale } from './things/scale.ts';

/**
 * Where a value of a scene is, by ids and names and never by place, so that it stays the same whatever is moved:
 * `['light', 'contact']`, `['camera']`, `['scales', ID, 'legend', 'x']`, `['layers', ID, 'opacity']`,
 * `['layers', ID, 'chain', STEP, 'offset']`, `['parts', NAME, 'colour']`.
 */
export type Address = readonly string[];

/** A value that can have keys in a film. */
export interface Keyable {
  address: Address;
  /** What it is, in words: "opacity of line 2". */
  name: string;
  value: unknown;
  /** Brings it from one state to another. */
  between(a: unknown, b: unknown, share: number): unknown;
}

type Holder = Record<string, unknown>;
type AnyControl = OptionControl<Holder>;

/** Key of a list by which its elements are known, in the document and within a layer. */
const keyOfList: Record<string, string> = { ...keyedLists, chain: 'id' };

/** Every value of a scene that can change over time, in the order in which the scene is read. */
export function keyable(scene: Scene): Keyable[] {
  const out: Keyable[] = [];
  for (const layer of scene.layers) out.push(...keyableOfLayer(layer, scene));
  for (const [name, look] of Object.entries(scene.parts))
    out.push(...keyableOf(partLook, look, ['parts', name], `part ${name}`));
  for (const s of scene.scales) {
    out.push(...keyableOf(scale, s, ['scales', s.id], `the scale ${s.name}`));
    out.push(...keyableOf(legend, s.legend, ['scales', s.id, 'legend'], `the legend of ${s.name}`));
  }
  for (const list of kindListNames)
    for (const [i, one] of ofKinds(scene, list).entries()) {
      const kind = kindIn(list, one.kind);
      if (!kind) continue;
      const name = `${kind.name} ${i + 1}`;
      out.push(...keyableOf(kind, one, [list, one.id], name));
      out.push(valueAt([list, one.id, 'visible'], `${name} shown`, one.visible, 'hold'));
    }
  for (const thing of sceneThings.filter(({ id }) => !staysInFilm([id])))
    out.push(...keyableOf(thing, scene[thing.id], [thing.id], thing.name));
  return out;
}

/** How long a film is, how it is given out and what is checked of it are nothing that changes in it. */
export const staysInFilm = ([thing]: Address): boolean => thing === 'reel' || thing === 'checks';

function keyableOfLayer(layer: Layer, scene: Scene): Keyable[] {
  const at = ['layers', layer.id];
  const of = layerLabel(layer, scene);
  const out = keyableOf(layerLook, layer, at, of);
  const { colour } = layer;
  if (colour.kind === 'plain')
    out.push(valueAt([...at, 'colour', 'colour'], `colour of ${of}`, colour.colour, 'colour'));
  for (const step of layer.chain) {
    const known = understood(step);
    if (!known) continue;
    const controls = known.operation.controls as AnyControl[];
    const name = `${known.operation.name.toLowerCase()} of ${of}`;
    out.push(...keyableOfControls(controls, known.options, [...at, 'chain', step.id], name));
    out.push(valueAt([...at, 'chain', step.id, 'off'], `${name} switched off`, step.off, 'hold'));
  }
  return out;
}

function keyableOf<T extends object>(
  { controls, blend }: Declaration<T>,
  value: T,
  at: Address,
  of: string,
): Keyable[] {
  const whole: Keyable[] = blend
    ? [{ address: at, name: of, value, between: (a, b, share) => blend(a as T, b as T, share) }]
    : [];
  return [...whole, ...keyableOfControls(controls as AnyControl[], value as Holder, at, of)];
}

/** The options that a control changes, of those that can have keys. */
export function optionsOfControl(control: OptionControl<Record<string, unknown>>): string[] {
  if (control.kind === 'plane') return [control.key, control.offset];
  if (control.kind === 'span') return [control.key, control.high];
  if (control.kind === 'quantity') return [control.key, control.component];
  return [control.key];
}

/** What those of a control are called that are not called as it is, and how they come from one value to another. */
const besides: Partial<Record<AnyControl['kind'], { label: string; blend: Blend }>> = {
  plane: { label: 'place', blend: 'number' },
  span: { label: 'upper end', blend: 'number' },
  quantity: { label: 'component', blend: 'hold' },
};

/** What the values of some controls are called whose labels say what is done with them: `Of`, `At`. */
const usualNames: Partial<Record<AnyControl['kind'], string>> = { quantity: 'quantity', levels: 'values' };

/** What the value of a control is called away from the other settings of its thing. */
export const nameOfControl = ({
  kind,
  label,
  called,
}: Pick<AnyControl, 'kind' | 'label' | 'called'>): string => called ?? usualNames[kind] ?? label;

function keyableOfControls(controls: AnyControl[], values: Holder, at: Address, of: string): Keyable[] {
  const made = controls.flatMap((control) => {
    const named = (key: string, label: string, blend: Blend): Keyable[] =>
      key in values ? [valueAt([...at, key], `${label.toLowerCase()} of ${of}`, values[key], blend)] : [];
    const own = { label: nameOfControl(control), blend: blendOf(control) };
    return optionsOfControl(control).flatMap((key) => {
      const { label, blend } = key === control.key ? own : besides[control.kind]!;
      return named(key, label, blend);
    });
  });
  // An option may have several controls for its several meanings.
  return made.filter((k, i) => made.findIndex((m) => m.address.at(-1) === k.address.at(-1)) === i);
}

const valueAt = (address: Address, name: string, value: unknown, blend: Blend): Keyable => ({
  address,
  name,
  value,
  between: (a, b, share) => blended(blend, a, b, share),
});

/** Where an address leads within a value: an entry, or the index of an element that goes by its id. */
function entryOf(of: unknown, list: string | null, key: string): string | number | null {
  if (typeof of !== 'object' || of === null) return null;
  if (!Array.isArray(of)) return Object.hasOwn(of, key) ? key : null;
  const at = of.findIndex((e: Holder) => String(e[keyOfList[list ?? '']]) === key);
  return at < 0 ? null : at;
}

/** Options stand a level deeper than their addresses say: a step is known by its id, an option by its key. */
const isStep = (of: unknown, list: string | null): of is ChainStep =>
  list === 'chain' && typeof of === 'object' && of !== null && 'op' in of;

/** The options of a step, also those that it leaves to what is usual. */
const optionsOf = (step: ChainStep): unknown => understood(step)?.options ?? step.options;

/**
 * The value at an address; undefined where the scene has no such place any more.
 *
 * @example read(scene, ['layers', 'layer-cut', 'chain', 'step-1', 'offset'])
 */
export function read(scene: Scene, address: Address): unknown {
  let value: unknown = scene;
  let list: string | null = null;
  for (const key of address) {
    if (isStep(value, list) && key !== 'off') value = optionsOf(value);
    const entry = entryOf(value, list, key);
    if (entry === null) return undefined;
    list = Array.isArray(value) ? list : key;
    value = (value as Holder)[entry];
  }
  return value;
}

/**
 * A scene with another value at an address; the given one is left alone. Where there is no such place any more, the
 * scene stays as it is.
 */
export const write = (scene: Scene, address: Address, value: unknown): Scene =>
  written(scene, null, address, value) as Scene;

function written(of: unknown, list: string | null, [key, ...rest]: Address, value: unknown): unknown {
  if (key === undefined) return value;
  if (isStep(of, list) && key !== 'off') {
    const before = optionsOf(of);
    const options = written(before, null, [key, ...rest], value);
    return options === before ? of : { ...of, options };
  }
  const entry = entryOf(of, list, key);
  if (entry === null) return of;
  const inner = written((of as Holder)[entry], Array.isArray(of) ? list : key, rest, value);
  if (inner === (of as Holder)[entry]) return of;
  return Array.isArray(of) ? of.with(entry as number, inner) : { ...(of as Holder), [entry]: inner };
}
