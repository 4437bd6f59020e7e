import { type Name, type NotRead, SentenceReader } from '../language/sentence-reader.ts';
import { isLonePoints, type RunDescription } from '../model/run.ts';
import { type OperationSetting, openingWords } from '../ops/chain/operation.ts';
import { newStep, withStepIds } from '../ops/chain/step.ts';
import { type AnyOperation, operations, plainOperation } from '../ops/registry.ts';
import type { ChainStep, Layer, Scale, Scene } from './document.ts';
import { plainColours } from './layer-sentence.ts';
import { plainReadings } from './plain-words.ts';
import {
  type ColourContext,
  type Coloured,
  colourOfNew,
  readClause,
  readColour,
  useScale,
} from './read-colour.ts';
import { settingOf } from './setting.ts';
import { layerLook } from './things/layer-look.ts';

export type ReadLayer = { layer: Layer; scale: Scale | null } | NotRead;

/** A step as it was read, before it has an id. */
type ReadStep = ReturnType<typeof newStep>;

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
  let failed = readInFull(sentence, scene, run, before, id);
  // What is half typed is not guessed at: guesses would come and go with every letter.
  const { length } = sentence.trim();
  if ('layer' in failed || length < 3 || length > LONGEST_PLAIN) return failed;
  const setting = settingOf(run, scene, before ?? undefined);
  for (const reading of [sentence, ...plainReadings(sentence, { scene, run, setting })]) {
    const read = readInFull(reading, scene, run, before, id, true);
    if ('layer' in read) return read;
    // By everyday names too something is known that cannot stand there.
    if (reading === sentence && 'at' in failed && read.refused && read.at >= failed.at) failed = read;
  }
  return failed;
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
  const layer = before ? { ...before, ...layerLook.plain } : freshLayer(run, id);
  const own = reader.first([() => readOwnName(reader)]);
  layer.name = own ?? (before ? null : layer.name);
  const chain = readStart(reader, layer, scene, run, setting, before);
  if (chain) {
    const context: ColourContext = { reader, layer, before, scene, run, setting, scaleId: `${id}-scale` };
    let scale: Scale | null = null;
    let coloured: Coloured | null = null;
    for (let more = true; more && !reader.done; ) {
      more = false;
      const begin = reader.at;
      const next = readFollowing(reader, setting, chain, before);
      if (next) more = true;
      else {
        reader.at = begin;
        const colour = readColour(context);
        if (colour) coloured = colour;
        else reader.at = begin;
        more = colour !== null || (coloured !== null && readClause(context, coloured));
        if (!more) {
          reader.at = begin;
          more = layerLook.phrase.one(reader, layer, setting);
        }
      }
      if (!more) reader.at = begin;
    }
    if (reader.done) {
      // Everything of one part was said by its name.
      if (before?.parts === null && run.parts.length === 1 && layer.parts?.length === 1) layer.parts = null;
      layer.chain = isPlainSurface(chain, setting) ? [] : withStepIds(keepingIds(chain, before?.chain ?? []));
      if (coloured?.kind === 'field') scale = useScale(context, coloured);
      else if (!coloured && !before) scale = colourOfNew(layer, scene, setting, run, `${id}-scale`);
      return { layer, scale };
    }
  }
  reader.miss(chain ? ['the end'] : []);
  return reader.failure;
}

/** The surface is shown anyway; alone it is no operation. */
function isPlainSurface(chain: readonly ReadStep[], setting: OperationSetting): boolean {
  const [step] = chain;
  const plain = plainOperation();
  if (chain.length !== 1 || step.op !== plain.id || step.off) return false;
  return JSON.stringify(step.options) === JSON.stringify(plain.defaults(setting));
}

/** A chain in which the steps that were there before go by the ids they had. */
const keepingIds = (chain: ReadStep[], before: readonly ChainStep[]): (ReadStep & { id?: string })[] =>
  chain.map((step, i) => (before[i]?.op === step.op ? { ...step, id: before[i].id } : step));

/** A layer as new ones begin: everything, plain, opaque. */
export function freshLayer(run: RunDescription, id: string): Layer {
  return {
    ...layerLook.plain,
    id,
    name: null,
    parts: null,
    from: null,
    set: null,
    chain: [],
    colour: { kind: 'plain', colour: plainColours[0].colour },
    ...(run.parts.length === 0 ? { parts: [] } : {}),
  };
}

/** The parts a new layer shows when its sentence names none: the largest body; of what takes points the particles. */
export function usualParts(run: RunDescription, operation?: AnyOperation): string[] | null {
  const lone = operation?.traits?.ofPoints ? run.parts.filter(isLonePoints) : [];
  if (lone.length > 0) return lone.length < run.parts.length ? lone.map((p) => p.name) : null;
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
): ReadStep[] | null {
  const { parts, set, from } = layer;
  const usual = (operation: AnyOperation): void => {
    Object.assign(layer, { parts: before ? parts : usualParts(run, operation), set, from });
  };
  const withSource = (operation: AnyOperation) => (): ReadStep[] | undefined => {
    if (!reader.words(operation.opening) || !readSource(reader, layer, scene, run)) return undefined;
    const step = readStep(reader, operation, setting, before, 0);
    return step && [step];
  };
  // "Streamlines of velocity in chamber air from ...": what follows goes on as behind the opening words.
  const withLead = (operation: AnyOperation) => (): ReadStep[] | undefined => {
    const found: Record<string, unknown> = {};
    if (!operation.lead?.read(reader, found, setting)) return undefined;
    const sourced = reader.first([() => reader.words('in') && readSource(reader, layer, scene, run)]);
    if (!sourced) usual(operation);
    const step = readStep(reader, operation, setting, before, 0, found);
    return step && [step];
  };
  // "Section at z = 0.4 m": of what is usual.
  const withoutSource = (operation: AnyOperation) => (): ReadStep[] | undefined => {
    if (!reader.words(openingWords(operation))) return undefined;
    usual(operation);
    const step = readStep(reader, operation, setting, before, 0);
    return step && [step];
  };
  const short = (operation: AnyOperation) => (): ReadStep[] | undefined => {
    const found: Record<string, unknown> = {};
    if (!operation.shorthand?.read(reader, found, setting)) return undefined;
    usual(operation);
    return [newStep(operation, { ...operation.defaults(setting), ...found })];
  };
  const all = (): ReadStep[] | undefined =>
    reader.words('All of') && readSource(reader, layer, scene, run) ? [] : undefined;
  return (
    reader.first([
      all,
      ...operations.map(withSource),
      ...operations.map(withLead),
      ...operations.map(short),
      ...operations.map(withoutSource),
    ]) ?? null
  );
}

/**
 * The options of an operation as said, with those that are not said as they were, or as they usually are.
 *
 * @param found what was said before
 */
function readStep(
  reader: SentenceReader,
  operation: AnyOperation,
  setting: OperationSetting,
  before: Layer | null,
  index: number,
  found: Record<string, unknown> = {},
): ReadStep | undefined {
  const begin = reader.at;
  let said = { ...found };
  if (!operation.phrase.read(reader, said, setting)) {
    // "Section of chamber air, its edges": the usual one, where nothing is said of it.
    reader.at = begin;
    said = found;
    const unsaid = reader.forgiving && (reader.words(',') || (index > 0 && reader.done));
    reader.at = begin;
    if (!unsaid) return undefined;
  }
  const old = before?.chain[index];
  const rest = old?.op === operation.id ? (old.options as object) : operation.defaults(setting);
  const off = reader.first([() => reader.words('(off)')]) ?? false;
  return { ...newStep(operation, { ...rest, ...said }), off };
}

/** ", its section at ...": the next operation of the chain. */
function readFollowing(
  reader: SentenceReader,
  setting: OperationSetting,
  chain: ReadStep[],
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
