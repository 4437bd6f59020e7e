import { describe, expect, it } from 'vitest';
import { type DarkAir, darkAir, type ShadingCloud } from './dark-air.ts';

const block = (low: number, high: number, n: number, value: (i: number) => number): ShadingCloud['grid'] => ({
  size: [n, n, n],
  bounds: [low, high, low, high, low, high],
  values: Float32Array.from({ length: n ** 3 }, (_, i) => value(i)),
});

/** The middle of the common grid and its corners, as a rate of loss. */
const at = ({ size, density }: DarkAir, x: number, y: number, z: number): number => {
  const [i, j, k] = [x, y, z].map((s, axis) => Math.round(s * (size[axis] - 1)));
  return density[i + size[0] * (j + size[1] * k)];
};

describe('air that takes light away', () => {
  it('leaves of light on a way of a fortieth of the diagonal what the curve says', () => {
    const air = darkAir([{ grid: block(0, 2, 5, () => 1), opacityOf: () => 0.3 }])!;
    const way = (2 * Math.sqrt(3)) / 40;
    for (const place of [
      [0, 0, 0],
      [0.5, 0.5, 0.5],
      [1, 0.3, 0.7],
    ] as [number, number, number][])
      expect(Math.exp(-at(air, ...place) * way)).toBeCloseTo(0.7, 6);
  });

  it('changes evenly between the points of the cloud, and is not where it has no value', () => {
    const air = darkAir(
      [{ grid: block(0, 1, 3, (i) => (i % 3 === 0 ? Number.NaN : i % 3)), opacityOf: (v) => 0.1 * v }],
      65,
    )!;
    const rate = (opacity: number): number => (-Math.log(1 - opacity) * 40) / Math.sqrt(3);
    expect(at(air, 0, 0.5, 0.5)).toBe(0);
    expect(at(air, 0.25, 0.5, 0.5)).toBeCloseTo(rate(0.1) / 2, 5);
    expect(at(air, 0.75, 0.2, 0.9)).toBeCloseTo((rate(0.1) + rate(0.2)) / 2, 5);
  });

  it('of several clouds adds up where they lie in one another, and spans all of them', () => {
    const one = { grid: block(0, 1, 4, () => 1), opacityOf: () => 0.2 };
    const other = { grid: block(0.5, 2.5, 4, () => 1), opacityOf: () => 0.5 };
    const air = darkAir([one, other], 51)!;
    expect(air.bounds).toEqual([0, 2.5, 0, 2.5, 0, 2.5]);
    expect(Math.max(...air.size)).toBe(51);
    const [a, b] = [one, other].map((c) => at(darkAir([c])!, 0.5, 0.5, 0.5));
    expect(at(air, 0.3, 0.3, 0.3)).toBeCloseTo(a + b, 5);
    expect(at(air, 0.1, 0.1, 0.1)).toBeCloseTo(a, 5);
    expect(at(air, 0.8, 0.8, 0.8)).toBeCloseTo(b, 5);
  });

  it('is none without clouds, and where they are clear; nothing is wholly dark', () => {
    expect(darkAir([])).toBeNull();
    expect(darkAir([{ grid: block(0, 1, 3, () => 1), opacityOf: () => 0 }])).toBeNull();
    const dark = darkAir([{ grid: block(0, 1, 3, () => 1), opacityOf: () => 1 }])!;
    expect(Number.isFinite(at(dark, 0.5, 0.5, 0.5))).toBe(true);
  });
});
