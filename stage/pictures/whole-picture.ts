import { fromLinear, toLinear } from '#core/model/srgb.ts';
import type { Picture } from './picture.ts';
import { tooLarge } from './writer.ts';

/** Most pixels of which all numbers are held at once. */
const MOST_PIXELS = 100_000_000;
/** Rows worked on before the page may do something else. */
const ROWS_AT_ONCE = 64;

/** Words as a canvas holds them: 8 bits of sRGB with straight opacity, top row first. */
interface Words {
  data: Uint8ClampedArray;
}

/**
 * A picture in one piece, its words laid over it as a screen does that: linear light, premultiplied, top row first.
 *
 * @throws Error when it is too large
 */
export async function wholePicture(picture: Picture): Promise<Float32Array<ArrayBuffer>> {
  const { width, height, tiles, words } = picture;
  if (width * height > MOST_PIXELS) throw tooLarge(picture, 'to be held at once');
  const out = new Float32Array(4 * width * height);
  for (const { tile, pixels } of tiles)
    for (let row = 0; row < tile.height; row++)
      out.set(
        pixels.subarray(4 * row * tile.width, 4 * (row + 1) * tile.width),
        4 * ((tile.y + row) * width + tile.x),
      );
  const painter = words?.getContext('2d', { willReadFrequently: true });
  for (let row = 0; painter && row < height; row += ROWS_AT_ONCE) {
    const rows = Math.min(ROWS_AT_ONCE, height - row);
    layOver(
      out.subarray(4 * row * width, 4 * (row + rows) * width),
      painter.getImageData(0, row, width, rows),
    );
    await nextTurn();
  }
  return out;
}

/** Lays words over light, pixel by pixel, in the numbers of a screen (Porter and Duff's "over"). */
export function layOver(pixels: Float32Array, { data }: Words): void {
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

/** The same in 16 bits a channel of sRGB (IEC 61966-2-1), with straight opacity. */
export async function deepPixels(picture: Picture): Promise<Uint16Array<ArrayBuffer>> {
  const light = await wholePicture(picture);
  const out = new Uint16Array(light.length);
  const step = 4 * picture.width * ROWS_AT_ONCE;
  for (let from = 0; from < light.length; from += step) {
    for (let i = from; i < Math.min(light.length, from + step); i += 4) {
      const opacity = Math.min(1, Math.max(0, light[i + 3]));
      for (let k = 0; opacity > 0 && k < 3; k++)
        out[i + k] = Math.round(65_535 * fromLinear(Math.min(1, Math.max(0, light[i + k] / opacity))));
      out[i + 3] = Math.round(65_535 * opacity);
    }
    await nextTurn();
  }
  return out;
}

const nextTurn = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 0));
