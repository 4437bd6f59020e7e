import type { Bounds } from './mesh.ts';

/** A regular grid of values in place of cells. */
export interface ValueGrid {
  size: [number, number, number];
  bounds: Bounds;
  /** NaN outside of the mesh. */
  values: Float32Array;
  /** Opacity over the value, as fractions of the range of the colour scale. */
  curve: [at: number, opacity: number][];
  /** Whether it takes its light from the lights instead of glowing, and whether it throws a shadow. */
  lit: boolean;
  casts: boolean;
  /** How often values fall into 64 equal parts of their range. */
  histogram: Uint32Array;
  low: number;
  high: number;
}
