import { PNG } from 'pngjs';
import sharp from 'sharp';
import { describe, expect, it } from 'vitest';
import type { Picture } from './picture.ts';
import { deepRows, layOverDeep, lightRows, packed } from './picture-rows.ts';
import { png16 } from './png16.ts';
import { tiff } from './tiff.ts';
import type { Words } from './words-over.ts';

const WIDTH = 90;
const HEIGHT = 70;

/** Light of a pixel: colours that change along both ways, less and less opaque to the right. */
function lightAt(x: number, y: number, width = WIDTH, height = HEIGHT): number[] {
  const alpha = 1 - (0.5 * x) / width;
  return [(x / width) * alpha, (y / height) ** 2 * alpha, 0.3 * alpha, alpha];
}

/** In tiles of 32 pixels. */
function inTiles(isPacked: boolean, words: Words | null = null): Picture {
  const tiles: Picture['tiles'] = [];
  for (let y = 0; y < HEIGHT; y += 32)
    for (let x = 0; x < WIDTH; x += 32) {
      const tile = { x, y, width: Math.min(32, WIDTH - x), height: Math.min(32, HEIGHT - y) };
      const pixels = Float32Array.from({ length: 4 * tile.width * tile.height }, (_, i) => {
        const p = i >> 2;
        return lightAt(x + (p % tile.width), y + Math.floor(p / tile.width))[i % 4];
      });
      tiles.push({ tile, pixels: isPacked ? packed(pixels) : pixels });
    }
  return { width: WIDTH, height: HEIGHT, tiles, words };
}

/** White letters on every third pixel, half opaque, painted in bands of so many rows. */
function letters(band: number): Words & { painted: number[] } {
  const painted: number[] = [];
  return {
    painted,
    at(row) {
      const top = row - (row % band);
      painted.push(top);
      const getImageData = (_x: number, _y: number, width: number, rows: number) => ({
        data: Uint8ClampedArray.from({ length: 4 * width * rows }, (_, i) =>
          (i >> 2) % 3 > 0 ? 0 : i % 4 === 3 ? 128 : 255,
        ),
      });
      const canvas = { height: Math.min(band, HEIGHT - top), getContext: () => ({ getImageData }) };
      return { canvas: canvas as unknown as HTMLCanvasElement, top };
    },
  };
}

describe('rows of a picture in tiles', () => {
  it('are its light from wherever they begin, and in 16 bits the same as it was held', () => {
    const [exact, held] = [inTiles(false), inTiles(true)];
    for (const [from, count] of [
      [0, HEIGHT],
      [31, 3],
      [64, 6],
    ]) {
      const light = lightRows(exact, from, count);
      for (let i = 0; i < light.length; i += 4) {
        const [x, y] = [(i >> 2) % WIDTH, from + Math.floor((i >> 2) / WIDTH)];
        for (const [k, wanted] of lightAt(x, y).entries()) expect(light[i + k]).toBeCloseTo(wanted, 6);
      }
      expect(deepRows(held, from, count)).toEqual(deepRows(exact, from, count));
      // A level of 65,535 is no more than that of light (the steepest of sRGB is where it is brightest).
      const again = lightRows(held, from, count);
      for (const [i, v] of again.entries()) expect(Math.abs(v - light[i])).toBeLessThan(2.5 / 65_535);
    }
  });

  it('have their words over them, whichever bands these come in', () => {
    const bare = deepRows(inTiles(true), 0, HEIGHT);
    const words = letters(16);
    const written = deepRows(inTiles(true, words), 10, 40);
    // Only those bands that lie over the rows.
    expect(words.painted).toEqual([0, 16, 32, 48]);
    const all = deepRows(inTiles(true, letters(HEIGHT)), 10, 40);
    expect(written).toEqual(all);
    for (let i = 0; i < written.length; i += 4) {
      const below = bare.subarray(4 * 10 * WIDTH + i, 4 * 10 * WIDTH + i + 4);
      if ((i >> 2) % 3 === 0) expect(written[i + 3]).toBeGreaterThanOrEqual(below[3]);
      else expect(written.subarray(i, i + 4)).toEqual(below);
    }
    // On opaque black half of white is half of the levels of a screen.
    const deep = Uint16Array.from([0, 0, 0, 65_535]);
    layOverDeep(deep, { data: Uint8ClampedArray.from([255, 255, 255, 128]) });
    expect([...deep]).toEqual([32_896, 32_896, 32_896, 65_535]);
  });
});

describe('a picture of 16,384 pixels', () => {
  const [width, height] = [16_384, 40];
  const wide: Picture = {
    width,
    height,
    words: null,
    tiles: Array.from({ length: 16 }, (_, n) => {
      const tile = { x: 1024 * n, y: 0, width: 1024, height };
      const light = new Float32Array(4 * 1024 * height);
      for (let p = 0; p < 1024 * height; p++)
        light.set(lightAt(tile.x + (p % 1024), Math.floor(p / 1024), width, height), 4 * p);
      return { tile, pixels: packed(light) };
    }),
  };
  const wanted = deepRows(wide, 0, height);
  const bytesOf = async (blob: Blob): Promise<Buffer> => Buffer.from(await blob.arrayBuffer());

  it('is written as PNG, which another reader (pngjs) reads to the last bit', async () => {
    const read = PNG.sync.read(await bytesOf(await png16.write(wide)), { skipRescale: true });
    expect([read.width, read.height]).toEqual([width, height]);
    const data = read.data as unknown as Uint16Array;
    let differing = 0;
    for (const [i, v] of wanted.entries()) if (data[i] !== v) differing++;
    expect(differing).toBe(0);
  });

  it('is written as TIFF, which another reader (libtiff) reads to the last bit', async () => {
    const bytes = await bytesOf(await tiff.write(wide));
    const { data, info } = await sharp(bytes)
      .toColourspace('rgb16')
      .raw({ depth: 'ushort' })
      .toBuffer({ resolveWithObject: true });
    expect([info.width, info.height]).toEqual([width, height]);
    const read = new Uint16Array(data.buffer, data.byteOffset, data.length / 2);
    let worst = 0;
    for (const [i, v] of wanted.entries()) worst = Math.max(worst, Math.abs(read[i] - v));
    expect(worst).toBe(0);
  });
});
