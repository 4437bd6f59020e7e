import type { PictureSize, Tile } from '../stage.ts';
import type { Words } from './words-over.ts';

/**
 * What is held of a tile, top row first: light as floats (red, green, blue linear and premultiplied, opacity), or, of large
 * pictures, as 16 bits a channel (see `packed`).
 */
export type HeldPixels = Float32Array | Uint16Array;

/**
 * A finished picture in tiles, and the words that lie above it. A writer turns it into the bytes of an image format, a few
 * rows at a time where it is large.
 */
export interface Picture extends PictureSize {
  tiles: { tile: Tile; pixels: HeldPixels }[];
  /** Null where none are wanted. */
  words: Words | null;
}
