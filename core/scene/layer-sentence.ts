import { nameOfMap } from '../colour/maps/own-map.ts';
import { ownName } from '../fields/quantity-sources.ts';
import { quantityByKey, suffixes } from '../language/phrase.ts';
import { quoteIfNeeded, type SentencePiece, sayList, speak, words } from '../language/sentence.ts';
import type { RunDescription } from '../model/run.ts';
import type { SetRule } from '../model/set-rule.ts';
import type { OperationSetting } from '../ops/chain/operation.ts';
import { understood } from '../ops/chain/understood.ts';
import type { Layer, Scene } from './document.ts';
import { layerLabel } from './layer-chain.ts';
import { settingOf } from './setting.ts';
import { layerLook } from './things/layer-look.ts';
import { scale as scaleThing } from './things/scale.ts';
import { scaleClauses } from './things/scale-phrases.ts';

/**
 * How the parts of a layer are called in its sentence; in full every one of them, and in a script so that it holds for
 * other runs too.
 */
export function sayParts(
  layer: Pick<Layer, 'parts'> & { set?: string | null },
  run: RunDescription,
  full: 'script' | 'typed' | false = false,
): string {
  const quoted = (name: string): string => (full ? quoteIfNeeded(name) : name);
  const own =
    layer.parts === null
      ? run.parts.length === 1 && full !== 'script'
        ? quoted(run.parts[0].name)
        : 'everything'
      : layer.parts.length === 0
        ? 'nothing'
        : layer.parts.length > 3 && !full
          ? `${layer.parts.length} parts`
          : sayList(layer.parts.map(quoted));
  if (!layer.set) return own;
  const set = `the set ${quoted(layer.set)}`;
  return layer.parts === null ? set : `${set} in ${own}`;
}

const plainNames: [string, string][] = [
  ['#d8d2c8', 'stone'],
  ['#f2ede4', 'flour'],
  ['#5a5753', 'cast iron'],
  ['#26241f', 'ink'],
  ['#a9b0b5', 'steel'],
  ['#b4733f', 'copper'],
  ['#8aa38f', 'sage'],
  ['#6f86a3', 'slate blue'],
  ['#c9a227', 'brass'],
];

/** Colours offered for layers that show no field, by name. */
export const plainColours: readonly { colour: string; name: string }[] = plainNames.map(([colour, name]) => ({
  colour,
  name,
}));

const plainName = (colour: string): string =>
  plainNames.find(([c]) => c === colour.toLowerCase())?.[1] ?? colour;

/** Whether there is a surface to speak of: points and lines have none. */
const hasFaces = (layer: Layer, run: RunDescription): boolean =>
  run.parts.some(
    (p) => (layer.parts === null || layer.parts.includes(p.name)) && p.meshes.some((m) => m.dimension > 1),
  );

/**
 * How sentences are written: for reading, or in full so that they can be read back to the same layer: with all digits, or
 * with as many as one would type. `told` and `typed` stand alone: they say of the colour scale what is not as usual.
 */
export type SentenceStyle = 'reader' | 'exact' | 'told' | 'typed';

/** More digits than a field of single precision holds are no help to who edits a sentence. */
const TYPED_DIGITS = 7;

/** The sentence of a layer; each piece that can be changed names its control. */
export function layerSentence(
  layer: Layer,
  scene: Scene,
  run: RunDescription,
  style: SentenceStyle = 'reader',
): SentencePiece[] {
  const setting = settingIn(layer, scene, run, style);
  return [
    ...madeOf(layer, scene, run, style),
    ...colourPieces(layer, scene, setting, style),
    ...(layerLook.phrase.say(layer, setting) ?? []),
  ];
}

/** What a layer is, without how it looks, as it stands within a sentence: `everything`, `section of tins at z = 0.4 m`. */
export function sayWhat(
  layer: Layer,
  scene: Scene,
  run: RunDescription,
  style: SentenceStyle = 'told',
): string {
  const [opening, ...rest] = madeOf({ ...layer, name: null }, scene, run, style);
  const said = layer.chain.length === 0 ? speak(rest) : speak([opening, ...rest]);
  return layer.chain.length === 0 ? said : said.charAt(0).toLowerCase() + said.slice(1);
}

const settingIn = (
  layer: Layer,
  scene: Scene,
  run: RunDescription,
  style: SentenceStyle,
): OperationSetting => ({
  ...settingOf(run, scene, layer),
  exact: style !== 'reader',
  ...(style === 'typed' && { digits: TYPED_DIGITS }),
});

function madeOf(layer: Layer, scene: Scene, run: RunDescription, style: SentenceStyle): SentencePiece[] {
  const exact = style !== 'reader';
  const setting = settingIn(layer, scene, run, style);
  const pieces: SentencePiece[] = [];
  if (exact && layer.name !== null) pieces.push(words(`"${layer.name}": `));
  const [first, ...rest] = layer.chain.map((step) => ({
    step,
    known: understood(step),
  }));
  const plainSurface = exact || (run.dimension === 3 && hasFaces(layer, run)) || layer.from !== null;
  pieces.push(words(first?.known ? first.known.operation.opening : plainSurface ? 'Surface of ' : 'All of '));
  const source = scene.layers.find((l) => l.id === layer.from);
  const said =
    layer.from === null
      ? sayParts(layer, run, exact && (style === 'typed' ? 'typed' : 'script'))
      : source
        ? layerLabel(source, scene)
        : 'a line that is gone';
  pieces.push({ text: said, control: { kind: 'parts' } });
  const when =
    exact || layer.from !== null ? null : whenOf(scene.sets.find((s) => s.name === layer.set)?.rule);
  if (when !== null)
    pieces.push(words(when === 'each step' ? ' (anew at each step)' : ` (as at step ${when + 1})`));
  for (const [i, { known, step }] of (first ? [first, ...rest] : []).entries()) {
    if (!known) {
      pieces.push(words(`, “${step.op}” (not understood)`));
      continue;
    }
    const { operation, options } = known;
    if (i > 0) pieces.push(words(operation.joining));
    pieces.push(...optionPieces(operation.phrase.say(options, setting) ?? [], step.id));
    if (step.off) pieces.push(words(' (off)'));
  }
  return pieces;
}

/** When a set by values is looked at; null for sets that are always the same. */
function whenOf(rule: SetRule | undefined): 'each step' | number | null {
  if (!rule) return null;
  if ('when' in rule) return rule.when;
  return 'of' in rule ? (rule.of.map(whenOf).find((w) => w !== null) ?? null) : null;
}

/** Tells the controls of an operation's words the step of the chain they belong to. */
const optionPieces = (pieces: SentencePiece[], step: string): SentencePiece[] =>
  pieces.map((p) => (p.control?.kind === 'option' ? { ...p, control: { ...p.control, step } } : p));

/** Everything of a scale that is not as usual. */
const ofScale = suffixes(...scaleClauses(scaleThing.plain));

function colourPieces(
  { colour }: Layer,
  scene: Scene,
  setting: OperationSetting,
  style: SentenceStyle,
): SentencePiece[] {
  if (colour.kind === 'plain')
    return [words(', in '), { text: plainName(colour.colour), control: { kind: 'plain' } }];
  const quantity = quantityByKey(colour.field, colour.component, setting);
  const missing = setting.exact
    ? `"${colour.field}#${colour.component}"`
    : `${ownName(colour.field)} (not in this run)`;
  const scale = scene.scales.find((s) => s.id === colour.scale);
  const out: SentencePiece[] = [
    words(', coloured by '),
    { text: quantity?.name ?? missing, control: { kind: 'field' } },
  ];
  if (!scale) return out;
  const twins = scene.scales.filter((s) => s.quantity === scale.quantity);
  const numbered = twins.length > 1 && (style === 'exact' || style === 'typed');
  const which = numbered ? ` (scale ${scene.scales.indexOf(scale) + 1})` : '';
  const alone = style === 'told' || style === 'typed';
  return [
    ...out,
    words(' on '),
    { text: nameOfMap(scale.map), control: { kind: 'scale' } },
    words(which),
    ...(alone ? (ofScale.say(scale, setting) ?? []) : []),
  ];
}

/** The caption of a picture: the sentences of the visible layers, one after the other, and the time. */
export function sceneCaption(scene: Scene, run: RunDescription, time: string | null): string {
  const shown = scene.layers.filter((l) => l.visible).map((l) => speak(layerSentence(l, scene, run)));
  return [...shown.map((s) => `${s}.`), ...(time ? [`At ${time}.`] : [])].join(' ');
}
