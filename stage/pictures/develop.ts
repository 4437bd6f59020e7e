import { fromLinear } from '#core/model/srgb.ts';
import type { Picture } from './picture.ts';
import { nextTurn } from './picture-rows.ts';

/** Levels the table tells apart: finer than a screen's 255 by far. */
const LEVELS = 65_535;
/** Pixels developed before the page may do something else. */
const AT_ONCE = 400_000;

let table: Uint8ClampedArray | null = null;

/** From linear light to the 8 bits of a screen (IEC 61966-2-1). */
function screenLevels(): Uint8ClampedArray {
  table ??= Uint8ClampedArray.from({ length: LEVELS + 1 }, (_, i) => 255 * fromLinear(i / LEVELS));
  return table;
}

/**
 * Light as the 8 bits of a screen or an image file, with straight alpha.
 *
 * @param pixels linear, premultiplied: red, green, blue, opacity of each pixel
 */
export function screenPixels(
  pixels: Float32Array,
  from = 0,
  to = pixels.length / 4,
  out = new Uint8ClampedArray(pixels.length),
): Uint8ClampedArray<ArrayBuffer> {
  const levels = screenLevels();
  for (let i = 4 * from; i < 4 * to; i += 4) {
    const alpha = Math.min(1, Math.max(0, pixels[i + 3]));
    const scale = alpha > 0 ? LEVELS / alpha : 0;
    for (let k = 0; k < 3; k++)
      out[i + k] = levels[Math.min(LEVELS, Math.max(0, Math.round(pixels[i + k] * scale)))];
    out[i + 3] = 255 * alpha;
  }
  return out as Uint8ClampedArray<ArrayBuffer>;
}

/** A picture with its words as a screen would show it. */
export async function developed(picture: Picture): Promise<HTMLCanvasElement> {
  const { width, height, tiles, words } = picture;
  const canvas = document.createElement('canvas');
  canvas.width = width;
  canvas.height = height;
  // Only ever read: where a card holds it, reading waits for all that the card has to do.
  const painter = canvas.getContext('2d', { willReadFrequently: true })!;
  for (const { tile, pixels } of tiles) {
    const out = new Uint8ClampedArray(pixels.length);
    const all = tile.width * tile.height;
    for (let from = 0; from < all; from += AT_ONCE) {
      const to = Math.min(all, from + AT_ONCE);
      if (pixels instanceof Float32Array) screenPixels(pixels, from, to, out);
      else for (let i = 4 * from; i < 4 * to; i++) out[i] = pixels[i] / 257;
      await nextTurn();
    }
    painter.putImageData(new ImageData(out, tile.width, tile.height), tile.x, tile.y);
  }
  for (let row = 0; words && row < height; ) {
    const { canvas: some, top } = words.at(row);
    painter.drawImage(some, 0, top);
    row = top + some.height;
    await nextTurn();
  }
  return canvas;
}
