import { describe, expect, it } from 'vitest';
import { slopeWeights, weightsOverTime } from './sources/over-steps.ts';

describe('weights over steps', () => {
  // The trapezoidal rule: exact for what runs straight between steps, however uneven they are.
  it('give the mean over time of what runs straight', () => {
    for (const times of [
      [0, 1, 2, 3],
      [0, 0.1, 5, 5.5, 20],
    ]) {
      const weights = weightsOverTime(times);
      expect(weights.reduce((a, b) => a + b)).toBeCloseTo(1, 12);
      const mean = weights.reduce((sum, w, i) => sum + w * (3 * times[i] - 1), 0);
      expect(mean).toBeCloseTo((3 * (times[0] + times.at(-1)!)) / 2 - 1, 12);
    }
    expect(weightsOverTime([7])).toEqual([1]);
    expect(weightsOverTime([2, 2])).toEqual([0.5, 0.5]);
  });

  it('give the slope of parabolas at uneven steps, and of lines between two', () => {
    const times = [1, 1.5, 4];
    const of = (t: number): number => 2 * t * t - t + 3;
    for (const at of times) {
      const slope = slopeWeights(times, at).reduce((sum, w, i) => sum + w * of(times[i]), 0);
      expect(slope).toBeCloseTo(4 * at - 1, 10);
    }
    expect(slopeWeights([2, 4], 2)).toEqual([-0.5, 0.5]);
  });
});
