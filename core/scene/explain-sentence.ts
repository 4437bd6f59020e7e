import { speak } from '../language/sentence.ts';
import { whyNotRead } from '../language/sentence-reader.ts';
import type { RunDescription } from '../model/run.ts';
import type { Annotation, Layer, Scene } from './document.ts';
import { layerSentence, type SentenceStyle } from './layer-sentence.ts';
import { type ReadLayer, readLayer } from './read-layer.ts';
import { type Beginning, typedBeginning } from './ready-beginnings.ts';
import { readWordsSentence, wordsSentence } from './scene-script.ts';
import { settingOf } from './setting.ts';

/** What becomes of a typed line. */
export type Explained =
  | { text: string; understood: true; sentence: string; layer: Layer }
  | { text: string; understood: true; sentence: string; annotation: Annotation }
  | {
      text: string;
      understood: false;
      /** In words, what is not understood and what could stand there. */
      reason: string;
      /** Place of the first letter that is not understood, from 0. */
      at: number;
      /** The nearest sentence that is understood, in full; null when there is none. */
      nearest: string | null;
    };

/** Says how a typed line is understood, in full, or why it is not and what is nearest to it. */
export function explainSentence(text: string, scene: Scene, run: RunDescription): Explained {
  const said = readWordsSentence(text, scene, run, 'said');
  if (said && 'annotation' in said) {
    const { annotation } = said;
    return { text, understood: true, sentence: wordsSentence(annotation, scene, run), annotation };
  }
  const read = said ?? readLayer(text, scene, run, null, 'said');
  if ('layer' in read)
    return { text, understood: true, sentence: inFull(read, scene, run), layer: read.layer };
  const begun = openQuestion(text, scene, run);
  if (begun) {
    const reason = `at which value is not said; there could be "isosurface of ${begun.quantity.name} at" and a number`;
    return { text, understood: false, reason, at: text.length, nearest: null };
  }
  const { at } = read;
  return {
    text,
    understood: false,
    reason: whyNotRead(text, read),
    at,
    nearest: nearest(text, at, scene, run),
  };
}

/** A question of the trade whose line needs the range of a quantity first; null where the text asks none. */
export function openQuestion(
  text: string,
  scene: Scene,
  run: RunDescription,
): Exclude<Beginning, string> | null {
  const begun = typedBeginning(text, settingOf(run, scene));
  if (!begun || typeof begun === 'string') return null;
  return 'layer' in readLayer(begun.sentence(0, 1), scene, run, null, 'asked') ? begun : null;
}

/** The sentence of a layer that was read, with the scale that was made for it. */
export function inFull(
  { layer, scale }: Extract<ReadLayer, { layer: Layer }>,
  scene: Scene,
  run: RunDescription,
  style: SentenceStyle = 'told',
): string {
  const scales = scale ? [...scene.scales, scale] : scene.scales;
  return speak(layerSentence(layer, { ...scene, scales }, run, style));
}

/** The longest beginning that is a sentence, first without what is not understood and then with fewer and fewer words. */
function nearest(text: string, at: number, scene: Scene, run: RunDescription): string | null {
  const rest = text.slice(at).replace(/^\s*\S+\s*/, '');
  const words = text.slice(0, at).trim().split(/\s+/);
  const tries = [`${words.join(' ')} ${rest}`];
  for (let n = words.length; n > 0; n--) tries.push(words.slice(0, n).join(' ').replace(/[,;]$/, ''));
  for (const beginning of tries) {
    const read = readLayer(beginning, scene, run, null, 'said');
    if ('layer' in read) return inFull(read, scene, run);
  }
  return null;
}
