import { type Bounds, joinBounds } from '../model/mesh.ts';
import type { ValueGrid } from '../model/value-grid.ts';
import type { Vector } from '../model/vectors.ts';

/** So many ways go into the diagonal of a cloud, each as opaque as its curve says. */
export const CLOUD_WAYS = 40;
/** Nothing is so opaque that nothing comes through. */
export const MOST_OPAQUE = 0.995;

/** A cloud that stands in the way of light. */
export interface ShadingCloud {
  grid: Pick<ValueGrid, 'size' | 'bounds' | 'values'>;
  /** How opaque a way of one fortieth of its diagonal is where it has such a value, 0..1. */
  opacityOf(value: number): number;
}

/** How much light clouds take away, on one grid for all of them. */
export interface DarkAir {
  /** Points along each axis. */
  size: Vector;
  bounds: Bounds;
  /** Rate of loss for each unit of the way (Beer and Lambert's law), at the points of the grid, x running fastest. */
  density: Float32Array;
}

/**
 * @param most points along the longest side
 * @returns null where nothing is in the way of light
 */
export function darkAir(clouds: readonly ShadingCloud[], most = 64): DarkAir | null {
  if (clouds.length === 0) return null;
  const bounds = clouds.map((c) => c.grid.bounds).reduce((a, b) => joinBounds(a, b));
  const sides = [0, 1, 2].map((k) => bounds[2 * k + 1] - bounds[2 * k]);
  const longest = Math.max(...sides);
  const size = sides.map((s) => Math.max(2, Math.ceil((most * s) / (longest || 1)))) as Vector;
  const density = new Float32Array(size[0] * size[1] * size[2]);
  for (const cloud of clouds) addCloud(cloud, { size, bounds, density });
  return density.some((d) => d > 0) ? { size, bounds, density } : null;
}

function addCloud({ grid, opacityOf }: ShadingCloud, { size, bounds, density }: DarkAir): void {
  const b = grid.bounds;
  const diagonal = Math.hypot(b[1] - b[0], b[3] - b[2], b[5] - b[4]) || 1;
  const rates = Float32Array.from(grid.values, (value) =>
    Number.isNaN(value)
      ? 0
      : (-Math.log(1 - Math.min(MOST_OPAQUE, opacityOf(value))) * CLOUD_WAYS) / diagonal,
  );
  const [nx, ny] = grid.size;
  const steps = [1, nx, nx * ny];
  // For each axis: where the points of the common grid lie on that of the cloud; none where they lie beside it.
  const along = [0, 1, 2].map((k) =>
    Array.from({ length: size[k] }, (_, i) => {
      const place = bounds[2 * k] + (i / (size[k] - 1)) * (bounds[2 * k + 1] - bounds[2 * k]);
      const at = ((place - b[2 * k]) / (b[2 * k + 1] - b[2 * k] || 1)) * (grid.size[k] - 1);
      if (at < -1e-6 || at > grid.size[k] - 1 + 1e-6) return null;
      const cell = Math.min(Math.max(0, Math.floor(at)), Math.max(0, grid.size[k] - 2));
      return { from: cell * steps[k], step: grid.size[k] > 1 ? steps[k] : 0, share: at - cell };
    }),
  );
  let out = -1;
  for (const z of along[2])
    for (const y of along[1])
      for (const x of along[0]) {
        out++;
        if (!x || !y || !z) continue;
        const first = x.from + y.from + z.from;
        for (let corner = 0; corner < 8; corner++) {
          let at = first;
          let share = 1;
          for (const [bit, axis] of [x, y, z].entries()) {
            const far = (corner >> bit) & 1;
            at += far * axis.step;
            share *= far ? axis.share : 1 - axis.share;
          }
          if (share > 0) density[out] += share * rates[at];
        }
      }
}
