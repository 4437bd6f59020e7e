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

const minus = (a: Vector, b: Vector): Vector => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
const dot = (a: Vector, b: Vector): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const plus = (a: Vector, b: Vector, factor: number): Vector => [
  a[0] + factor * b[0],
  a[1] + factor * b[1],
  a[2] + factor * b[2],
];

/**
 * The angle of each of the nodes of a line around the middle of the circle through three of them, in degrees from 0 to 360: by
 * the right hand around the axis of the circle, towards the coordinate it is nearest to, and from +x, or +y where that is x.
 */
export function anglesAround(nodes: readonly number[], points: ArrayLike<number>): number[] {
  const at = (node: number): Vector => [points[3 * node], points[3 * node + 1], points[3 * node + 2]];
  const [p, q, r] = [0, 1, 2].map((third) => at(nodes[Math.floor((third * nodes.length) / 3)]));
  const [a, b] = [minus(q, p), minus(r, p)];
  const normal = cross(a, b);
  const square = dot(normal, normal);
  // What is straight has no middle to go around.
  if (!(square > 0)) return nodes.map(() => Number.NaN);
  // The middle of the circle through three places, from the first of them.
  const [aa, bb, ab] = [dot(a, a), dot(b, b), dot(a, b)];
  const middle = plus(plus(p, a, (bb * (aa - ab)) / (2 * square)), b, (aa * (bb - ab)) / (2 * square));
  const main = normal.reduce((most, v, k) => (Math.abs(v) > Math.abs(normal[most]) ? k : most), 0);
  const length = Math.sqrt(square) * Math.sign(normal[main]);
  const axis = normal.map((v) => v / length) as Vector;
  const begin: Vector = main === 0 ? [0, 1, 0] : [1, 0, 0];
  const first = plus(begin, axis, -dot(begin, axis));
  const second = cross(axis, first);
  return nodes.map((node) => {
    const away = minus(at(node), middle);
    const degrees = (Math.atan2(dot(away, second), dot(away, first)) * 180) / Math.PI;
    return degrees < 0 ? degrees + 360 : degrees;
  });
}
