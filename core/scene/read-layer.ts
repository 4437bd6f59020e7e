import { colourMaps } from '../colour/maps.ts';
import { isUsual, ownName } from '../fields/quantity-sources.ts';
import { quantityNames } from '../language/quantity-names.ts';
import { type Name, SentenceReader } from '../language/sentence-reader.ts';
import { type Quantity, quantityKey } from '../model/quantity.ts';
import type { RunDescription } from '../model/run.ts';
import type { OperationSetting } from '../ops/chain/operation.ts';
import { newStep } from '../ops/chain/step.ts';
import { type AnyOperation, operations } from '../ops/registry.ts';
import { newScale } from './default-scene.ts';
import type { ChainStep, Layer, Scale, Scene } from './document.ts';
import { plainEdges } from './document.ts';
import { plainColours } from './layer-sentence.ts';
import { plainReadings } from './plain-words.ts';
import { settingOf } from './setting.ts';

export type ReadLayer =
  | { layer: Layer; scale: Scale | null }
  /** Where it is not understood any more, and what would be there. */
  | { at: number; expected: string[] };

/** Nobody says more than this in everyday words; what is longer is a script's and is read in full. */
const LONGEST_PLAIN = 400;

/**
 * Reads a sentence to a layer, the reverse of `layerSentence`. What the sentence leaves out is as in `before`, or as a
 * newcomer would want it.
 *
 * @param before the layer that is being edited, or null for a new one
 * @param id of a new layer, and of a new scale behind it
 */
export function readLayer(
  sentence: string,
  scene: Scene,
  run: RunDescription,
  before: Layer | null,
  id: string,
): ReadLayer {
  const strict = readInFull(sentence, scene, run, before, id);
  // What is half typed is not guessed at: guesses would come and go with every letter.
  const { length } = sentence.trim();
  if ('layer' in strict || length < 3 || length > LONGEST_PLAIN) return strict;
  const setting = settingOf(run, scene, before ?? undefined);
  for (const reading of [sentence, ...plainReadings(sentence, { scene, run, setting })]) {
    const read = readInFull(reading, scene, run, before, id, true);
    if ('layer' in read) return read;
  }
  return strict;
}

function readInFull(
  sentence: string,
  scene: Scene,
  run: RunDescription,
  before: Layer | null,
  id: string,
  forgiving = false,
): ReadLayer {
  const reader = new SentenceReader(sentence, forgiving);
  const setting = settingOf(run, scene, before ?? undefined);
  const layer = before
    ? {
        ...before,
        opacity: 1,
        edges: { ...plainEdges },
        sides: 'both' as const,
        time: { kind: 'now' as const },
        visible: true,
      }
    : freshLayer(run, id);
  const own = reader.first([() => readOwnName(reader)]);
  layer.name = own ?? (before ? null : layer.name);
  const chain = readStart(reader, layer, scene, run, setting, before);
  let scale: Scale | null = null;
  if (chain) {
    const context: Suffix = { reader, layer, scene, run, setting, scaleId: `${id}-scale` };
    let coloured = false;
    for (let more = true; more && !reader.done; ) {
      more = false;
      const begin = reader.at;
      const next = readFollowing(reader, setting, chain, before);
      if (next) more = true;
      else {
        reader.at = begin;
        const colour = readColour(context);
        if (colour) {
          scale = colour.scale;
          coloured = true;
          more = true;
        } else {
          reader.at = begin;
          more = readLook(context);
        }
      }
      if (!more) reader.at = begin;
    }
    if (reader.done) {
      layer.chain = isPlainSurface(chain, setting) ? [] : chain;
      if (!coloured && !before) scale = colourOfNew(layer, scene, setting, run, `${id}-scale`);
      return { layer, scale };
    }
  }
  reader.miss(chain ? ['the end'] : []);
  return { at: reader.furthest, expected: reader.expected.filter((e) => e !== '') };
}

/** The surface is shown anyway; alone it is no operation. */
function isPlainSurface(chain: ChainStep[], setting: OperationSetting): boolean {
  const [step] = chain;
  if (chain.length !== 1 || step.op !== 'surface' || step.off) return false;
  const plain = operations.find((o) => o.id === 'surface')!.defaults(setting);
  return JSON.stringify(step.options) === JSON.stringify(plain);
}

/** A layer as new ones begin: everything, plain, opaque. */
export function freshLayer(run: RunDescription, id: string): Layer {
  return {
    id,
    name: null,
    visible: true,
    parts: null,
    from: null,
    set: null,
    chain: [],
    colour: { kind: 'plain', colour: plainColours[0].colour },
    opacity: 1,
    edges: { ...plainEdges },
    time: { kind: 'now' },
    sides: 'both',
    ...(run.parts.length === 0 ? { parts: [] } : {}),
  };
}

/** The parts a new layer shows when its sentence names none: the largest bodies. */
export function usualParts(run: RunDescription): string[] | null {
  const dimension = Math.min(3, run.dimension);
  const bodies = run.parts.filter((p) => p.meshes.some((m) => m.dimension === dimension));
  const [largest] = [...bodies].sort((a, b) => b.meshes[0].cellCount - a.meshes[0].cellCount);
  return run.parts.length === 1 || !largest ? null : [largest.name];
}

function readOwnName(reader: SentenceReader): string | undefined {
  const name = reader.quoted();
  return name !== null && reader.words(':') ? name : undefined;
}

/** The first operation with the source, or the source alone; null when it is not understood. */
function readStart(
  reader: SentenceReader,
  layer: Layer,
  scene: Scene,
  run: RunDescription,
  setting: OperationSetting,
  before: Layer | null,
): ChainStep[] | null {
  const { parts, set, from } = layer;
  const usual = (): void => {
    Object.assign(layer, { parts: before ? parts : usualParts(run), set, from });
  };
  const withSource = (operation: AnyOperation) => (): ChainStep[] | undefined => {
    if (!reader.words(operation.opening) || !readSource(reader, layer, scene, run)) return undefined;
    const step = readStep(reader, operation, setting, before, 0);
    return step && [step];
  };
  // "Section at z = 0.4 m": of what is usual.
  const withoutSource = (operation: AnyOperation) => (): ChainStep[] | undefined => {
    if (!reader.words(operation.opening.replace(/ (of|on) $/, ''))) return undefined;
    usual();
    const step = readStep(reader, operation, setting, before, 0);
    return step && [step];
  };
  const short = (operation: AnyOperation) => (): ChainStep[] | undefined => {
    const found: Record<string, unknown> = {};
    if (!operation.shorthand?.read(reader, found, setting)) return undefined;
    usual();
    return [newStep(operation, { ...operation.defaults(setting), ...found })];
  };
  const all = (): ChainStep[] | undefined =>
    reader.words('All of') && readSource(reader, layer, scene, run) ? [] : undefined;
  return (
    reader.first([
      all,
      ...operations.map(withSource),
      ...operations.map(short),
      ...operations.map(withoutSource),
    ]) ?? null
  );
}

/** The options of an operation as said, with those that are not said as they were, or as they usually are. */
function readStep(
  reader: SentenceReader,
  operation: AnyOperation,
  setting: OperationSetting,
  before: Layer | null,
  index: number,
): ChainStep | undefined {
  const found: Record<string, unknown> = {};
  if (!operation.phrase.read(reader, found, setting)) return undefined;
  const old = before?.chain[index];
  const rest = old?.op === operation.id ? (old.options as object) : operation.defaults(setting);
  const off = reader.first([() => reader.words('(off)')]) ?? false;
  return { ...newStep(operation, { ...rest, ...found }), off };
}

/** ", its section at ...": the next operation of the chain. */
function readFollowing(
  reader: SentenceReader,
  setting: OperationSetting,
  chain: ChainStep[],
  before: Layer | null,
): boolean {
  const step = reader.first(
    [...operations]
      .sort((a, b) => b.joining.length - a.joining.length)
      .map((operation) => () => {
        if (!reader.words(',') || !reader.words(operation.joining.replace(/^, /, ''))) return undefined;
        return readStep(reader, operation, setting, before, chain.length);
      }),
  );
  if (step) chain.push(step);
  return step !== undefined;
}

/** Parts, a part set or another line. */
function readSource(reader: SentenceReader, layer: Layer, scene: Scene, run: RunDescription): boolean {
  const parts = (): string[] | undefined => {
    const names = run.parts.map((p) => ({ text: p.name, value: p.name }));
    const list: string[] = [];
    let behind = reader.at;
    do {
      const name = reader.first([() => reader.name(names)]);
      if (name === undefined) break;
      list.push(name);
      behind = reader.at;
    } while (reader.words(',') || reader.words('and'));
    reader.at = behind;
    return list.length > 0 ? list : undefined;
  };
  const own = (): string[] | null | undefined =>
    reader.first<{ parts: string[] | null }>([
      () => reader.words('everything') && { parts: null },
      () => reader.words('nothing') && { parts: [] },
      () => {
        const list = parts();
        return list && { parts: list };
      },
    ])?.parts;
  const found = reader.first<Pick<Layer, 'parts' | 'set' | 'from'>>([
    () => {
      if (!reader.words('the set')) return undefined;
      const sets = [...scene.sets, ...run.sets].map((s) => ({ text: s.name, value: s.name }));
      const set = reader.name(sets);
      if (set === undefined) return undefined;
      const begin = reader.at;
      if (reader.words('in')) {
        const within = own();
        if (within !== undefined) return { parts: within, set, from: null };
      }
      reader.at = begin;
      return { parts: null, set, from: null };
    },
    () => {
      const lines = scene.layers.flatMap((l, i): Name<string>[] => [
        { text: `line ${i + 1}`, value: l.id },
        ...(l.name ? [{ text: l.name, value: l.id }] : []),
      ]);
      const from = reader.name(lines.filter((l) => l.value !== layer.id));
      return from === undefined ? undefined : { parts: null, set: null, from };
    },
    () => {
      const list = own();
      return list === undefined ? undefined : { parts: list, set: null, from: null };
    },
  ]);
  if (!found) return false;
  Object.assign(layer, found);
  return true;
}

interface Suffix {
  reader: SentenceReader;
  layer: Layer;
  scene: Scene;
  run: RunDescription;
  setting: OperationSetting;
  scaleId: string;
}

/** The scale a quantity has already, or a new one: layers that show the same share their colours. */
function scaleOf(
  { field: key, component }: Pick<Quantity, 'field' | 'component'>,
  { scene, run, scaleId }: Pick<Suffix, 'scene' | 'run' | 'scaleId'>,
  map?: string,
): { id: string; scale: Scale | null } {
  const same = scene.scales.filter((s) => s.quantity === quantityKey(key, component));
  const known = map ? same.find((s) => s.map === map) : same[0];
  if (known) return { id: known.id, scale: null };
  const field = run.fields.find((f) => f.key === key) ?? {
    key,
    name: ownName(key),
    role: 'other' as const,
  };
  const scale = newScale(field, component, scaleId, field.name, scene.scales.length);
  return { id: scale.id, scale: { ...scale, map: map ?? scale.map } };
}

function readColour(suffix: Suffix): { scale: Scale | null } | null {
  const { reader, layer, setting } = suffix;
  if (!reader.words(',')) return null;
  const plain = reader.first([
    () =>
      reader.words('in')
        ? reader.name(plainColours.map((c) => ({ text: c.name, value: c.colour })))
        : undefined,
    () => (reader.words('in') ? colourCode(reader) : undefined),
  ]);
  if (plain) {
    layer.colour = { kind: 'plain', colour: plain };
    return { scale: null };
  }
  if (!reader.words('coloured by')) return null;
  const quantity = reader.first<{ field: string; component: number | 'magnitude' }>([
    () => reader.name(quantityNames(setting, reader.forgiving)),
    () => {
      const [, field, c] = /^(.*)#(\w+)$/.exec(reader.quoted() ?? '') ?? [];
      return field !== undefined
        ? { field, component: c === 'magnitude' ? ('magnitude' as const) : Number(c) }
        : undefined;
    },
  ]);
  if (!quantity) return null;
  let map: string | undefined;
  const begin = reader.at;
  if (reader.words('on')) {
    map = reader.name(colourMaps.map((m) => ({ text: m.name, value: m.id })));
    if (!map) return null;
  } else reader.at = begin;
  const numbered = reader.first([
    () => {
      if (!reader.words('(scale')) return undefined;
      const n = reader.number(null);
      return n !== undefined && reader.words(')') ? suffix.scene.scales[n - 1] : undefined;
    },
  ]);
  const { id, scale } = numbered ? { id: numbered.id, scale: null } : scaleOf(quantity, suffix, map);
  layer.colour = { kind: 'field', field: quantity.field, component: quantity.component, scale: id };
  return { scale };
}

function colourCode(reader: SentenceReader): string | undefined {
  const [code] = /^\s*#[0-9a-f]{6}\b/i.exec(reader.text.slice(reader.at)) ?? [];
  if (!code) {
    reader.miss('#rrggbb');
    return undefined;
  }
  reader.at += code.length;
  return code.trim().toLowerCase();
}

/** What a sentence says of a layer's looks. */
function readLook({ reader, layer }: Suffix): boolean {
  if (!reader.words(',')) return false;
  const looks: (() => boolean | undefined)[] = [
    () => {
      if (!reader.words('at')) return undefined;
      const value = reader.number('%');
      if (value === undefined || !reader.words('opacity')) return undefined;
      layer.opacity = Math.min(1, Math.max(0, value / 100));
      return true;
    },
    () => {
      if (!reader.words('with edges')) return undefined;
      layer.edges = { ...plainEdges, shown: true };
      reader.first([
        () => {
          const colour = reader.words('in') ? colourCode(reader) : undefined;
          const value = colour && reader.words('at') ? reader.number('%') : undefined;
          if (value === undefined) return undefined;
          layer.edges = { shown: true, colour: colour!, opacity: value / 100 };
          return true;
        },
      ]);
      return true;
    },
    () => {
      if (!reader.words('seen from inside')) return undefined;
      layer.sides = 'inside';
      return true;
    },
    () => {
      const step = reader.words('at step') ? reader.number(null, 'the number of a step') : undefined;
      if (step === undefined) return undefined;
      layer.time = { kind: 'fixed', step: Math.max(0, Math.round(step)) };
      return true;
    },
    () => {
      const by = reader.number(null, 'a number of steps');
      if (by === undefined || (!reader.words('steps') && !reader.words('step'))) return undefined;
      const sign = reader.name([
        { text: 'earlier', value: -1 },
        { text: 'later', value: 1 },
      ]);
      if (sign === undefined) return undefined;
      layer.time = { kind: 'later', by: sign * Math.round(by) };
      return true;
    },
    () => {
      if (!reader.words('hidden')) return undefined;
      layer.visible = false;
      return true;
    },
  ];
  return reader.first(looks) ?? false;
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
  const lines = last && last.gives(run.dimension) < 2 && last.id !== 'points';
  const own = last?.id === 'isosurface' && (layer.chain.at(-1)!.options as { field: string }).field;
  // An isosurface in the colours of its own quantity is all one colour.
  const other = own
    ? setting.quantities.find((q) => q.field !== own && isUsual(q.field) && q.component === 'magnitude')
    : null;
  const wanted = own ? (own === setting.preferred?.field ? other : setting.preferred) : setting.preferred;
  if (!wanted || lines) {
    layer.colour = { kind: 'plain', colour: lines ? '#5a5753' : own ? '#b4733f' : plainColours[0].colour };
    return null;
  }
  const { id, scale } = scaleOf(wanted, { scene, run, scaleId });
  layer.colour = { kind: 'field', field: wanted.field, component: wanted.component, scale: id };
  return scale;
}
