import type { Layer } from '../scene/document.ts';
import { activeSteps, layerLabel } from '../scene/layer-chain.ts';
import type { CheckedScene, Found } from './rule.ts';

/** On less of the area than this it is an edge, and no more. Common practice, no source. */
const WORTH_SAYING = 0.1;

const AVERAGING = 'average-to-points';

/** Lines whose values change much over one cell, by whether they were averaged before. */
export function abruptLines(
  { scene, picture }: Pick<CheckedScene, 'scene' | 'picture'>,
  averaged: boolean,
  told: (name: string, percent: number, layer: Layer) => Omit<Found, 'place'>,
): Found[] {
  return scene.layers.flatMap((layer) => {
    const share = picture?.abrupt[layer.id] ?? 0;
    if (share < WORTH_SAYING) return [];
    if (activeSteps(layer, scene).some(({ op }) => op === AVERAGING) !== averaged) return [];
    const name = layerLabel(layer, scene);
    return {
      place: { kind: 'line' as const, id: layer.id, name },
      ...told(name, Math.round(100 * share), layer),
    };
  });
}

/** The edits that switch the averaging of a line off. */
export const withoutAveraging = (layer: Layer) =>
  layer.chain
    .filter(({ op, off }) => op === AVERAGING && !off)
    .map(({ id: step }) => ({ type: 'chain.switch' as const, id: layer.id, step, off: true }));
