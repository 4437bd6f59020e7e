import { CompiledScale } from '../colour/compiled-scale.ts';
import { type Spread, spreadQuantile } from '../colour/spread.ts';
import { tidyEnds } from '../colour/ticks.ts';
import { comesWithShapes } from '../fields/quantity-sources.ts';
import { needsShares, quantile } from '../model/levels.ts';
import { parseQuantity, quantityStatistics } from '../model/quantity.ts';
import { fieldByKey, type RunDescription, sharesOf } from '../model/run.ts';
import { unitChange } from '../model/units.ts';
import type { Scale } from './document.ts';
import type { ShownEnd } from './things/scale.ts';

/** Whether a scale depends on how the values of its quantity are spread over the whole run, which must have them. */
export const scaleNeedsShares = ({ quantity, bands, range }: Scale): boolean =>
  (needsShares(bands) || range.kind === 'middle') && !comesWithShapes(parseQuantity(quantity).field);

/** The unit of the quantity as it is stored, and that its numbers are shown in. */
export function unitsOfScale(
  scale: Scale,
  run: RunDescription,
): { stored: string | null; shown: string | null } {
  const stored = fieldByKey(run, parseQuantity(scale.quantity).field)?.unit ?? null;
  const fits = stored !== null && scale.unit !== null && unitChange(stored, scale.unit) !== null;
  return { stored, shown: fits ? scale.unit : stored };
}

/** Where a logarithm begins when the lowest value has none: so far below the highest. */
const DECADES = 1e-4;

/**
 * A scale at a step, with its range settled from the run.
 *
 * @param shown how the values of the lines that use it are spread at this step; null where that is not known (yet)
 */
export function settleScale(
  scale: Scale,
  run: RunDescription,
  step: number,
  shown: Spread | null = null,
): CompiledScale {
  const { map, reversed, crop, rotate, bands, below, above, missing, opacity, categories } = scale;
  const shares = scaleNeedsShares(scale) ? sharesOf(run, scale.quantity) : null;
  const units = unitsOfScale(scale, run);
  const unit = units.stored && units.shown ? unitChange(units.stored, units.shown) : null;
  const told = rangeOfScale(scale, run, step, shares, shown);
  let [low, high] = told;
  let { spacing } = scale;
  if (scale.symmetric !== null) {
    const reach = Math.max(Math.abs(high - scale.symmetric), Math.abs(scale.symmetric - low));
    [low, high] = [scale.symmetric - reach, scale.symmetric + reach];
  }
  if (spacing.kind === 'log') {
    // Where nothing has a logarithm, values are spaced evenly.
    if (!(high > 0)) spacing = { kind: 'linear' };
    else if (!(low > 0)) low = lowestPositive(high, shares, shown);
  }
  if (scale.tidy && high > low)
    [low, high] = spacing.kind === 'log' ? wholeDecades(low, high) : tidyIn(unit ?? AS_STORED, low, high);
  const end = (value: ShownEnd, ofRange: number): number | null => (value === 'range' ? ofRange : value);
  return CompiledScale.of({
    map,
    reversed,
    crop,
    rotate,
    bands,
    low,
    high,
    shares,
    spacing,
    below,
    above,
    shownFrom: end(scale.shownFrom, low),
    shownTo: end(scale.shownTo, high),
    missing,
    opacity,
    categories: categories && [...categories].sort((a, b) => a.value - b.value),
    unit,
  });
}

const AS_STORED = { factor: 1, shift: 0 };

/** Rounded outwards to numbers that are round in the unit they are shown in. */
function tidyIn(
  { factor, shift }: { factor: number; shift: number },
  low: number,
  high: number,
): [number, number] {
  const ends = tidyEnds(low * factor + shift, high * factor + shift);
  return ends.map((v) => Number(((v - shift) / factor).toPrecision(14))) as [number, number];
}

const wholeDecades = (low: number, high: number): [number, number] => [
  10 ** Math.floor(Math.log10(low) + 1e-9),
  10 ** Math.ceil(Math.log10(high) - 1e-9),
];

/** The lowest value above zero that is known, or four decades below the highest. */
function lowestPositive(high: number, shares: readonly number[] | null, shown: Spread | null): number {
  const known = [...(shares ?? []), ...(shown && shown.low > 0 ? [shown.low] : [])].filter(
    (v) => v > 0 && v < high,
  );
  return known.length > 0 ? Math.max(Math.min(...known), DECADES * high) : DECADES * high;
}

/** The range before it is made symmetric or round. */
function rangeOfScale(
  { range, quantity }: Scale,
  run: RunDescription,
  step: number,
  shares: readonly number[] | null,
  shown: Spread | null,
): [number, number] {
  if (range.kind === 'fixed') return [range.low, range.high];
  if (range.kind === 'shown' && shown && shown.weight > 0) return [shown.low, shown.high];
  if (range.kind === 'middle' && shares) {
    const low = quantile(shares, (1 - range.share) / 2);
    const high = quantile(shares, (1 + range.share) / 2);
    if (high > low) return [low, high];
  }
  const { field: key, component } = parseQuantity(quantity);
  if (range.kind === 'middle' && comesWithShapes(key) && shown && shown.weight > 0) {
    const [low, high] = middleOfShown(shown, range.share);
    if (high > low) return [low, high];
  }
  const field = fieldByKey(run, key);
  // What is shown is not known before it is drawn.
  const now = range.kind === 'this-step' || range.kind === 'shown';
  const stats = field && quantityStatistics(field, component, now ? step : null);
  if (stats && Number.isFinite(stats.min)) return [stats.min, stats.max];
  return comesWithShapes(key) && shown && shown.weight > 0 ? [shown.low, shown.high] : [0, 1];
}

/** Ends between which a share of what is shown lies, as much below as above. */
export const middleOfShown = (shown: Spread, share: number): [number, number] => [
  spreadQuantile(shown, (1 - share) / 2),
  spreadQuantile(shown, (1 + share) / 2),
];
