import { sampleCorrelation, sampleRankCorrelation } from 'simple-statistics';
import { describe, expect, it } from 'vitest';
import { randomNumbers } from '../model/random-numbers.ts';
import { correlationOf } from './correlation.ts';

describe('how two quantities go together', () => {
  it('is what the package simple-statistics finds', () => {
    const next = randomNumbers(5);
    const a = Array.from({ length: 50 }, () => next());
    const b = a.map((v) => v ** 3 + 0.2 * next());
    const { linear, ordered, runs } = correlationOf(a, b);
    expect(linear).toBeCloseTo(sampleCorrelation(a, b), 10);
    expect(ordered).toBeCloseTo(sampleRankCorrelation(a, b), 10);
    expect(runs).toBe(50);
  });

  it('tells what grows alike from what grows evenly', () => {
    const a = [1, 2, 3, 4, 5];
    const { linear, ordered } = correlationOf(a, a.map(Math.exp));
    expect(ordered).toBe(1);
    expect(linear).toBeLessThan(0.95);
    expect(
      correlationOf(
        a,
        a.map((v) => -v),
      ).linear,
    ).toBe(-1);
  });

  it('shares places among what is the same (Kendall, Rank Correlation Methods: mid-ranks; by hand)', () => {
    // Ranks 1.5, 1.5, 3, 4 and 1, 2, 3.5, 3.5.
    expect(correlationOf([7, 7, 8, 9], [1, 2, 3, 3]).ordered).toBeCloseTo(4 / 4.5, 12);
  });

  it('passes over gaps, and is not told of what does not vary', () => {
    expect(correlationOf([1, Number.NaN, 3, 5], [2, 1, Number.NaN, 10])).toEqual({
      linear: 1,
      ordered: 1,
      runs: 2,
    });
    expect(correlationOf([0.1, 0.1, 0.1], [1, 2, 3])).toEqual({ linear: null, ordered: null, runs: 3 });
    expect(correlationOf([1], [2]).linear).toBeNull();
  });
});
