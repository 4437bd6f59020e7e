import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  joinSpreads,
  positivePart,
  type Spread,
  sharesBeyond,
  spreadOfPoints,
  spreadOfSegments,
  spreadOfTriangles,
  spreadQuantile,
  triangleBelow,
  weightBelow,
} from './spread.ts';

/** A square of side 1 in two triangles. */
const square = new Float32Array([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0]);
const halves = new Uint32Array([0, 1, 2, 0, 2, 3]);

describe('how values are spread over triangles', () => {
  it('is exact for a value that rises straight across a square', () => {
    // The value is 100 x: below 30 lies 30 % of the area.
    const spread = spreadOfTriangles(square, halves, new Float32Array([0, 100, 100, 0]));
    expect(spread.weight).toBeCloseTo(1, 9);
    expect([spread.low, spread.high]).toEqual([0, 100]);
    for (const v of [1, 30, 50, 77.7]) expect(weightBelow(spread, v)).toBeCloseTo(v / 100, 3);
    const { below, above } = sharesBeyond(spread, 10, 80);
    expect(below).toBeCloseTo(0.1, 3);
    expect(above).toBeCloseTo(0.2, 3);
    expect(spreadQuantile(spread, 0.25)).toBeCloseTo(25, 1);
    expect([spread.lowAt, spread.highAt]).toEqual([
      [0, 0, 0],
      [1, 0, 0],
    ]);
  });
  it('agrees with counting random places of a triangle', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -10, max: 10, noNaN: true }), { minLength: 3, maxLength: 3 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (values, at) => {
          const [a, b, c] = [...values].sort((p, q) => p - q);
          fc.pre(c - a > 1e-3);
          const t = a + at * (c - a);
          let inside = 0;
          const n = 60;
          for (let i = 0; i < n; i++)
            for (let j = 0; j < n; j++) {
              // Points of the square folded into the triangle.
              let [u, v] = [(i + 0.5) / n, (j + 0.5) / n];
              if (u + v > 1) [u, v] = [1 - u, 1 - v];
              if (a + u * (b - a) + v * (c - a) < t) inside++;
            }
          expect(triangleBelow(a, b, c, t)).toBeCloseTo(inside / (n * n), 1);
        },
      ),
      { numRuns: 60 },
    );
  });
  it('counts what has no value apart', () => {
    const spread = spreadOfTriangles(square, halves, new Float32Array([0, 100, 100, Number.NaN]));
    expect(spread.weight).toBeCloseTo(0.5, 9);
    expect(spread.missing).toBeCloseTo(0.5, 9);
    const none = spreadOfTriangles(square, halves, new Float32Array(4).fill(Number.NaN));
    expect([none.weight, none.missing]).toEqual([0, expect.closeTo(1, 9)]);
    expect(Number.isNaN(none.low)).toBe(true);
    expect(sharesBeyond(none, 0, 1)).toEqual({ below: 0, above: 0 });
  });
  it('counts what has no logarithm as missing, exactly', () => {
    // By hand: from -100 to 100 straight across a square, one half has no logarithm.
    const across = positivePart(spreadOfTriangles(square, halves, new Float32Array([-100, 100, 100, -100])));
    expect([across.weight, across.missing]).toEqual([expect.closeTo(0.5, 9), expect.closeTo(0.5, 9)]);
    expect(sharesBeyond(across, 10, 50).below).toBeCloseTo(0.1, 2);
    expect(sharesBeyond(across, 10, 50).above).toBeCloseTo(0.5, 2);
    // Four points at zero, and six above: nothing lies below the lowest that has a logarithm.
    const values = Float32Array.from([0, 0, 0, 0, 10, 20, 30, 50, 100, 1000]);
    const points = positivePart(spreadOfPoints(new Float32Array(30), [...values.keys()], values));
    expect([points.weight, points.missing]).toEqual([6, 4]);
    expect(sharesBeyond(points, 5, 1000).below).toBe(0);
    const joined = positivePart(joinSpreads([points, spreadOfPoints([], [0], Float32Array.of(-1))])!);
    expect([joined.weight, joined.missing]).toEqual([6, 5]);
    // Where nothing has one the scale is even, and all counts.
    const none = spreadOfPoints(new Float32Array(6), [0, 1], Float32Array.of(-3, 0));
    expect(positivePart(none)).toBe(none);
  });
  it('of one value lies at it', () => {
    const spread = spreadOfTriangles(square, halves, new Float32Array(4).fill(7));
    expect(sharesBeyond(spread, 7, 7)).toEqual({ below: 0, above: 0 });
    expect(sharesBeyond(spread, 8, 9).below).toBe(1);
    expect(sharesBeyond(spread, 5, 6).above).toBe(1);
  });
});

it('along lines goes by length, of points by number', () => {
  const positions = new Float32Array([0, 0, 0, 3, 0, 0, 3, 1, 0]);
  const lines = spreadOfSegments(positions, [0, 1, 1, 2], [0, 30, 70]);
  expect(lines.weight).toBe(4);
  expect(weightBelow(lines, 15)).toBeCloseTo(1.5, 1);
  const points = spreadOfPoints(positions, [0, 1, 2], [5, 5, 9]);
  expect(points).toMatchObject({ by: 'number', weight: 3, low: 5, high: 9, highAt: [3, 1, 0] });
});

describe('several together', () => {
  const rising = (from: number, to: number): Spread =>
    spreadOfTriangles(square, halves, new Float32Array([from, to, to, from]));
  it('have the shares of all', () => {
    const both = joinSpreads([rising(0, 100), rising(50, 150)])!;
    expect([both.low, both.high, both.weight]).toEqual([0, 150, expect.closeTo(2, 9)]);
    // Below 75: three quarters of the first and a quarter of the second.
    expect(weightBelow(both, 75)).toBeCloseTo(1, 2);
    expect(both.bins.reduce((a, b) => a + b, 0)).toBeCloseTo(2, 6);
  });
  it('lie where they lay alone, whatever their ranges', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.integer({ min: -50, max: 50 }), fc.integer({ min: 0, max: 60 })), {
          minLength: 2,
          maxLength: 6,
        }),
        fc.integer({ min: -60, max: 120 }),
        (ranges, value) => {
          const alone = ranges.map(([from, width]) => rising(from, from + width));
          const together = joinSpreads(alone)!;
          const bin = (together.high - together.low) / 512;
          const at = (of: readonly Spread[], v: number) => of.reduce((sum, s) => sum + weightBelow(s, v), 0);
          // Within a bin of the whole nothing is known.
          const below = weightBelow(together, value);
          expect(below).toBeGreaterThanOrEqual(at(alone, value - bin) - 1e-6);
          expect(below).toBeLessThanOrEqual(at(alone, value + bin) + 1e-6);
        },
      ),
    );
  });
  it('do not count points beside areas', () => {
    const both = joinSpreads([rising(0, 1), spreadOfPoints([0, 0, 0], [0], [99])])!;
    expect([both.by, both.high]).toEqual(['area', 1]);
    expect(joinSpreads([])).toBeNull();
  });
});
