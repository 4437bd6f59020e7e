import { boundedNumber, wholeNumber } from './bounded-number.ts';
import { z } from './schema.ts';

/**
 * Levels of a quantity: where isosurfaces and contour lines lie, and where the bands of a colour scale meet.
 *
 * - `list`: just these
 * - `count`: so many, evenly from `low` to `high`, both among them
 * - `log`: so many, from `low` to `high` with the same ratio from each to the next; the ends lie above zero
 * - `every`: all whole multiples of a step within the range
 * - `share`: so many that between them, below and above, lie equal shares of all values
 * - `scale`: those of the colour scale of the layer
 *
 * Ends that are null are those of the quantity.
 */
export type Levels =
  | { kind: 'list'; values: number[] }
  | { kind: 'count' | 'log'; count: number; low: number | null; high: number | null }
  | { kind: 'every'; step: number }
  | { kind: 'share'; count: number }
  | { kind: 'scale' };

export type LevelKind = Levels['kind'];

/** More than this many would be a fog, and a burden. */
export const MOST_LEVELS = 200;

/** Most bands a colour scale may have. */
export const MOST_BANDS = 256;

const count = wholeNumber().min(1).max(MOST_LEVELS);
const end = boundedNumber().nullable().default(null);

const list = z.object({ kind: z.literal('list'), values: z.array(boundedNumber()).max(MOST_LEVELS) });
const even = z.object({ kind: z.enum(['count', 'log']), count, low: end, high: end });
const share = z.object({ kind: z.literal('share'), count });
const every = z.object({ kind: z.literal('every'), step: boundedNumber().positive() });

export const levelsSchema: z.ZodType<Levels> = z.union([
  list,
  even,
  every,
  share,
  z.object({ kind: z.literal('scale') }),
]);

/** Of a colour scale, whose ends are its own: `count` bands, or the values at which they meet. */
export const bandsSchema: z.ZodType<Exclude<Levels, { kind: 'scale' }>> = z.union([
  list.extend({ values: z.array(boundedNumber()).max(MOST_BANDS - 1) }),
  even.extend({ count: wholeNumber().min(1).max(MOST_BANDS) }),
  every,
  share.extend({ count: wholeNumber().min(1).max(MOST_BANDS) }),
]);

export type Bands = z.infer<typeof bandsSchema>;

/** So many bands of the same width. */
export const evenBands = (count: number): Bands => ({ kind: 'count', count, low: null, high: null });

/** What levels depend on beside themselves. */
export interface LevelRange {
  low: number;
  high: number;
  /** Evenly spaced quantiles of all values, from the lowest to the highest; null when they are not known. */
  shares: readonly number[] | null;
  /** Levels of the colour scale. */
  scale: readonly number[];
}

/** The value below which a share of all values lies, with straight lines between the known quantiles. */
export function quantile(shares: readonly number[], share: number): number {
  const at = Math.min(1, Math.max(0, share)) * (shares.length - 1);
  const i = Math.min(Math.floor(at), shares.length - 2);
  return shares.length < 2 ? shares[0] : shares[i] + (at - i) * (shares[i + 1] - shares[i]);
}

function between(low: number, high: number, count: number, log: boolean): number[] {
  // Evenly in the logarithm only where there is one; from zero or below, evenly.
  const ratio = log && low > 0 && high > 0;
  return Array.from({ length: count }, (_, k) => {
    if (k === 0) return low;
    if (k === count - 1) return high;
    const t = k / (count - 1);
    return ratio ? low * (high / low) ** t : low + t * (high - low);
  });
}

/** Whole multiples of a step from `low` to `high`, at most so many, as the numbers one would type. */
function multiples(step: number, low: number, high: number, most: number): number[] {
  const first = Math.ceil(low / step - 1e-9);
  const last = Math.min(Math.floor(high / step + 1e-9), first + most - 1);
  return Array.from({ length: Math.max(0, last - first + 1) }, (_, i) =>
    Number(((first + i) * step).toPrecision(12)),
  );
}

/** The levels as numbers, lowest first. A single even one lies in the middle. */
export function levelValues(levels: Levels, range: LevelRange): number[] {
  switch (levels.kind) {
    case 'list':
      return [...levels.values];
    case 'scale':
      return [...range.scale];
    case 'every':
      return multiples(levels.step, range.low, range.high, MOST_LEVELS);
    case 'share': {
      const { low, high } = range;
      const shares = range.shares ?? [low, high];
      return Array.from({ length: levels.count }, (_, k) => quantile(shares, (k + 1) / (levels.count + 1)));
    }
    default: {
      const low = levels.low ?? range.low;
      const high = levels.high ?? range.high;
      const log = levels.kind === 'log';
      return levels.count === 1 ? [between(low, high, 3, log)[1]] : between(low, high, levels.count, log);
    }
  }
}

const innerShares = (bands: number, range: Omit<LevelRange, 'scale'>): number[] =>
  bands > 1 ? levelValues({ kind: 'share', count: bands - 1 }, { ...range, scale: [] }) : [];

/** Where the bands of a scale from `low` to `high` begin and end, its ends among them. */
export function bandEdges(bands: Bands, range: Omit<LevelRange, 'scale'>): number[] {
  const { low, high } = range;
  if (bands.kind === 'count' || bands.kind === 'log')
    return between(low, high, bands.count + 1, bands.kind === 'log');
  const inner =
    bands.kind === 'list'
      ? [...bands.values].sort((a, b) => a - b)
      : bands.kind === 'every'
        ? multiples(bands.step, low, high, MOST_BANDS - 1)
        : innerShares(bands.count, range);
  return [low, ...inner.filter((v, i) => v > low && v < high && v !== inner[i - 1]), high];
}

/** Whether the values must be looked at, not only their range. */
export const needsShares = (levels: Levels | null): boolean => levels?.kind === 'share';
