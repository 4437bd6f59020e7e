import { type NotRead, SentenceReader } from '../language/sentence-reader.ts';
import { measures } from '../measure/registry.ts';
import type { RunDescription } from '../model/run.ts';
import type { z } from '../model/schema.ts';
import { newStep, withStepIds } from '../ops/chain/step.ts';
import { understood } from '../ops/chain/understood.ts';
import { type AnyOperation, plainOperation } from '../ops/registry.ts';
import type { Ask } from './ask.ts';
import type { Layer, Scene } from './document.ts';
import { freshLayer, readLayer } from './read-layer.ts';
import { settingOf } from './setting.ts';

/** A phase behind all else: `at phase 45 degrees`. */
const AT_PHASE = /,?\s+at (?:a )?phase (?:of )?(-?[\d.]+)\s*(?:°|deg(?:rees)?)?\s*$/i;

/**
 * Reads what is asked: `area average of T over section of everything at y = 0.12`. What is measured on is read as a line is,
 * without how it looks.
 */
export function readAsk(text: string, scene: Scene, run: RunDescription): Ask | NotRead {
  const [said = '', degrees] = AT_PHASE.exec(text) ?? [];
  const plain = text.slice(0, text.length - said.length).replace(/[.?!]\s*$/, '');
  const phase = degrees === undefined ? null : ((Number(degrees) % 360) + 360) % 360;
  const setting = settingOf(run, scene);
  const reader = new SentenceReader(plain, true);
  for (const measure of measures) {
    reader.at = 0;
    const found: Record<string, unknown> = {};
    reader.passOver('the');
    if (!measure.phrase.read(reader, found, setting)) continue;
    const checked: z.ZodSafeParseResult<Ask['options']> = measure.schema.safeParse(found);
    if (!checked.success) {
      // What was said cannot be, as a share above all.
      const { message } = checked.error.issues[0];
      return { at: 0, expected: [], refused: { because: message, to: reader.at } };
    }
    if (measure.asks === 'everything') {
      const options = checked.data;
      if (reader.done) return { measure: measure.id, options, on: freshLayer(run, 'asked'), phase };
      reader.miss('the end');
      continue;
    }
    const begin = reader.at;
    let failure: NotRead | null = null;
    for (const end of endsOfWhat(plain, begin, measure)) {
      const on = readWhat(plain.slice(begin, end), scene, run);
      if ('at' in on) {
        failure = !failure || begin + on.at > failure.at ? { ...on, at: begin + on.at } : failure;
        continue;
      }
      reader.at = end;
      const whole = { ...found };
      if (measure.clauses && !(measure.clauses.read(reader, whole, setting) && reader.done)) {
        reader.miss('the end');
        continue;
      }
      const options = facing(measure, measure.schema.parse(whole), on);
      return { measure: measure.id, options, on, phase };
    }
    return failure && failure.at > reader.failure.at ? failure : reader.failure;
  }
  return reader.failure;
}

/** Where what is measured on may end, the longest first: what a measure says behind it begins there. */
function endsOfWhat(text: string, begin: number, { clauses }: (typeof measures)[number]): number[] {
  if (!clauses) return [text.length];
  const words = [
    ...text.slice(begin).matchAll(/,?\s(?:about|along|around|weighted|inwards|through a|on the|over|in)\b/gi),
  ];
  return [text.length, ...words.map((found) => begin + found.index).reverse()];
}

/** A line without its look: parts, a part set, or what operations make of them. */
function readWhat(text: string, scene: Scene, run: RunDescription): Layer | NotRead {
  const said = text.trim().replace(/^(?:the )?part set /i, 'the set ');
  const all = 'All of ';
  const whole = readLayer(`${all}${said}`, scene, run, null, 'asked');
  const read = 'at' in whole ? readLayer(said, scene, run, null, 'asked') : whole;
  if ('at' in read) {
    const ofWhole = 'at' in whole ? { ...whole, at: Math.max(0, whole.at - all.length) } : read;
    // What came farther knows better; where neither did, names are what is looked for.
    const told = ofWhole.at >= read.at ? ofWhole : read;
    return { ...told, at: told.at + text.length - text.trimStart().length };
  }
  // How it would look is nobody's question.
  const { colour } = freshLayer(run, 'asked');
  const layer: Layer = { ...read.layer, colour };
  // Alone the surface is what every line shows; where it is asked for it is meant.
  const isSurface =
    layer.chain.length === 0 && /^(?:the )?(?:outer )?(?:surface|skin|outside) of /i.test(said);
  const plain: AnyOperation = plainOperation();
  return isSurface
    ? { ...layer, chain: withStepIds([newStep(plain, plain.defaults(settingOf(run, scene)))]) }
    : layer;
}

function facing(
  measure: (typeof measures)[number],
  options: Ask['options'],
  { chain }: Layer,
): Ask['options'] {
  if (!measure.facing) return options;
  const last = chain.findLast((step) => !step.off);
  const known = last && understood(last);
  return measure.facing(options, known?.operation.traits?.facesAlong?.(known.options) ?? null);
}
