import { colourMapById } from '../colour/maps.ts';
import { fieldByKey, type RunDescription, runBounds } from '../model/run.ts';
import type { OperationSetting } from '../ops/operation.ts';
import { operationById } from '../ops/registry.ts';
import type { Layer, Scene } from './document.ts';
import { quantityName } from './quantity.ts';
import { type SentencePiece, sayList, speak, words } from './sentence.ts';

export function settingOf(run: RunDescription): OperationSetting {
  return { bounds: runBounds(run), dimension: run.dimension, lengthUnit: run.lengthUnit };
}

/** How the parts of a layer are called in its sentence. */
export function sayParts(layer: Pick<Layer, 'parts'> & { set?: string | null }, run: RunDescription): string {
  if (layer.set) return layer.set;
  if (layer.parts === null) return run.parts.length === 1 ? run.parts[0].name : 'everything';
  if (layer.parts.length === 0) return 'nothing';
  return layer.parts.length > 3 ? `${layer.parts.length} parts` : sayList(layer.parts);
}

const plainNames: [string, string][] = [
  ['#d8d2c8', 'stone'],
  ['#f2ede4', 'flour'],
  ['#5a5753', 'cast iron'],
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

/** The sentence of a layer; each piece that can be changed names its control. */
export function layerSentence(layer: Layer, scene: Scene, run: RunDescription): SentencePiece[] {
  const setting = settingOf(run);
  const steps = layer.chain.map((step, index) => ({ index, step, operation: operationById(step.op) }));
  const pieces: SentencePiece[] = [];
  if (steps.length === 0)
    pieces.push(words(run.dimension === 3 && hasFaces(layer, run) ? 'Surface of ' : 'All of '));
  for (const { operation } of steps.toReversed()) {
    pieces.push(words(pieces.length === 0 ? operation.opening : operation.opening.toLowerCase()));
  }
  pieces.push({ text: sayParts(layer, run), control: { kind: 'parts' } });
  for (const { operation, step, index } of steps)
    pieces.push(...operation.sentence(step.options, setting, index));
  const { colour } = layer;
  if (colour.kind === 'plain') {
    pieces.push(words(', in '), { text: plainName(colour.colour), control: { kind: 'plain' } });
  } else {
    const field = fieldByKey(run, colour.field);
    const scale = scene.scales.find((s) => s.id === colour.scale);
    pieces.push(words(', coloured by '), {
      text: field
        ? quantityName(field, colour.component)
        : `${colour.field.split(':').pop()} (not in this run)`,
      control: { kind: 'field' },
    });
    if (scale)
      pieces.push(words(' on '), { text: colourMapById(scale.map).name, control: { kind: 'scale' } });
  }
  return pieces;
}

/** The caption of a picture: the sentences of the visible layers, one after the other, and the time. */
export function sceneCaption(scene: Scene, run: RunDescription, time: string | null): string {
  const shown = scene.layers.filter((l) => l.visible).map((l) => speak(layerSentence(l, scene, run)));
  return [...shown.map((s) => `${s}.`), ...(time ? [`At ${time}.`] : [])].join(' ');
}
