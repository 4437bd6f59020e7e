import { BEHIND_WIDTH, type Behind } from '../words/ground.ts';
import { screenPixels } from './develop.ts';
import type { Picture } from './picture.ts';

/**
 * A small copy of a picture, its words left out: each of its pixels is the mean of those it stands for, clear where nothing is
 * there yet.
 */
export function behindOf(
  { width, height, tiles }: Pick<Picture, 'width' | 'height' | 'tiles'>,
  widest = BEHIND_WIDTH,
): Behind {
  const columns = Math.min(widest, width);
  const rows = Math.max(1, Math.round((columns * height) / width));
  const sums = new Float32Array(4 * columns * rows);
  const counts = new Uint32Array(columns * rows);
  for (const { tile, pixels } of tiles)
    for (let y = 0; y < tile.height; y++) {
      const row = Math.min(rows - 1, Math.floor(((tile.y + y) / height) * rows));
      for (let x = 0; x < tile.width; x++) {
        const column = Math.min(columns - 1, Math.floor(((tile.x + x) / width) * columns));
        const into = row * columns + column;
        const from = 4 * (y * tile.width + x);
        for (let k = 0; k < 4; k++) sums[4 * into + k] += pixels[from + k];
        counts[into]++;
      }
    }
  for (let i = 0; i < sums.length; i++) sums[i] /= counts[i >> 2] || 1;
  return { width: columns, height: rows, pixels: screenPixels(sums) };
}
