import { triangleArea } from '../model/triangle-area.ts';

/** How values are spread over what is shown: by area, or by length or number where there is nothing with an area. */
export interface Spread {
  by: 'area' | 'length' | 'number';
  /** Of everything that has a value, and of what has none, in square units, units or as a number. */
  weight: number;
  missing: number;
  /** Of what has a value, how much has zero or less: what has no logarithm. */
  notPositive: number;
  /** Lowest and highest value, NaN where there is none, and where they are met, relative to the origin of the run. */
  low: number;
  high: number;
  lowAt: readonly [number, number, number] | null;
  highAt: readonly [number, number, number] | null;
  /** Weights of `SPREAD_BINS` even stretches from low to high. */
  bins: Float64Array;
}

export const SPREAD_BINS = 512;

export const emptySpread = (by: Spread['by']): Spread => ({
  by,
  weight: 0,
  missing: 0,
  notPositive: 0,
  low: Number.NaN,
  high: Number.NaN,
  lowAt: null,
  highAt: null,
  bins: new Float64Array(SPREAD_BINS),
});

/** Gathers the spread of values over triangles, lines or points, in two rounds: `range` first, then what lies where. */
class SpreadMaker {
  readonly made: Spread;
  private scale = 0;

  constructor(
    by: Spread['by'],
    private readonly positions: ArrayLike<number>,
    private readonly values: ArrayLike<number>,
    elements: ArrayLike<number>,
  ) {
    this.made = emptySpread(by);
    let [low, high, lowAt, highAt] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY, -1, -1];
    for (let i = 0; i < elements.length; i++) {
      const v = values[elements[i]];
      if (v < low) [low, lowAt] = [v, elements[i]];
      if (v > high) [high, highAt] = [v, elements[i]];
    }
    if (lowAt < 0 || !Number.isFinite(high - low)) return;
    Object.assign(this.made, { low, high, lowAt: this.at(lowAt), highAt: this.at(highAt) });
    this.scale = high > low ? SPREAD_BINS / (high - low) : 0;
  }

  private at(v: number): [number, number, number] {
    const p = this.positions;
    return [p[3 * v], p[3 * v + 1], p[3 * v + 2]];
  }

  private binOf(value: number): number {
    return Math.min(SPREAD_BINS - 1, Math.floor((value - this.made.low) * this.scale));
  }

  /** Something whose values lie between the lowest and the highest of these; `below` is the share below a value. */
  add(weight: number, low: number, high: number, below: (value: number) => number): void {
    const { made, scale } = this;
    if (!(weight > 0)) return;
    if (!Number.isFinite(low + high)) {
      made.missing += weight;
      return;
    }
    made.weight += weight;
    if (low <= 0) made.notPositive += high <= 0 ? weight : weight * below(0);
    const [first, last] = [this.binOf(low), this.binOf(high)];
    if (first === last || scale === 0) {
      made.bins[first] += weight;
      return;
    }
    let before = 0;
    for (let bin = first; bin <= last; bin++) {
      const share = bin === last ? 1 : below(made.low + (bin + 1) / scale);
      made.bins[bin] += weight * (share - before);
      before = share;
    }
  }

  value(v: number): number {
    return this.values[v];
  }
}

/**
 * Share of a triangle on which a straight function of its three corner values lies below `t`: the area cut off grows with
 * the square of the distance from the corner (similar triangles).
 *
 * @param a lowest corner value, then b, then c the highest
 */
export function triangleBelow(a: number, b: number, c: number, t: number): number {
  if (t <= a) return 0;
  if (t >= c) return 1;
  return t <= b ? (t - a) ** 2 / ((b - a) * (c - a) || 1) : 1 - (c - t) ** 2 / ((c - a) * (c - b) || 1);
}

/** Over triangles, values straight between their corners. */
export function spreadOfTriangles(
  positions: ArrayLike<number>,
  triangles: ArrayLike<number>,
  values: ArrayLike<number>,
): Spread {
  const maker = new SpreadMaker('area', positions, values, triangles);
  for (let i = 0; i < triangles.length; i += 3) {
    const [u, v, w] = [triangles[i], triangles[i + 1], triangles[i + 2]];
    const area = triangleArea(positions, u, v, w);
    let [a, b, c] = [maker.value(u), maker.value(v), maker.value(w)];
    if (a > b) [a, b] = [b, a];
    if (b > c) [b, c] = [c, b];
    if (a > b) [a, b] = [b, a];
    // What is not a number does not sort; it makes the sum no number either.
    maker.add(area, Number.isNaN(a + b + c) ? Number.NaN : a, c, (t) => triangleBelow(a, b, c, t));
  }
  return maker.made;
}

/** Along line segments, values straight between their ends. */
export function spreadOfSegments(
  positions: ArrayLike<number>,
  segments: ArrayLike<number>,
  values: ArrayLike<number>,
): Spread {
  const maker = new SpreadMaker('length', positions, values, segments);
  const p = positions;
  for (let i = 0; i < segments.length; i += 2) {
    const [u, v] = [3 * segments[i], 3 * segments[i + 1]];
    const length = Math.hypot(p[v] - p[u], p[v + 1] - p[u + 1], p[v + 2] - p[u + 2]);
    const [from, to] = [maker.value(segments[i]), maker.value(segments[i + 1])];
    const [low, high] = from < to ? [from, to] : [to, from];
    maker.add(length, low, high, (t) => Math.min(1, Math.max(0, (t - low) / (high - low))));
  }
  return maker.made;
}

/** Of points, each as much as the other. */
export function spreadOfPoints(
  positions: ArrayLike<number>,
  points: ArrayLike<number>,
  values: ArrayLike<number>,
): Spread {
  const maker = new SpreadMaker('number', positions, values, points);
  for (let i = 0; i < points.length; i++) {
    const value = maker.value(points[i]);
    maker.add(1, value, value, () => 1);
  }
  return maker.made;
}

const order: Spread['by'][] = ['area', 'length', 'number'];

/** Several together; beside what has an area, lines and points do not count. Null where there is nothing. */
export function joinSpreads(spreads: readonly Spread[]): Spread | null {
  const by = order.find((kind) => spreads.some((s) => s.by === kind && s.weight + s.missing > 0));
  const all = spreads.filter((s) => s.by === by);
  if (!by || all.length === 0) return null;
  if (all.length === 1) return all[0];
  const out = emptySpread(by);
  const valued = all.filter((s) => s.weight > 0);
  for (const s of all) out.missing += s.missing;
  if (valued.length === 0) return out;
  const lowest = valued.reduce((a, b) => (b.low < a.low ? b : a));
  const highest = valued.reduce((a, b) => (b.high > a.high ? b : a));
  Object.assign(out, { low: lowest.low, lowAt: lowest.lowAt, high: highest.high, highAt: highest.highAt });
  for (const s of valued) {
    out.weight += s.weight;
    out.notPositive += s.notPositive;
    const belowEdge = runningTotal(s.bins);
    const scale = s.high > s.low ? SPREAD_BINS / (s.high - s.low) : 0;
    let before = 0;
    for (let bin = 0; bin < SPREAD_BINS; bin++) {
      const end = out.low + ((bin + 1) / SPREAD_BINS) * (out.high - out.low);
      // The same as `weightBelow`, for many values at once.
      let below = s.weight;
      if (bin < SPREAD_BINS - 1 && end <= s.high) {
        const at = Math.max(0, (end - s.low) * scale);
        const own = Math.min(SPREAD_BINS - 1, Math.floor(at));
        below = end > s.low ? belowEdge[own] + (at - own) * s.bins[own] : 0;
      }
      out.bins[bin] += below - before;
      before = below;
    }
  }
  return out;
}

/** As a scale by logarithm has it: zero and less count as missing. Where there is nothing else there is no logarithm. */
export function positivePart(spread: Spread): Spread {
  const { notPositive, weight, missing, high } = spread;
  if (!(notPositive > 0 && high > 0)) return spread;
  const bins = Float64Array.from(spread.bins);
  let left = notPositive;
  for (let bin = 0; bin < SPREAD_BINS && left > 0; bin++) {
    const taken = Math.min(bins[bin], left);
    bins[bin] -= taken;
    left -= taken;
  }
  return {
    ...spread,
    bins,
    missing: missing + notPositive,
    weight: weight - notPositive,
    notPositive: 0,
    lowAt: null,
  };
}

/** What lies below the beginning of each bin. */
function runningTotal(bins: Float64Array): Float64Array {
  const out = new Float64Array(bins.length);
  for (let i = 1; i < bins.length; i++) out[i] = out[i - 1] + bins[i - 1];
  return out;
}

/** How much lies below a value; straight within a bin. */
export function weightBelow({ low, high, weight, bins }: Spread, value: number): number {
  if (!(value > low)) return 0;
  if (value > high) return weight;
  if (!(high > low)) return 0;
  const at = ((value - low) / (high - low)) * SPREAD_BINS;
  const bin = Math.min(SPREAD_BINS - 1, Math.floor(at));
  let below = 0;
  for (let i = 0; i < bin; i++) below += bins[i];
  return below + (at - bin) * bins[bin];
}

/** Shares of what has a value that lie below one value and above another. */
export const sharesBeyond = (spread: Spread, low: number, high: number): { below: number; above: number } =>
  spread.weight > 0
    ? {
        below: weightBelow(spread, low) / spread.weight,
        above: 1 - weightBelow(spread, high) / spread.weight - shareAt(spread, high),
      }
    : { below: 0, above: 0 };

/** Shares beyond the colours of a scale that are on show, and shares that are hidden, below and above. */
export function sharesOnShow(
  spread: Spread,
  {
    low,
    high,
    shownFrom = null,
    shownTo = null,
  }: { low: number; high: number; shownFrom?: number | null; shownTo?: number | null },
): Record<'below' | 'above', { shown: number; hidden: number }> {
  const beyond = sharesBeyond(spread, low, high);
  const hidden = sharesBeyond(
    spread,
    shownFrom ?? Number.NEGATIVE_INFINITY,
    shownTo ?? Number.POSITIVE_INFINITY,
  );
  const side = (of: 'below' | 'above') => ({
    shown: Math.max(0, beyond[of] - hidden[of]),
    hidden: hidden[of],
  });
  return { below: side('below'), above: side('above') };
}

/** All that has the highest value lies at it, not above. */
const shareAt = ({ low, high, weight, bins }: Spread, value: number): number =>
  value === high && !(high > low) ? bins[0] / weight : 0;

/** The value below which a share of what is shown lies. */
export function spreadQuantile(spread: Spread, share: number): number {
  const { low, high, weight, bins } = spread;
  const wanted = Math.min(1, Math.max(0, share)) * weight;
  let below = 0;
  for (let bin = 0; bin < SPREAD_BINS; bin++) {
    if (below + bins[bin] >= wanted && bins[bin] > 0) {
      const t = (wanted - below) / bins[bin];
      return low + ((bin + t) / SPREAD_BINS) * (high - low);
    }
    below += bins[bin];
  }
  return high;
}
