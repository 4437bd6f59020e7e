import type { PictureSize, Tile } from '../stage.ts';

/**
 * A finished picture as light: for each pixel red, green, blue (linear, premultiplied) and opacity as floats, top row
 * first, in tiles; and the words that lie above it. A writer turns it into the bytes of an image format.
 */
export interface Picture extends PictureSize {
  tiles: { tile: Tile; pixels: Float32Array }[];
  /** Null where none are wanted. */
  words: HTMLCanvasElement | null;
}
