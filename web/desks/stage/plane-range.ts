import type { Bounds } from '#core/model/mesh.ts';

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
