import { add, cross, dot, subtract, times, unit, type Vector } from '../../model/vectors.ts';

/** Two directions that are square to one and to each other. */
export function across(n: Vector): [Vector, Vector] {
  const help: Vector = Math.abs(n[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0];
  const u = unit(cross(help, n));
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

/**
 * The angle of each of the nodes of a line around the middle of the circle through three of them, in degrees from 0 to 360: by
 * the right hand around the axis of the circle, towards the coordinate it is nearest to, and from +x, or +y where that is x.
 */
export function anglesAround(nodes: readonly number[], points: ArrayLike<number>): number[] {
  const at = (node: number): Vector => [points[3 * node], points[3 * node + 1], points[3 * node + 2]];
  const [p, q, r] = [0, 1, 2].map((third) => at(nodes[Math.floor((third * nodes.length) / 3)]));
  const [a, b] = [subtract(q, p), subtract(r, p)];
  const normal = cross(a, b);
  const square = dot(normal, normal);
  // What is straight has no middle to go around.
  if (!(square > 0)) return nodes.map(() => Number.NaN);
  // The middle of the circle through three places, from the first of them.
  const [aa, bb, ab] = [dot(a, a), dot(b, b), dot(a, b)];
  const [sa, sb] = [(bb * (aa - ab)) / (2 * square), (aa * (bb - ab)) / (2 * square)];
  const middle = add(p, add(times(a, sa), times(b, sb)));
  const main = normal.reduce((most, v, k) => (Math.abs(v) > Math.abs(normal[most]) ? k : most), 0);
  const length = Math.sqrt(square) * Math.sign(normal[main]);
  const axis = normal.map((v) => v / length) as Vector;
  const begin: Vector = main === 0 ? [0, 1, 0] : [1, 0, 0];
  const first = subtract(begin, times(axis, dot(begin, axis)));
  const second = cross(axis, first);
  return nodes.map((node) => {
    const away = subtract(at(node), middle);
    const degrees = (Math.atan2(dot(away, second), dot(away, first)) * 180) / Math.PI;
    return degrees < 0 ? degrees + 360 : degrees;
  });
}
