import { fromLinear, toLinear } from '#core/model/srgb.ts';
import type { HeldPixels, Picture } from './picture.ts';

/** Highest level of 16 bits. */
const DEEP = 65_535;

let fromDeep: Float32Array | null = null;

/** From 16 bits of sRGB (IEC 61966-2-1) to linear light. */
function lightOfLevels(): Float32Array {
  fromDeep ??= Float32Array.from({ length: DEEP + 1 }, (_, i) => toLinear(i / DEEP));
  return fromDeep;
}

/** Light (linear, premultiplied) in 16 bits a channel of sRGB, with straight opacity: half as large, and for files the same. */
export function packed(light: Float32Array, out = new Uint16Array(light.length)): Uint16Array<ArrayBuffer> {
  for (let i = 0; i < light.length; i += 4) {
    const opacity = Math.min(1, Math.max(0, light[i + 3]));
    for (let k = 0; opacity > 0 && k < 3; k++)
      out[i + k] = Math.round(DEEP * fromLinear(Math.min(1, Math.max(0, light[i + k] / opacity))));
    out[i + 3] = Math.round(DEEP * opacity);
  }
  return out as Uint16Array<ArrayBuffer>;
}

/** What was packed, as light again. */
function unpacked(deep: Uint16Array): Float32Array<ArrayBuffer> {
  const levels = lightOfLevels();
  const out = new Float32Array(deep.length);
  for (let i = 0; i < deep.length; i += 4) {
    const opacity = deep[i + 3] / DEEP;
    for (let k = 0; k < 3; k++) out[i + k] = levels[deep[i + k]] * opacity;
    out[i + 3] = opacity;
  }
  return out;
}

/** Rows of a picture as light with its words over it: linear, premultiplied. */
export function lightRows(picture: Picture, from: number, count: number): Float32Array<ArrayBuffer> {
  const out = new Float32Array(4 * picture.width * count);
  putRows(picture, from, count, (pixels, at) => {
    out.set(pixels instanceof Float32Array ? pixels : unpacked(pixels), at);
  });
  eachWords(picture, from, count, (data, at) => layOver(out.subarray(at, at + data.length), { data }));
  return out;
}

/** Rows of a picture with its words in 16 bits a channel of sRGB (IEC 61966-2-1), with straight opacity. */
export function deepRows(picture: Picture, from: number, count: number): Uint16Array<ArrayBuffer> {
  const out = new Uint16Array(4 * picture.width * count);
  putRows(picture, from, count, (pixels, at) => {
    if (pixels instanceof Float32Array) packed(pixels, out.subarray(at, at + pixels.length));
    else out.set(pixels, at);
  });
  eachWords(picture, from, count, (data, at) => layOverDeep(out.subarray(at, at + data.length), { data }));
  return out;
}

/** Goes through what tiles hold of some rows, row by row. */
function putRows(
  { width, tiles }: Picture,
  from: number,
  count: number,
  put: (pixels: HeldPixels, at: number) => void,
): void {
  for (const { tile, pixels } of tiles) {
    const last = Math.min(from + count, tile.y + tile.height);
    for (let row = Math.max(from, tile.y); row < last; row++) {
      const begin = 4 * (row - tile.y) * tile.width;
      put(pixels.subarray(begin, begin + 4 * tile.width), 4 * ((row - from) * width + tile.x));
    }
  }
}

/** Goes through the words that lie over some rows. */
function eachWords(
  { width, words }: Picture,
  from: number,
  count: number,
  each: (data: Uint8ClampedArray, at: number) => void,
): void {
  for (let row = from; words && row < from + count; ) {
    const { canvas, top } = words.at(row);
    const rows = Math.min(from + count, top + canvas.height) - row;
    const painter = canvas.getContext('2d', { willReadFrequently: true })!;
    each(painter.getImageData(0, row - top, width, rows).data, 4 * (row - from) * width);
    row += rows;
  }
}

/** Words as a canvas holds them: 8 bits of sRGB with straight opacity, top row first. */
interface Letters {
  data: Uint8ClampedArray;
}

/** Lays words over light, pixel by pixel, in the numbers of a screen (Porter and Duff's "over"). */
export function layOver(pixels: Float32Array, { data }: Letters): void {
  for (let i = 0; i < data.length; i += 4) {
    const own = data[i + 3] / 255;
    if (own === 0) continue;
    const under = pixels[i + 3] * (1 - own);
    const opacity = own + under;
    for (let k = 0; k < 3; k++) {
      const below = under > 0 ? fromLinear(pixels[i + k] / pixels[i + 3]) : 0;
      pixels[i + k] = toLinear(((data[i + k] / 255) * own + below * under) / opacity) * opacity;
    }
    pixels[i + 3] = opacity;
  }
}

/** The same over 16 bits of sRGB. */
export function layOverDeep(deep: Uint16Array, { data }: Letters): void {
  for (let i = 0; i < data.length; i += 4) {
    const own = data[i + 3] / 255;
    if (own === 0) continue;
    const under = (deep[i + 3] / DEEP) * (1 - own);
    const opacity = own + under;
    for (let k = 0; k < 3; k++)
      deep[i + k] = Math.round((257 * data[i + k] * own + deep[i + k] * under) / opacity);
    deep[i + 3] = Math.round(DEEP * opacity);
  }
}

/** Lets the page handle what came in meanwhile. */
export const nextTurn = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 0));
