import { describe, expect, it } from 'vitest';
import { asked, onPoints, piece } from '../../../tests/measured-pieces.ts';
import { LINE } from '../../model/cell-types.ts';
import type { Mesh } from '../../model/mesh.ts';
import { extreme } from '../extreme.ts';
import { resampling } from './resample.ts';
import { splineAt, splineExtreme, splineThrough } from './spline.ts';

const places = [0, 0.3, 0.5, 1.1, 1.2, 2];

describe('a spline', () => {
  it('through a cubic is that cubic, wherever its points lie', () => {
    const cubic = (x: number) => 2 - x + 3 * x * x - 0.7 * x ** 3;
    const spline = splineThrough(places, places.map(cubic));
    for (let x = 0; x <= 2; x += 0.01) expect(splineAt(spline, x)).toBeCloseTo(cubic(x), 10);
    expect(splineAt(spline, 2.1)).toBeNaN();
    // By hand: level at x = 0.1782 and 2.679; the lowest in between is at the first.
    const level = (3 - Math.sqrt(9 - 2.1)) / 2.1;
    expect(splineExtreme(spline, -1)).toEqual({
      at: expect.closeTo(level, 8),
      value: expect.closeTo(cubic(level), 10),
    });
    expect(splineExtreme(spline, 1)).toEqual({ at: 2, value: expect.closeTo(cubic(2), 10) });
  });
  it('through three points is their parabola, through two their line', () => {
    const parabola = splineThrough([0, 1, 3], [0, 1, 9]);
    for (const x of [0.4, 1.7, 2.9]) expect(splineAt(parabola, x)).toBeCloseTo(x * x, 12);
    expect(splineAt(splineThrough([1, 3], [2, 6]), 1.5)).toBe(3);
    expect(splineAt(splineThrough([1], [2]), 1)).toBe(2);
  });
  it('comes nearer to a sine with the fourth power of the distance', () => {
    // De Boor, chapter V: the error of a cubic spline falls with h^4.
    const worst = (n: number): number => {
      const x = Array.from({ length: n + 1 }, (_, i) => (3 * i) / n);
      const spline = splineThrough(x, x.map(Math.sin));
      return Math.max(
        ...Array.from({ length: 301 }, (_, i) => Math.abs(splineAt(spline, i / 100) - Math.sin(i / 100))),
      );
    };
    expect(Math.log2(worst(10) / worst(20))).toBeGreaterThan(3.5);
    const x = Array.from({ length: 11 }, (_, i) => 0.3 * i);
    const top = splineExtreme(splineThrough(x, x.map(Math.sin)), 1);
    expect(top.value).toBeCloseTo(1, 4);
    expect(top.at).toBeCloseTo(Math.PI / 2, 3);
  });
});

describe('what a spline is used for', () => {
  const curve = {
    along: { name: 'way', unit: 'm' },
    up: { name: 'T', unit: 'K' },
    x: Float64Array.from([0, 1, 1, 2, 3, 4]),
    y: Float64Array.from([0, 1, 1, 8, Number.NaN, 64]),
    overSteps: false,
  };
  it('curves at even places run along it, over places without a value', () => {
    const fine = resampling.apply(curve, { count: 9, between: 'spline' }, { curve: () => null });
    expect(fine.y[5]).toBeCloseTo(2.5 ** 3, 8);
    expect(fine.y[6]).toBeCloseTo(27, 8);
    const straight = resampling.apply(curve, { count: 9, between: 'line' }, { curve: () => null });
    expect(straight.y[3]).toBeCloseTo(4.5, 12);
    const nothing = { ...curve, y: curve.y.map(() => Number.NaN) };
    expect(() => resampling.apply(nothing, { count: 5, between: 'spline' }, { curve: () => null })).toThrow(
      /two places/,
    );
  });
  it('the highest value along a line lies between its points', () => {
    const n = 8;
    const mesh: Mesh = {
      points: Float32Array.from({ length: 3 * (n + 1) }, (_, i) => (i % 3 === 0 ? i / 3 / n : 0)),
      types: new Uint8Array(n).fill(LINE),
      offsets: Uint32Array.from({ length: n + 1 }, (_, i) => 2 * i),
      connectivity: Uint32Array.from({ length: 2 * n }, (_, i) => Math.ceil(i / 2)),
    };
    const on = piece(mesh, { f: onPoints(mesh, (x) => 1 - (x - 0.3) ** 2) }, [5, 0, 0]);
    const found = asked(extreme, on, { which: 'maximum', spline: true });
    expect(found.value).toBeCloseTo(1, 6);
    expect(found.place[0]).toBeCloseTo(5.3, 4);
    expect(asked(extreme, on, { which: 'maximum' }).value).toBeLessThan(0.9976);
    const low = asked(extreme, on, { which: 'minimum', spline: true });
    expect(low.place[0]).toBeCloseTo(6, 6);
  });
});
