/** Longest side of a picture that can be asked for, in pixels: it is drawn tile by tile, and held row by row. */
export const LARGEST_SIDE = 16_384;
