import { CompiledScale } from '../colour/compiled-scale.ts';
import { parseQuantity, quantityStatistics } from '../model/quantity.ts';
import { fieldByKey, type RunDescription } from '../model/run.ts';
import type { Scale } from './document.ts';

/** A scale at a step, with its range settled from the run. */
export function settleScale(scale: Scale, run: RunDescription, step: number): CompiledScale {
  const { map, reversed, bands, range } = scale;
  if (range.kind === 'fixed')
    return CompiledScale.of({ map, reversed, bands, low: range.low, high: range.high });
  const { field: key, component } = parseQuantity(scale.quantity);
  const field = fieldByKey(run, key);
  const stats = field && quantityStatistics(field, component, range.kind === 'this-step' ? step : null);
  if (!stats || !Number.isFinite(stats.min))
    return CompiledScale.of({ map, reversed, bands, low: 0, high: 1 });
  return CompiledScale.of({ map, reversed, bands, low: stats.min, high: stats.max });
}
