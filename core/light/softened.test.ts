import { describe, expect, it } from 'vitest';
import type { Panorama } from './panorama.ts';
import { softened } from './softened.ts';

/** One bright pixel in the dark. */
function spot(column: number, width = 96, height = 64): Panorama {
  const pixels = new Float32Array(3 * width * height);
  pixels[3 * (32 * width + column)] = 1000;
  return { width, height, pixels };
}

/** How much light there is, and how far around its middle (variance along rows), of the red. */
function spread({ width, height, pixels }: Panorama) {
  let [all, first, second] = [0, 0, 0];
  for (let row = 0; row < height; row++)
    for (let column = 0; column < width; column++) {
      const v = pixels[3 * (row * width + column)];
      all += v;
      first += v * column;
      second += v * column * column;
    }
  return { all, middle: first / all, variance: second / all - (first / all) ** 2 };
}

describe('a softened picture', () => {
  it.each([2, 4, 7])('spreads a point by a standard deviation of %i pixels and keeps its light', (reach) => {
    const { all, middle, variance } = spread(softened(spot(48), reach, false));
    expect(all).toBeCloseTo(1000, 1);
    expect(middle).toBeCloseTo(48, 3);
    // Boxes have whole widths: the deviation is met within half a pixel.
    expect(Math.abs(Math.sqrt(variance) - reach)).toBeLessThan(0.5);
  });
  it('goes on around where it is a panorama, and ends at its sides where it is none', () => {
    const around = softened(spot(0), 4, true);
    expect(around.pixels[3 * (32 * 96 + 95)]).toBeCloseTo(around.pixels[3 * (32 * 96 + 1)], 3);
    const flat = softened(spot(0), 4, false);
    expect(flat.pixels[3 * (32 * 96 + 95)]).toBe(0);
  });
  it('that is hardly softened is as it was', () => {
    const given = spot(10);
    expect(softened(given, 0.1, true)).toBe(given);
  });
});
