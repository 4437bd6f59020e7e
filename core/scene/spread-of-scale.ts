import { joinSpreads, type Spread } from '../colour/spread.ts';
import { comesWithShapes } from '../fields/quantity-sources.ts';
import { parseQuantity } from '../model/quantity.ts';
import type { Scale, Scene } from './document.ts';

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
  { id }: Pick<Scale, 'id'>,
  scene: Scene,
  shown: readonly ShownSpread[],
): Spread | null {
  const layers = new Set(
    scene.layers.flatMap(({ id: layer, colour, visible, opacity }) =>
      visible && opacity > 0 && colour.kind === 'field' && colour.scale === id ? [layer] : [],
    ),
  );
  return joinSpreads(
    shown.flatMap(({ layer, part, spread }) =>
      spread && layers.has(layer) && !scene.parts[part]?.colour ? [spread] : [],
    ),
  );
}

/** Whether a scale must know how what is shown is spread: for its range, its legend, or what it leaves out. */
export const needsSpread = ({
  quantity,
  range,
  spacing,
  legend,
  shownFrom,
  shownTo,
  symmetric,
  opacity,
}: Scale): boolean =>
  // What comes with shapes has no range before they are there.
  comesWithShapes(parseQuantity(quantity).field) ||
  range.kind === 'shown' ||
  range.kind === 'fixed' ||
  range.kind === 'middle' ||
  symmetric !== null ||
  spacing.kind === 'log' ||
  shownFrom !== null ||
  shownTo !== null ||
  opacity !== null ||
  (legend.visible && (legend.histogram || legend.extremes));
