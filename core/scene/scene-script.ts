import { speak, words } from '../language/sentence.ts';
import { type NotRead, SentenceReader, whyNotRead } from '../language/sentence-reader.ts';
import type { RunDescription } from '../model/run.ts';
import { setRuleSchema } from '../model/set-rule.ts';
import { type Annotation, annotationKinds, annotationSchema } from './annotations/registry.ts';
import { chart } from './charts/chart.ts';
import { curve } from './charts/curve.ts';
import { defaultScene } from './default-scene.ts';
import { type Layer, readScene, type Scene } from './document.ts';
import { chartSentences, GAUGE, gaugeSentence, readChart, readCurve, readGauge } from './gauge-script.ts';
import { type KindList, kindIn, kindListNames, kindLists, type OfKind, ofKinds } from './kind-lists.ts';
import { layerSentence } from './layer-sentence.ts';
import { freeLegendPlace } from './legend-places.ts';
import { readLayer } from './read-layer.ts';
import { KEY, LANE, MARKER, readKey, readLane, readMarker, reelSentences } from './reel/reel-script.ts';
import { settingOf } from './setting.ts';
import { withoutUnusedScales } from './shown-scales.ts';
import type { Declaration } from './things/declaration.ts';
import { lens } from './things/lens.ts';
import { partLook } from './things/part-look.ts';
import { sceneThings } from './things/registry.ts';
import { scale } from './things/scale.ts';

type AnyKind = (typeof kindLists)[KindList]['kinds'][number];

/** A line of a script that is not understood: which, where in it, and what would be. */
export class ScriptError extends Error {
  override readonly name = 'ScriptError';
}

/**
 * A scene as sentences, one a line, to be read, kept under version control and read back by `readScript`: name, colour
 * scales, part sets, lines, parts, and what the scene has one of. Lines that begin with # are remarks.
 */
export function writeScript(scene: Scene, run: RunDescription): string {
  const setting = { ...settingOf(run, scene), exact: true };
  const said = <T extends object>(declared: Declaration<T>, value: T): string =>
    saidInFull(declared, value, run, scene);
  return `${[
    `Scene "${scene.name}"`,
    ...scene.quantities.map((q) => `Quantity "${q.name}" is ${q.formula}`),
    ...scene.scales.map((s) => said(scale, s)),
    ...scene.sets.map((s) => `Set "${s.name}" is ${JSON.stringify(s.rule)}`),
    ...scene.layers.map((l) => speak(layerSentence(l, scene, run, 'exact'))),
    ...scene.gauges.map((g) => gaugeSentence(g, scene, run)),
    ...scene.charts.flatMap((c) => chartSentences(c, scene, run)),
    ...kindListNames.flatMap((list) =>
      ofKinds(scene, list).map((one) => sentenceOfKind(list, one, scene, run)),
    ),
    ...scene.cameras.map(
      ({ name, camera }) =>
        `${CAMERA} ${JSON.stringify(name)} from ${speak(lens.phrase.say(camera, setting) ?? [])}`,
    ),
    ...Object.entries(scene.parts).map(
      ([name, look]) => `Part "${name}"${speak(partLook.phrase.say(look, setting) ?? [])}`,
    ),
    ...reelSentences(scene),
    ...sceneThings.flatMap((thing) => {
      const value = scene[thing.id];
      return thing.silent?.(value) ? [] : [said(thing, value)];
    }),
    `At step ${scene.step + 1}${scene.onward === 0 ? '' : ` and ${scene.onward}`}`,
  ].join('\n')}\n`;
}

/**
 * Reads a script, or just some sentences, for a run. What it does not mention is as a run opens; sentences of lines
 * replace the lines a run opens with, and so does a whole script, which names its scene.
 *
 * @param before a scene to which the lines are added, instead
 * @throws ScriptError naming the line, the place in it and what would be understood
 */
export function readScript(script: string, run: RunDescription, before?: Scene): Scene {
  const opening = defaultScene(run);
  let scene: Scene = before ?? { ...opening, scales: [], layers: [] };
  let whole = before !== undefined;
  const lines = script
    .split(/\r?\n/)
    .flatMap((text, i) => asSaidNow(text.trim()).map((said) => ({ text: said, number: i + 1 })));
  for (const { text, number } of lines) {
    if (text === '' || text.startsWith('#')) continue;
    const reader = new SentenceReader(text);
    const read = statements.find((s) => {
      reader.at = 0;
      return reader.words(s.opening);
    });
    whole ||= !read || read.opening === SCENE || read.opening === scale.opening;
    const done = read ? read.read(reader, scene, run) : readLine(text, scene, run, number);
    if (read && done && !reader.done) reader.miss('the end');
    if (!done || (read && !reader.done))
      throw new ScriptError(`Line ${number}: ${whyNotRead(text, reader.failure)}.`);
    scene = done as Scene;
  }
  // Words alone are added to what a run opens with.
  const opened = whole ? {} : { layers: opening.layers, scales: opening.scales };
  return readScene(withoutUnusedScales({ ...scene, ...opened }));
}

function readLine(text: string, scene: Scene, run: RunDescription, number: number): Scene {
  const read = readLayer(text, scene, run, null, `layer-${number}`);
  if ('at' in read) throw new ScriptError(`Line ${number}: ${whyNotRead(text, read)}.`);
  return {
    ...scene,
    layers: [...scene.layers, read.layer as Layer],
    scales: read.scale ? [...scene.scales, read.scale] : scene.scales,
  };
}

/** Behind words, marks and scenery that are not shown. */
const HIDDEN = ', hidden';

interface Statement {
  /** Words it begins with. */
  opening: string;
  read(reader: SentenceReader, scene: Scene, run: RunDescription): Scene | false;
}

/** What a declaration says, read from the plain state of the thing. */
function readThing<T extends object>(
  { phrase, plain }: Declaration<T>,
  reader: SentenceReader,
  scene: Scene,
  run: RunDescription,
  begin: Partial<T> = {},
): T | false {
  const found: Partial<T> = { ...begin };
  return phrase.read(reader, found, settingOf(run, scene)) && { ...plain, ...found };
}

function readScale(reader: SentenceReader, scene: Scene, run: RunDescription): Scene | false {
  const read = readThing(scale, reader, scene, run);
  if (!read) return false;
  const legend = { ...scale.plain.legend, x: freeLegendPlace(scene.scales) };
  const said = read.legend === scale.plain.legend ? { ...read, legend } : read;
  return { ...scene, scales: [...scene.scales, { ...said, id: `scale-${scene.scales.length + 1}` }] };
}

/** What stands behind the opening of words, marks or scenery. */
function readOfKind(
  kind: AnyKind,
  reader: SentenceReader,
  scene: Scene,
  run: RunDescription,
  id: string,
): OfKind | false {
  const value = readThing(kind, reader, scene, run);
  return value && { ...value, id, kind: kind.id, visible: !reader.words(HIDDEN) };
}

/**
 * Reads the sentence of words or marks.
 *
 * @returns null when it does not begin as one
 */
export function readWordsSentence(
  text: string,
  scene: Scene,
  run: RunDescription,
  id: string,
): { annotation: Annotation } | NotRead | null {
  const reader = new SentenceReader(text);
  const kind = annotationKinds.find((k) => {
    reader.at = 0;
    return reader.words(k.opening);
  });
  if (!kind) return null;
  const annotation = readOfKind(kind, reader, scene, run, id) as Annotation | false;
  if (annotation && !reader.done) reader.miss('the end');
  if (!annotation || !reader.done) return reader.failure;
  const checked = annotationSchema.safeParse(annotation);
  return checked.success ? { annotation } : { at: 0, expected: [checked.error.issues[0].message] };
}

/** The sentence of words or marks, in full. */
export const wordsSentence = (annotation: Annotation, scene: Scene, run: RunDescription): string =>
  sentenceOfKind('annotations', annotation, scene, run);

const sentenceOfKind = (list: KindList, one: OfKind, scene: Scene, run: RunDescription): string =>
  `${saidInFull(kindIn(list, one.kind)!, one, run, scene)}${one.visible ? '' : HIDDEN}`;

function saidInFull<T extends object>(
  { opening, phrase }: Declaration<T>,
  value: T,
  run: RunDescription,
  scene: Scene,
): string {
  return speak([words(opening), ...(phrase.say(value, { ...settingOf(run, scene), exact: true }) ?? [])]);
}

const SCENE = 'Scene';
const CAMERA = 'Camera';

const statements: Statement[] = [
  // Before the scales: "Scale bar at" is no scale.
  ...kindListNames.flatMap((list) =>
    kindLists[list].kinds.map(
      (kind): Statement => ({
        opening: kind.opening,
        read(reader, scene, run) {
          const there = ofKinds(scene, list);
          const made = readOfKind(kind, reader, scene, run, `${kindLists[list].begin}-${there.length + 1}`);
          return made && ({ ...scene, [list]: [...there, made] } as Scene);
        },
      }),
    ),
  ),
  {
    opening: SCENE,
    read(reader, scene) {
      const name = reader.quoted();
      return name ? { ...scene, name } : reader.miss('“a name”');
    },
  },
  {
    opening: CAMERA,
    read(reader, scene, run) {
      const name = reader.quoted();
      if (!name || !reader.words('from')) return reader.miss('“a name” from where it stands');
      const camera = readThing(lens, reader, scene, run);
      return (
        camera && { ...scene, cameras: [...scene.cameras.filter((c) => c.name !== name), { name, camera }] }
      );
    },
  },
  { opening: scale.opening, read: readScale },
  { opening: GAUGE, read: readGauge },
  { opening: chart.opening, read: readChart },
  { opening: curve.opening, read: readCurve },
  { opening: LANE, read: readLane },
  { opening: KEY, read: readKey },
  { opening: MARKER, read: readMarker },
  {
    opening: 'Quantity',
    read(reader, scene) {
      const name = reader.quoted();
      if (!name || !reader.words('is')) return reader.miss('“a name” is a formula');
      const formula = reader.until(/$/).trim();
      if (formula === '') return reader.miss('a formula');
      const id = `quantity-${scene.quantities.length + 1}`;
      return { ...scene, quantities: [...scene.quantities, { id, name, formula }] };
    },
  },
  {
    opening: 'Set',
    read(reader, scene) {
      const name = reader.quoted();
      if (!name || !reader.words('is')) return reader.miss('“a name” is a rule');
      const text = reader.until(/$/);
      try {
        return { ...scene, sets: [...scene.sets, { name, rule: setRuleSchema.parse(JSON.parse(text)) }] };
      } catch {
        return reader.miss('a rule as JSON');
      }
    },
  },
  {
    opening: partLook.opening,
    read(reader, scene, run) {
      const name = reader.quoted();
      if (!name) return reader.miss('“a part”');
      const look = readThing(partLook, reader, scene, run);
      return look && { ...scene, parts: { ...scene.parts, [name]: look } };
    },
  },
  ...sceneThings.map(
    (thing): Statement => ({
      opening: thing.opening,
      read(reader, scene, run) {
        const value = readThing(thing, reader, scene, run, scene[thing.id]);
        return value && { ...scene, [thing.id]: value };
      },
    }),
  ),
  {
    opening: 'At step',
    read(reader, scene, run) {
      const step = reader.number(null);
      if (step === undefined) return false;
      const last = run.steps.length - 1;
      const shown = Math.min(Math.max(0, Math.round(step) - 1), last);
      const onward = reader.first([() => reader.words('and') && reader.number(null, 'a share of a step')]);
      const between = onward !== undefined && onward > 0 && onward < 1 && shown < last;
      return { ...scene, step: shown, onward: between ? onward : 0 };
    },
  },
];

/** Sentences that scripts of earlier versions have, as they are said now. */
const earlier: [RegExp, (found: string[]) => string[]][] = [
  // Steps were counted from 0; the backdrop was a part of the light.
  [/^Step (\d+)$/i, ([step]) => [`At step ${Number(step) + 1}`]],
  [
    /^Light (\w+) on (\w+)(.*)$/i,
    ([rig, backdrop, rest]) => [...asSaidNow(`Light ${rig}${rest}`), `Backdrop ${backdrop}`],
  ],
  // The floor was a part of the light.
  [/^Light (.*), floor\b(.*)$/i, ([before, after]) => [`Light ${before}${after}`, 'Floor shadow']],
];

const asSaidNow = (text: string): string[] => {
  for (const [pattern, now] of earlier) {
    const found = pattern.exec(text);
    if (found) return now(found.slice(1));
  }
  return [text];
};
