import { describe, expect, it } from 'vitest';
import {
  type Bands,
  bandEdges,
  bandsSchema,
  evenBands,
  type Levels,
  levelsSchema,
  levelValues,
  quantile,
} from './levels.ts';

const range = { low: 0, high: 10, shares: null, scale: [1, 2] };
const at = (levels: Levels, more: Partial<typeof range | { shares: number[] }> = {}): number[] =>
  levelValues(levels, { ...range, ...more } as never);

describe('levels', () => {
  it('are a list, even with both ends among them, or those of the colours', () => {
    expect(at({ kind: 'list', values: [3, 1] })).toEqual([3, 1]);
    expect(at({ kind: 'count', count: 3, low: 2, high: 6 })).toEqual([2, 4, 6]);
    expect(at({ kind: 'count', count: 3, low: null, high: null })).toEqual([0, 5, 10]);
    expect(at({ kind: 'count', count: 1, low: 2, high: 6 })).toEqual([4]);
    expect(at({ kind: 'scale' })).toEqual([1, 2]);
  });
  it('by ratio have the same ratio from each to the next; where there is no logarithm they are even', () => {
    const decades = at({ kind: 'log', count: 4, low: 1, high: 1000 });
    for (const [i, v] of [1, 10, 100, 1000].entries()) expect(decades[i]).toBeCloseTo(v, 9);
    expect(at({ kind: 'log', count: 3, low: 0, high: 10 })).toEqual([0, 5, 10]);
    expect(at({ kind: 'log', count: 3, low: -4, high: -1 })).toEqual([-4, -2.5, -1]);
  });
  it('of equal shares are quantiles: a quarter of all values below, between and above three of them', () => {
    // The squares of evenly spaced numbers: a share s of all lies below 100 s².
    const shares = Array.from({ length: 101 }, (_, i) => (i / 10) ** 2);
    const found = at({ kind: 'share', count: 3 }, { shares });
    for (const [i, s] of [0.25, 0.5, 0.75].entries()) expect(found[i]).toBeCloseTo(100 * s * s, 9);
    expect(at({ kind: 'share', count: 1 })).toEqual([5]);
    expect([-1, 0, 1, 2].map((s) => quantile([3, 7], s))).toEqual([3, 3, 7, 7]);
    expect(quantile([4], 0.3)).toBe(4);
  });
  it('as bands begin and end at the ends of the scale, whatever is said of their own', () => {
    const edges = (bands: Bands, shares: number[] | null = null): number[] =>
      bandEdges(bands, { low: 0, high: 10, shares });
    expect(edges(evenBands(4))).toEqual([0, 2.5, 5, 7.5, 10]);
    expect(edges(evenBands(1))).toEqual([0, 10]);
    expect(edges({ kind: 'list', values: [7, 2, 2, -1, 11] })).toEqual([0, 2, 7, 10]);
    expect(edges({ kind: 'share', count: 2 }, [0, 1, 10])).toEqual([0, 1, 10]);
    expect(edges({ kind: 'share', count: 1 })).toEqual([0, 10]);
    const ratio = bandEdges(
      { kind: 'log', count: 2, low: null, high: null },
      { low: 1, high: 100, shares: null },
    );
    expect(ratio[1]).toBeCloseTo(10, 9);
  });
  it('are refused when they are too many or none', () => {
    for (const count of [0, 201, 1.5, Number.NaN])
      expect(levelsSchema.safeParse({ kind: 'count', count, low: null, high: null }).success).toBe(false);
    expect(bandsSchema.safeParse(evenBands(257)).success).toBe(false);
    expect(bandsSchema.safeParse({ kind: 'scale' }).success).toBe(false);
    expect(levelsSchema.parse({ kind: 'log', count: 3 })).toEqual({
      kind: 'log',
      count: 3,
      low: null,
      high: null,
    });
  });
});
