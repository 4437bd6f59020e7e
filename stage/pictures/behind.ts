import type { PictureSize, Tile } from '../stage.ts';
import { BEHIND_WIDTH, type Behind } from '../words/ground.ts';
import { screenPixels } from './develop.ts';

/**
 * A small copy of a picture, its words left out, which grows tile by tile: each of its pixels is the mean of those it stands
 * for, clear where nothing is there yet.
 */
export class SmallCopy {
  private readonly columns: number;
  private readonly rows: number;
  private sums: Float32Array;
  private counts: Uint32Array;

  constructor(
    private readonly size: PictureSize,
    private readonly widest = BEHIND_WIDTH,
  ) {
    this.columns = Math.min(widest, size.width);
    this.rows = Math.max(1, Math.round((this.columns * size.height) / size.width));
    this.sums = new Float32Array(4 * this.columns * this.rows);
    this.counts = new Uint32Array(this.columns * this.rows);
  }

  /** @param pixels linear, premultiplied */
  add(tile: Tile, pixels: Float32Array): void {
    const { size, columns, rows, sums, counts } = this;
    for (let y = 0; y < tile.height; y++) {
      const row = Math.min(rows - 1, Math.floor(((tile.y + y) / size.height) * rows));
      for (let x = 0; x < tile.width; x++) {
        const column = Math.min(columns - 1, Math.floor(((tile.x + x) / size.width) * columns));
        const into = row * columns + column;
        const from = 4 * (y * tile.width + x);
        for (let k = 0; k < 4; k++) sums[4 * into + k] += pixels[from + k];
        counts[into]++;
      }
    }
  }

  /** The same with one more tile, which is not yet finished. */
  and(tile: Tile, pixels: Float32Array): SmallCopy {
    const copy = new SmallCopy(this.size, this.widest);
    copy.sums = this.sums.slice();
    copy.counts = this.counts.slice();
    copy.add(tile, pixels);
    return copy;
  }

  get shown(): Behind {
    const means = this.sums.map((sum, i) => sum / (this.counts[i >> 2] || 1));
    return { width: this.columns, height: this.rows, pixels: screenPixels(means) };
  }
}
