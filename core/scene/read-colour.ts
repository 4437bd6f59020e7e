import { isUsual, ownName } from '../fields/quantity-sources.ts';
import { readQuantity } from '../language/read-quantity.ts';
import type { SentenceReader } from '../language/sentence-reader.ts';
import { type Component, type Quantity, quantityKey } from '../model/quantity.ts';
import type { RunDescription } from '../model/run.ts';
import { sameJson } from '../model/same-json.ts';
import type { OperationSetting } from '../ops/chain/operation.ts';
import { operations } from '../ops/registry.ts';
import { newScale } from './default-scene.ts';
import type { Layer, Scale, Scene } from './document.ts';
import { plainColours } from './layer-sentence.ts';
import { scalesOfLayer, shownScales } from './shown-scales.ts';
import { scale as scaleThing } from './things/scale.ts';
import { clausesOfLine } from './things/scale-phrases.ts';

/** What reading the colours of a line needs to know. */
export interface ColourContext {
  reader: SentenceReader;
  layer: Layer;
  before: Layer | null;
  scene: Scene;
  run: RunDescription;
  setting: OperationSetting;
  scaleId: string;
}

/** What a sentence says of colours: a plain one, or a quantity and what it says of its scale. */
export type Coloured =
  | { kind: 'plain' }
  | { kind: 'field'; field: string; component: Component; clauses: Partial<Scale>; numbered: Scale | null };

/** The scale a quantity has already, or a new one: layers that show the same share their colours. */
function scaleOf(
  { field: key, component }: Pick<Quantity, 'field' | 'component'>,
  { scene, run, scaleId }: Pick<ColourContext, 'scene' | 'run' | 'scaleId'>,
  map?: Scale['map'],
): { id: string; scale: Scale | null } {
  const same = scene.scales.filter((s) => s.quantity === quantityKey(key, component));
  const known = map ? same.find((s) => sameJson(s.map, map)) : same[0];
  if (known) return { id: known.id, scale: null };
  const scale = freshScale({ field: key, component }, { scene, run, scaleId });
  return { id: scale.id, scale: { ...scale, map: map ?? scale.map } };
}

function freshScale(
  { field: key, component }: Pick<Quantity, 'field' | 'component'>,
  { scene, run, scaleId }: Pick<ColourContext, 'scene' | 'run' | 'scaleId'>,
): Scale {
  const field = run.fields.find((f) => f.key === key) ?? {
    key,
    name: ownName(key),
    role: 'other' as const,
  };
  return newScale(field, component, scaleId, field.name, shownScales(scene));
}

/** Gives a layer the scale its sentence speaks of: one that is as it says, or a new one. */
export function useScale(suffix: ColourContext, said: Extract<Coloured, { kind: 'field' }>): Scale | null {
  const { layer, before, scene } = suffix;
  const { field, component, clauses, numbered } = said;
  const use = (id: string): void => {
    layer.colour = { kind: 'field', field, component, scale: id };
  };
  const { quantity, ...own } = clauses;
  const keys = Object.keys(own) as (keyof Scale)[];
  const asSaid = (s: Scale): boolean => keys.every((k) => sameJson(s[k], clauses[k]));
  if (numbered && asSaid(numbered)) {
    use(numbered.id);
    return null;
  }
  if (keys.every((k) => k === 'map')) {
    const { id, scale } = scaleOf(said, suffix, own.map);
    use(id);
    return scale;
  }
  const same = scene.scales.filter((s) => s.quantity === quantityKey(field, component));
  const had = before?.colour.kind === 'field' ? before.colour.scale : null;
  const known = same.find((s) => s.id === had && asSaid(s)) ?? same.find(asSaid);
  if (known) {
    use(known.id);
    return null;
  }
  // What is not said stays as the line had it.
  const fresh = freshScale(said, suffix);
  const base = numbered ?? same.find((s) => s.id === had);
  // A scale that takes the place of one that no other line uses stands where that one stood.
  const shared = base && scene.layers.filter((l) => scalesOfLayer(l).includes(base.id)).length > 1;
  const kept = base && { ...base, id: fresh.id, legend: shared ? fresh.legend : base.legend };
  const scale = { ...fresh, ...kept, ...own };
  use(scale.id);
  return scale;
}

/** A colour, with everything that is said of its scale directly behind it. */
export function readColour(suffix: ColourContext): Coloured | null {
  const { reader, layer, setting } = suffix;
  if (!reader.words(',')) return null;
  const plain = reader.first([
    () =>
      reader.words('in')
        ? reader.name(plainColours.map((c) => ({ text: c.name, value: c.colour })))
        : undefined,
    () => (reader.words('in') ? reader.colourCode() : undefined),
  ]);
  if (plain) {
    layer.colour = { kind: 'plain', colour: plain };
    return { kind: 'plain' };
  }
  if (!reader.words('coloured by')) return null;
  const quantity = readQuantity(reader, setting);
  if (!quantity) return null;
  const { field, component } = quantity;
  const clauses: Partial<Scale> = { quantity: quantityKey(field, component) };
  const coloured: Coloured = { kind: 'field', field, component, clauses, numbered: null };
  while (!reader.done && readClause(suffix, coloured));
  return coloured;
}

const ofLines = clausesOfLine(scaleThing.plain);

/** Something of the scale, with a comma before it or without: `from 20 to 200 °C`, `on Heat`, `reversed`. */
export function readClause({ reader, scene, setting }: ColourContext, coloured: Coloured): boolean {
  if (coloured.kind !== 'field') return false;
  const numbered = reader.first([
    () => {
      if (!reader.words('(scale')) return undefined;
      const n = reader.number(null);
      return n !== undefined && reader.words(')') ? scene.scales[n - 1] : undefined;
    },
  ]);
  if (numbered) {
    coloured.numbered = numbered;
    return true;
  }
  const ownMaps = scene.scales.flatMap((s) =>
    typeof s.map === 'string' ? [] : [{ text: s.map.name, value: s.map }],
  );
  const begin = reader.at;
  reader.words(',');
  const behind = reader.at;
  for (const phrase of ofLines) {
    const found: Partial<Scale> = { quantity: coloured.clauses.quantity };
    if (phrase.read(reader, found, setting)) {
      Object.assign(coloured.clauses, found);
      return true;
    }
    reader.at = behind;
  }
  const own = reader.first([() => (reader.words('on') ? reader.name(ownMaps) : undefined)]);
  if (own) coloured.clauses.map = own;
  else reader.at = begin;
  return own !== undefined;
}

/** What operations of a layer want it to be coloured by, where they want something. */
function wantedBy({ chain }: Layer, { quantities }: OperationSetting): Quantity | null {
  for (const { op, options } of chain.toReversed()) {
    const field = operations.find((o) => o.id === op)?.traits?.colouredBy?.(options);
    const found = quantities.find(
      (q) => q.field === field && (q.component === 'magnitude' || q.components === 1),
    );
    if (found) return found;
  }
  return null;
}

/** New layers show what a newcomer most likely wants to see; lines on a surface are drawn dark. */
export function colourOfNew(
  layer: Layer,
  scene: Scene,
  setting: OperationSetting,
  run: RunDescription,
  scaleId: string,
): Scale | null {
  const last = operations.find((o) => o.id === layer.chain.at(-1)?.op);
  const lines = last && last.gives(run.dimension) < 2 && !last.traits?.showsValues;
  // In the colours of the quantity it is a level of, it is all one colour.
  const own = last?.traits?.levelOf?.(layer.chain.at(-1)!.options);
  const other = own
    ? setting.quantities.find((q) => q.field !== own && isUsual(q.field) && q.component === 'magnitude')
    : null;
  const asked = wantedBy(layer, setting);
  const wanted =
    asked ?? (own ? (own === setting.preferred?.field ? other : setting.preferred) : setting.preferred);
  if (!wanted || lines) {
    layer.colour = { kind: 'plain', colour: lines ? '#26241f' : own ? '#b4733f' : plainColours[0].colour };
    return null;
  }
  const { id, scale } = scaleOf(wanted, { scene, run, scaleId });
  layer.colour = { kind: 'field', field: wanted.field, component: wanted.component, scale: id };
  return scale;
}
