import type { CompiledScale } from '../colour/compiled-scale.ts';
import { type Bands, MOST_BANDS } from '../model/levels.ts';

/** The levels at which the bands of a scale meet, its ends left out; none of a continuous one. */
export const innerLevels = (scale: CompiledScale): number[] =>
  scale.bandCount > 0 && !scale.categories ? scale.edges.slice(1, -1) : [];

const listed = (values: number[]): Bands => ({
  kind: 'list',
  values: [...new Set(values)].sort((a, b) => a - b).slice(0, MOST_BANDS - 1),
});

/** The bands of a scale with one more level; a continuous scale is parted there. */
export const withLevel = (scale: CompiledScale, value: number): Bands =>
  listed([...innerLevels(scale), value]);

/** With a level, counted from the lowest, at another value. */
export const withLevelMoved = (scale: CompiledScale, index: number, value: number): Bands =>
  listed(innerLevels(scale).map((v, i) => (i === index ? value : v)));

/** Without a level; null, which is continuous, without the last one. */
export function withoutLevel(scale: CompiledScale, index: number): Bands | null {
  const rest = innerLevels(scale).filter((_, i) => i !== index);
  return rest.length > 0 ? listed(rest) : null;
}

/** A value as one would type it: as many digits as a scale of this width can show. */
export function levelAt(scale: CompiledScale, fraction: number): number {
  const value = scale.shownNumber(scale.value(fraction));
  const width = Math.abs(scale.shownNumber(scale.high) - scale.shownNumber(scale.low));
  if (!(width > 0)) return scale.storedNumber(value);
  const step = 10 ** Math.floor(Math.log10(width / 150));
  const of =
    scale.spacing.kind === 'linear' ? step : 10 ** (Math.floor(Math.log10(Math.abs(value) || 1)) - 1);
  return scale.storedNumber(Number((Math.round(value / of) * of).toPrecision(10)));
}
