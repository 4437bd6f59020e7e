import { CompiledScale } from '../colour/compiled-scale.ts';
import { needsShares, quantile } from '../model/levels.ts';
import { parseQuantity, quantityStatistics } from '../model/quantity.ts';
import { fieldByKey, type RunDescription, sharesOf } from '../model/run.ts';
import type { Scale } from './document.ts';

/** Whether a scale depends on how the values of its quantity are spread. */
export const scaleNeedsShares = ({ bands, range }: Pick<Scale, 'bands' | 'range'>): boolean =>
  needsShares(bands) || range.kind === 'middle';

/** A scale at a step, with its range settled from the run. */
export function settleScale(scale: Scale, run: RunDescription, step: number): CompiledScale {
  const { map, reversed, bands, range } = scale;
  const shares = scaleNeedsShares(scale) ? sharesOf(run, scale.quantity) : null;
  const between = (low: number, high: number): CompiledScale =>
    CompiledScale.of({ map, reversed, bands, low, high, shares });
  if (range.kind === 'fixed') return between(range.low, range.high);
  if (range.kind === 'middle' && shares) {
    const low = quantile(shares, (1 - range.share) / 2);
    const high = quantile(shares, (1 + range.share) / 2);
    if (high > low) return between(low, high);
  }
  const { field: key, component } = parseQuantity(scale.quantity);
  const field = fieldByKey(run, key);
  const stats = field && quantityStatistics(field, component, range.kind === 'this-step' ? step : null);
  return stats && Number.isFinite(stats.min) ? between(stats.min, stats.max) : between(0, 1);
}
