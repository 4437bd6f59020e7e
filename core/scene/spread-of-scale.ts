import { joinSpreads, positivePart, type Spread } from '../colour/spread.ts';
import { comesWithShapes } from '../fields/quantity-sources.ts';
import { parseQuantity, quantityStatistics } from '../model/quantity.ts';
import { fieldByKey, type RunDescription } from '../model/run.ts';
import type { Scale, Scene } from './document.ts';
import { ownColour } from './things/part-look.ts';

/** How the values of a part of a layer are spread, null where nobody asked. */
export interface ShownSpread {
  layer: string;
  part: string;
  spread: Spread | null;
}

/**
 * How the values of everything that uses a scale are spread over what is shown; null while that is not known. Parts with a
 * colour of their own do not count.
 */
export function spreadOfScale(
  { id, spacing }: Pick<Scale, 'id' | 'spacing'>,
  scene: Scene,
  shown: readonly ShownSpread[],
): Spread | null {
  const layers = new Map(
    scene.layers.flatMap((layer) => {
      const { colour, visible, opacity } = layer;
      const uses = visible && opacity > 0 && colour.kind === 'field' && colour.scale === id;
      return uses ? [[layer.id, layer] as const] : [];
    }),
  );
  const all = joinSpreads(
    shown.flatMap(({ layer, part, spread }) => {
      const line = layers.get(layer);
      return spread && line && ownColour(scene.parts[part], line) === null ? [spread] : [];
    }),
  );
  return all && spacing.kind === 'log' ? positivePart(all) : all;
}

/** Whether a scale must know how what is shown is spread: for its range, its legend, or what it leaves out. */
export function needsSpread(scale: Scale, run: RunDescription): boolean {
  const { range, spacing, legend, shownFrom, shownTo, symmetric, opacity } = scale;
  const { field: key, component } = parseQuantity(scale.quantity);
  const field = fieldByKey(run, key);
  const stats = field && quantityStatistics(field, component, null);
  return (
    // What comes with shapes has no range before they are there.
    comesWithShapes(key) ||
    // What has no value is told of.
    (stats?.nanCount ?? 0) > 0 ||
    range.kind === 'shown' ||
    range.kind === 'fixed' ||
    range.kind === 'middle' ||
    symmetric !== null ||
    spacing.kind === 'log' ||
    shownFrom !== null ||
    shownTo !== null ||
    opacity !== null ||
    (legend.visible && (legend.histogram || legend.extremes))
  );
}
