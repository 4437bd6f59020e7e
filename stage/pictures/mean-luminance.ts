import type { Picture } from './picture.ts';

/** Every so many pixels are looked at: a flash is no small thing. */
const EVERY = 7;

/** The mean relative luminance of a picture, 0..1; null for those that are held in 16 bits, which no film has. */
export function meanLuminance({ tiles }: Pick<Picture, 'tiles'>): number | null {
  let [sum, count] = [0, 0];
  for (const { pixels } of tiles) {
    if (!(pixels instanceof Float32Array)) return null;
    for (let i = 0; i + 2 < pixels.length; i += 4 * EVERY, count++)
      sum += Math.min(1, Math.max(0, 0.2126 * pixels[i] + 0.7152 * pixels[i + 1] + 0.0722 * pixels[i + 2]));
  }
  return count > 0 ? sum / count : null;
}
