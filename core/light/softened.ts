import type { Panorama } from './panorama.ts';

/** Steps by which the blur of a normal distribution is put together (Kovesi 2010, "Fast almost-Gaussian filtering"). */
const BOXES = 3;

/**
 * A picture with its light spread out. Its pixels are like those of a panorama; what is around it goes on at its sides,
 * all others end there.
 *
 * @param reach standard deviation of the spread, in pixels
 */
export function softened(given: Panorama, reach: number, around: boolean): Panorama {
  // Boxes of a whole width w have the variance (w^2 - 1) / 12.
  const width = Math.sqrt((12 * reach * reach) / BOXES + 1);
  const half = Math.round((width - 1) / 2);
  if (half < 1) return given;
  let pixels = given.pixels;
  for (let n = 0; n < BOXES; n++) pixels = alongRows({ ...given, pixels }, half, around);
  for (let n = 0; n < BOXES; n++) pixels = alongColumns({ ...given, pixels }, half);
  return { ...given, pixels };
}

function alongRows({ width, height, pixels }: Panorama, half: number, around: boolean): Float32Array {
  const at = (x: number): number =>
    around ? ((x % width) + width) % width : Math.min(width - 1, Math.max(0, x));
  return boxed(pixels, height, width, half, (row, x) => 3 * (row * width + at(x)));
}

function alongColumns({ width, height, pixels }: Panorama, half: number): Float32Array {
  const at = (y: number): number => Math.min(height - 1, Math.max(0, y));
  return boxed(pixels, width, height, half, (column, y) => 3 * (at(y) * width + column));
}

/** Means over `2 half + 1` pixels along each of some lines, as running sums. */
function boxed(
  pixels: Float32Array,
  lines: number,
  length: number,
  half: number,
  at: (line: number, place: number) => number,
): Float32Array {
  const out = new Float32Array(pixels.length);
  const share = 1 / (2 * half + 1);
  for (let line = 0; line < lines; line++)
    for (let k = 0; k < 3; k++) {
      let sum = 0;
      for (let x = -half; x <= half; x++) sum += pixels[at(line, x) + k];
      for (let x = 0; x < length; x++) {
        out[at(line, x) + k] = sum * share;
        sum += pixels[at(line, x + half + 1) + k] - pixels[at(line, x - half) + k];
      }
    }
  return out;
}
