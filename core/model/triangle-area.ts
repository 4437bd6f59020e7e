/**
 * Area of a triangle: half the length of the cross product of two of its sides.
 *
 * @param p three numbers a point
 * @param u, v, w its corners, by their numbers
 */
export function triangleArea(p: ArrayLike<number>, u: number, v: number, w: number): number {
  const ax = p[3 * v] - p[3 * u];
  const ay = p[3 * v + 1] - p[3 * u + 1];
  const az = p[3 * v + 2] - p[3 * u + 2];
  const bx = p[3 * w] - p[3 * u];
  const by = p[3 * w + 1] - p[3 * u + 1];
  const bz = p[3 * w + 2] - p[3 * u + 2];
  return Math.hypot(ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx) / 2;
}
