import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { abruptAreas } from './abrupt-share.ts';
import { CoverGrid } from './cover-grid.ts';
import { mostFlashes } from './flashes.ts';
import { overlapOf } from './picture-seen.ts';
import { arcOf } from './rules/small-words.ts';

describe('where the model is seen', () => {
  it('is known of faces that have no corner in a field', () => {
    const grid = new CoverGrid(1.5);
    grid.faces([0, 0, 1, 0, 1, 1, 0, 1], [0, 1, 2, 0, 2, 3]);
    expect(grid.shareIn({ x: 0.4, y: 0.4, width: 0.1, height: 0.1 })).toBe(1);
    expect(grid.shareIn({ x: 0, y: 0, width: 1, height: 1 })).toBe(1);
  });
  it('is half of what a face crosses, and nothing beside it', () => {
    const grid = new CoverGrid(1);
    grid.faces([0, 0, 1, 1, 0, 1], [0, 1, 2]);
    expect(grid.shareIn({ x: 0, y: 0, width: 1, height: 1 })).toBeCloseTo(0.5, 1);
    expect(grid.shareIn({ x: 0.8, y: 0, width: 0.2, height: 0.2 })).toBe(0);
  });
  it('passes over what lies beside the picture or behind whoever looks', () => {
    const grid = new CoverGrid(1);
    grid.faces([Number.NaN, 0, 1, 1, 0, 1, 2, 2, 3, 2, 3, 3], [0, 1, 2, 3, 4, 5]);
    grid.point(-1, 0.5);
    expect(grid.shareIn({ x: 0, y: 0, width: 1, height: 1 })).toBe(0);
  });
});

describe('values that change much over one face', () => {
  it('are told by the area they lie on', () => {
    const positions = [0, 0, 0, 1, 0, 0, 0, 1, 0, 3, 0, 0];
    // The second face is twice as large as the first, and spans half of the scale.
    const found = abruptAreas(positions, [0, 1, 2, 1, 3, 2], [0, 0.1, 0.1, 0.6], (v) => v);
    expect(found.abrupt / found.all).toBeCloseTo(2 / 3, 12);
  });
  it('count within the scale only, and not where there is no value', () => {
    const positions = [0, 0, 0, 1, 0, 0, 0, 1, 0];
    expect(abruptAreas(positions, [0, 1, 2], [5, 7, 9], (v) => v).abrupt).toBe(0);
    expect(abruptAreas(positions, [0, 1, 2], [Number.NaN, 0, 1], (v) => v)).toEqual({ all: 0, abrupt: 0 });
  });
});

describe('flashes', () => {
  /** Bright for as many pictures as dark. */
  const square = (each: number, low: number, high: number): number[] =>
    Array.from({ length: 60 }, (_, i) => (Math.floor(i / each) % 2 ? high : low));
  // WCAG 2.2, 2.3.1: no more than three in a second, of a tenth or more, the darker below 0.8.
  it('are pairs of opposing changes within one second', () => {
    expect(mostFlashes(square(5, 0.2, 0.5), 30)).toBeGreaterThan(2);
    expect(mostFlashes(square(15, 0.2, 0.5), 30)).toBeLessThanOrEqual(1);
    expect(mostFlashes(square(3, 0.2, 0.5), 30)).toBeGreaterThan(3);
  });
  it('are none that are small or bright throughout, however slowly light goes up or down', () => {
    expect(mostFlashes(square(3, 0.2, 0.29), 30)).toBe(0);
    expect(mostFlashes(square(3, 0.85, 1), 30)).toBe(0);
    expect(
      mostFlashes(
        Array.from({ length: 60 }, (_, i) => i / 60),
        30,
      ),
    ).toBe(0);
    expect(mostFlashes([], 30)).toBe(0);
  });
});

describe('boxes and letters', () => {
  it('share as much of the smaller box whichever comes first', () => {
    const box = fc.record({
      x: fc.double({ min: 0, max: 1, noNaN: true }),
      y: fc.double({ min: 0, max: 1, noNaN: true }),
      width: fc.double({ min: 0.01, max: 1, noNaN: true }),
      height: fc.double({ min: 0.01, max: 1, noNaN: true }),
    });
    fc.assert(
      fc.property(box, box, (a, b) => {
        expect(overlapOf(a, b)).toBeCloseTo(overlapOf(b, a), 12);
        expect(overlapOf(a, a)).toBeCloseTo(1, 12);
        expect(overlapOf(a, b)).toBeLessThanOrEqual(1 + 1e-12);
      }),
    );
  });
  it('take one minute of arc where they are 0.29 mm high in a metre', () => {
    // tan(1') = 0.000290888: any table of functions.
    const height = 0.000290888 / 0.72;
    expect(arcOf({ height }, 1, { width: 1, distance: 1 })).toBeCloseTo(1, 4);
  });
});
