import { describe, expect, it } from 'vitest';
import type { Panorama } from '#core/light/panorama.ts';
import { covering } from './behind.ts';
import { blurred, meanColours } from './enclosed-light.ts';

describe('the mean colours of a picture', () => {
  it('are those of its halves, as a screen shows them', () => {
    const pixels = Float32Array.from([1, 0, 0, 1, 0, 0, 0, 0, 40, 0, 0, 0.2140411]);
    const [top, foot] = meanColours({ width: 2, height: 2, pixels });
    expect(top).toBe('#ff0000');
    // The mean of 1, beyond which a screen shows nothing, and 0.214 of linear light (sRGB, IEC 61966-2-1).
    expect(foot).toBe('#0000cc');
  });
  it('of one row are that row', () => {
    expect(meanColours({ width: 1, height: 1, pixels: new Float32Array([1, 1, 1]) })).toEqual([
      '#ffffff',
      '#ffffff',
    ]);
  });
});

describe('a picture behind the model', () => {
  it('covers any shape from edge to edge, in its own proportions', () => {
    for (const [shape, aspect] of [
      [2, 1.5],
      [1, 1.5],
      [1.5, 1.5],
    ]) {
      const { x, y } = covering(shape, aspect);
      expect(Math.max(x, y)).toBe(1);
      // What is seen of it has the shape of the whole picture.
      expect((shape * x) / y).toBeCloseTo(aspect, 12);
    }
  });
  it('is blurred with no more pixels than its blur can show, and keeps its light', () => {
    const [width, height] = [800, 400];
    const pixels = Float32Array.from({ length: 3 * width * height }, (_, i) =>
      (i / 3) % width < 400 ? 1 : 3,
    );
    const given: Panorama = { width, height, pixels };
    expect(blurred(given, 0, true)).toBe(given);
    for (const blur of [0.3, 1]) {
      const made = blurred(given, blur, false);
      expect(made.width).toBeLessThan(width);
      expect(made.width / made.height).toBeCloseTo(2, 1);
      const mean = made.pixels.reduce((a, b) => a + b, 0) / made.pixels.length;
      expect(mean).toBeCloseTo(2, 1);
    }
  });
});
