import { boundsOf, boundsSize } from '../../model/mesh.ts';

/** Faces or edges by the numbers of their corners. */
export interface Loops {
  points: Float32Array;
  loops: readonly (readonly number[])[];
}

/** Corners that are nearer than this share of the size of all are one. */
const SAME = 1e-5;

/** Which faces or edges have all their corners where one of the others has its corners: 1, else 0. */
export function sharedLoops({ points, loops }: Loops, others: readonly Loops[]): Uint8Array {
  const out = new Uint8Array(loops.length);
  if (loops.length === 0 || others.length === 0) return out;
  const places = new Places(points, SAME * Math.hypot(...boundsSize(boundsOf(points))));
  const nameOf = (corners: readonly number[]): string => [...corners].sort((a, b) => a - b).join();
  const there = new Set<string>();
  for (const other of others) {
    const same = new Map<number, number>();
    const placeOf = (p: number): number => {
      let found = same.get(p);
      if (found === undefined) same.set(p, (found = places.at(other.points, p)));
      return found;
    };
    for (const loop of other.loops) {
      const corners = loop.map(placeOf);
      if (!corners.includes(NONE)) there.add(nameOf(corners));
    }
  }
  if (there.size === 0) return out;
  for (const [i, loop] of loops.entries())
    out[i] = Number(there.has(nameOf(loop.map((p) => places.at(points, p)))));
  return out;
}

const NONE = -1;

/** Finds which of some points lies at a place, in a grid of boxes wider than what counts as the same. */
class Places {
  private readonly boxes = new Map<string, number[]>();
  private readonly width: number;

  constructor(
    private readonly points: Float32Array,
    private readonly near: number,
  ) {
    this.width = 4 * near || 1;
    for (let p = 0; p < points.length / 3; p++) {
      const box = [0, 1, 2].map((k) => Math.floor(points[3 * p + k] / this.width)).join();
      const list = this.boxes.get(box);
      if (list) list.push(p);
      else this.boxes.set(box, [p]);
    }
  }

  /** The first of the points that lies where a point of others does, or `NONE`. */
  at(others: Float32Array, p: number): number {
    const place = others.subarray(3 * p, 3 * p + 3);
    const [xs, ys, zs] = [...place].map((v) => {
      const [low, high] = [v - this.near, v + this.near].map((at) => Math.floor(at / this.width));
      return low === high ? [low] : [low, high];
    });
    let first = NONE;
    for (const x of xs)
      for (const y of ys)
        for (const z of zs)
          for (const candidate of this.boxes.get(`${x},${y},${z}`) ?? []) {
            if (first !== NONE && candidate >= first) continue;
            const from = this.points.subarray(3 * candidate, 3 * candidate + 3);
            if (Math.hypot(...from.map((v, k) => v - place[k])) <= this.near) first = candidate;
          }
    return first;
  }
}
