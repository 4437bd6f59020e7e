import { converter } from 'culori';
import { describe, expect, it } from 'vitest';
import { screenPixels } from './develop.ts';
import { tilesOf } from './render-picture.ts';

describe('developing', () => {
  it('agrees with a colour library (culori) to a level of 255, whatever the opacity', () => {
    const toRgb = converter('rgb');
    const light: number[] = [];
    const wanted: number[] = [];
    for (const alpha of [1, 0.5, 0.1])
      for (let i = 0; i <= 50; i++) {
        const [r, g, b] = [i / 50, (i / 50) ** 2, 1 - i / 50];
        light.push(r * alpha, g * alpha, b * alpha, alpha);
        const c = toRgb({ mode: 'lrgb', r, g, b });
        wanted.push(255 * c.r, 255 * c.g, 255 * c.b, 255 * alpha);
      }
    const out = screenPixels(Float32Array.from(light));
    for (const [i, v] of wanted.entries()) expect(Math.abs(out[i] - v), `at ${i}`).toBeLessThan(0.75);
  });

  it('keeps within a screen what is brighter or darker than it can show, and clear what is clear', () => {
    expect([...screenPixels(Float32Array.from([3, -1, 0.5, 1, 0, 0, 0, 0]))]).toEqual([
      255, 0, 188, 255, 0, 0, 0, 0,
    ]);
  });
});

describe('tiles', () => {
  it.each([
    [100, 60],
    [2048, 2048],
    [2049, 10],
    [7680, 4320],
  ])('cover a picture of %i x %i once', (width, height) => {
    const tiles = tilesOf({ width, height });
    expect(tiles.reduce((sum, t) => sum + t.width * t.height, 0)).toBe(width * height);
    for (const t of tiles) {
      expect(t.width > 0 && t.width <= 2048 && t.x + t.width <= width).toBe(true);
      expect(t.height > 0 && t.height <= 2048 && t.y + t.height <= height).toBe(true);
    }
    const corners = new Set(tiles.map((t) => `${t.x},${t.y}`));
    expect(corners.size).toBe(tiles.length);
  });
});
