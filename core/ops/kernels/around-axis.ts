import { unitVector, type Vector } from './planes.ts';

const cross = (a: readonly number[], b: readonly number[]): Vector => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];

/** Two directions that are square to one and to each other. */
export function across(n: Vector): [Vector, Vector] {
  const help: Vector = Math.abs(n[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0];
  const u = unitVector(cross(help, n));
  return [u, cross(n, u)];
}

/** So many places evenly around a circle, by the right hand about its normal. */
export function onCircle(centre: Vector, normal: Vector, radius: number, count: number): Vector[] {
  const [u, v] = across(normal);
  return Array.from({ length: count }, (_, i) => {
    const angle = (2 * Math.PI * i) / count;
    const [c, s] = [radius * Math.cos(angle), radius * Math.sin(angle)];
    return centre.map((x, k) => x + c * u[k] + s * v[k]) as Vector;
  });
}
