import { boundedNumber } from '../../model/bounded-number.ts';
import { type Bounds, boundsCentre } from '../../model/mesh.ts';
import { z } from '../../model/schema.ts';

export type Vector = [number, number, number];

export const vectorSchema = z.tuple([boundedNumber(), boundedNumber(), boundedNumber()]);

export const normalSchema = vectorSchema.refine((n) => Math.hypot(...n) > 1e-12, {
  message: 'The direction has no length.',
});

export const unitVector = (v: readonly number[]): Vector => {
  const length = Math.hypot(...v) || 1;
  return v.map((x) => x / length) as Vector;
};

export const dotOf = (a: readonly number[], b: readonly number[]): number =>
  a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

export const boundsSizes = (b: Bounds): Vector => [b[1] - b[0], b[3] - b[2], b[5] - b[4]];

/** A plane through the middle, across the shortest side of a body or the longest side of a flat run. */
export function middlePlane(bounds: Bounds, dimension: number): { normal: Vector; offset: number } {
  const size = boundsSizes(bounds);
  const axis = dimension === 2 ? (size[0] >= size[1] ? 0 : 1) : size.indexOf(Math.min(...size));
  const normal: Vector = [0, 0, 0];
  normal[axis] = 1;
  return { normal, offset: boundsCentre(bounds)[axis] };
}

/** Smallest and largest offset of a plane with this normal that still meets a box. */
export function planeRange(b: Bounds, normal: readonly number[]): [number, number] {
  let low = 0;
  let high = 0;
  for (let k = 0; k < 3; k++) {
    const ends = [normal[k] * b[2 * k], normal[k] * b[2 * k + 1]];
    low += Math.min(...ends);
    high += Math.max(...ends);
  }
  return [low, high];
}

/** The plane of three points; null when they lie on a line. */
export function planeOfPoints(a: Vector, b: Vector, c: Vector): { normal: Vector; offset: number } | null {
  const u = b.map((v, k) => v - a[k]);
  const w = c.map((v, k) => v - a[k]);
  const n = [u[1] * w[2] - u[2] * w[1], u[2] * w[0] - u[0] * w[2], u[0] * w[1] - u[1] * w[0]];
  if (Math.hypot(...n) < 1e-9 * Math.hypot(...u) * Math.hypot(...w)) return null;
  // Turned so that its largest entry is positive: the same plane whichever way round the points were picked.
  const largest = n.reduce((best, v, k) => (Math.abs(v) > Math.abs(n[best]) ? k : best), 0);
  const normal = unitVector(n.map((v) => v * Math.sign(n[largest])));
  return { normal, offset: dotOf(normal, a) };
}

/** The axis a normal points along, or -1 when the plane is free. */
export function axisOf(normal: readonly number[]): number {
  return normal.findIndex((v, k) => v > 0 && normal.every((w, j) => j === k || w === 0));
}
