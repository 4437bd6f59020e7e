import type { Vector } from '../../model/vectors.ts';
import type { Solid } from './solids.ts';

/** How far outside a body a place lies; below zero within. */
export type Distance = (x: number, y: number, z: number) => number;

/**
 * The surface of a body that is given by distances, by surface nets (Gibson, "Constrained elastic surface nets", 1998):
 * a point in each cell of a grid that the surface passes, then moved onto it along the gradient.
 *
 * @param low and high corners of a box the body lies within
 * @param cell edge of the cells of the grid
 */
export function softBody(distance: Distance, low: Vector, high: Vector, cell: number): Solid {
  const n = low.map((v, k) => Math.ceil((high[k] - v) / cell) + 3);
  const [nx, ny, nz] = n;
  const place = (i: number, k: number): number => low[k] + (i - 1) * cell;
  const values = new Float32Array(nx * ny * nz);
  for (let z = 0, at = 0; z < nz; z++)
    for (let y = 0; y < ny; y++)
      for (let x = 0; x < nx; x++) values[at++] = distance(place(x, 0), place(y, 1), place(z, 2));
  const steps = [1, nx, nx * ny];
  const pointOf = new Int32Array(values.length).fill(-1);
  const points: number[] = [];
  const triangles: number[] = [];
  for (let z = 0; z + 1 < nz; z++)
    for (let y = 0; y + 1 < ny; y++)
      for (let x = 0; x + 1 < nx; x++) {
        const at = x + nx * (y + ny * z);
        const found = crossing(values, at, steps);
        if (!found) continue;
        pointOf[at] = points.length / 3;
        const spot: Vector = [0, 1, 2].map((k) => place([x, y, z][k], k) + cell * found[k]) as Vector;
        points.push(...onSurface(distance, spot, 0.5 * cell));
      }
  // Around each edge of the grid that the surface cuts lie four cells.
  for (let z = 1; z + 1 < nz; z++)
    for (let y = 1; y + 1 < ny; y++)
      for (let x = 1; x + 1 < nx; x++) {
        const at = x + nx * (y + ny * z);
        for (let k = 0; k < 3; k++) {
          const inside = values[at] < 0;
          if (inside === values[at + steps[k]] < 0) continue;
          const [u, v] = [steps[(k + 1) % 3], steps[(k + 2) % 3]];
          const [a, b, c, d] = [at, at - u, at - u - v, at - v].map((i) => pointOf[i]);
          if (inside) triangles.push(a, b, c, a, c, d);
          else triangles.push(a, c, b, a, d, c);
        }
      }
  return { points, triangles };
}

/** Mean of the places where the surface cuts the edges of a cell, in its edges; null where it does not. */
function crossing(values: Float32Array, at: number, steps: readonly number[]): Vector | null {
  const sum: Vector = [0, 0, 0];
  let count = 0;
  for (let k = 0; k < 3; k++) {
    const [u, v] = [(k + 1) % 3, (k + 2) % 3];
    for (let corner = 0; corner < 4; corner++) {
      const from = at + (corner & 1 ? steps[u] : 0) + (corner & 2 ? steps[v] : 0);
      const [a, b] = [values[from], values[from + steps[k]]];
      if (a < 0 === b < 0) continue;
      sum[k] += a / (a - b);
      sum[u] += corner & 1 ? 1 : 0;
      sum[v] += corner & 2 ? 1 : 0;
      count++;
    }
  }
  return count === 0 ? null : [sum[0] / count, sum[1] / count, sum[2] / count];
}

/** A place near the surface, brought onto it by two steps along the gradient. */
function onSurface(distance: Distance, [x, y, z]: Vector, most: number): Vector {
  const h = 1e-3 * most;
  for (let i = 0; i < 2; i++) {
    const d = distance(x, y, z);
    const slope = [
      (distance(x + h, y, z) - d) / h,
      (distance(x, y + h, z) - d) / h,
      (distance(x, y, z + h) - d) / h,
    ];
    const steep = slope[0] ** 2 + slope[1] ** 2 + slope[2] ** 2;
    if (!(steep > 1e-6)) break;
    const way = Math.max(-most, Math.min(most, d / Math.sqrt(steep))) / Math.sqrt(steep);
    x -= way * slope[0];
    y -= way * slope[1];
    z -= way * slope[2];
  }
  return [x, y, z];
}

/** The lesser of two distances, with a fillet of a width where bodies meet (a polynomial of second degree). */
export function melted(a: number, b: number, width: number): number {
  const h = Math.max(width - Math.abs(a - b), 0) / width;
  return Math.min(a, b) - (h * h * width) / 4;
}

/** To a bone: a line between two places with a radius at each. */
export function bone(from: Vector, to: Vector, r0: number, r1: number): Distance {
  const [ax, ay, az] = from;
  const [dx, dy, dz] = [to[0] - ax, to[1] - ay, to[2] - az];
  const square = dx * dx + dy * dy + dz * dz;
  return (x, y, z) => {
    const along = ((x - ax) * dx + (y - ay) * dy + (z - az) * dz) / square;
    const t = Math.min(1, Math.max(0, along));
    return Math.hypot(x - ax - t * dx, y - ay - t * dy, z - az - t * dz) - (r0 + t * (r1 - r0));
  };
}

/** About to an egg shape with three radii. */
export function egg(at: Vector, radii: Vector): Distance {
  const [a, b, c] = radii;
  return (x, y, z) => {
    const [px, py, pz] = [x - at[0], y - at[1], z - at[2]];
    const k = Math.hypot(px / a, py / b, pz / c);
    const slope = Math.hypot(px / (a * a), py / (b * b), pz / (c * c));
    return slope < 1e-9 ? -Math.min(a, b, c) : (k * (k - 1)) / slope;
  };
}
