import { cellTypes } from '../../model/cell-types.ts';
import { boundsDiagonal, boundsOf, type Mesh } from '../../model/mesh.ts';

/** Cubes from one end of a body to the other, at most: more of them would be empty. */
const ACROSS = 128;

/** Finds the face that is nearest to a place, within a reach. */
export class NearestFace {
  /** How far the face that was found last is. */
  distance = Infinity;
  private readonly cubes = new Map<number, number[]>();
  private readonly size: number;
  /** The polygons as fans: three points each, and the face. */
  private readonly triangles: number[] = [];
  private readonly faces: number[] = [];

  /** @param reach what is farther away is not found; in the unit of the points */
  constructor(
    private readonly mesh: Mesh,
    private readonly reach: number,
  ) {
    const { types, offsets, connectivity, points } = mesh;
    this.size = Math.max(2 * reach, boundsDiagonal(boundsOf(points)) / ACROSS) || 1;
    for (let c = 0; c < types.length; c++) {
      if (cellTypes.get(types[c])!.dimension !== 2) continue;
      for (let i = offsets[c] + 1; i + 1 < offsets[c + 1]; i++)
        this.add([connectivity[offsets[c]], connectivity[i], connectivity[i + 1]], c);
    }
  }

  /** The face nearest to a place, or -1 where none is within reach; of two that are as near the first. */
  find(x: number, y: number, z: number): number {
    this.distance = Infinity;
    let found = -1;
    const [i, j, k] = [x, y, z].map((v) => Math.floor(v / this.size));
    for (const t of this.cubes.get(keyOf(i, j, k)) ?? []) {
      const d = this.distanceTo(t, x, y, z);
      if (d > this.reach || d >= this.distance) continue;
      this.distance = d;
      found = this.faces[t];
    }
    return found;
  }

  /** A triangle is known in every cube from which it may be within reach. */
  private add(corners: [number, number, number], face: number): void {
    const { points } = this.mesh;
    const t = this.faces.length;
    this.triangles.push(...corners);
    this.faces.push(face);
    const [from, to] = [-this.reach, this.reach].map((grown) =>
      [0, 1, 2].map((k) => {
        const ends = corners.map((p) => points[3 * p + k]);
        return Math.floor(((grown < 0 ? Math.min(...ends) : Math.max(...ends)) + grown) / this.size);
      }),
    );
    for (let i = from[0]; i <= to[0]; i++)
      for (let j = from[1]; j <= to[1]; j++)
        for (let k = from[2]; k <= to[2]; k++) {
          const key = keyOf(i, j, k);
          const list = this.cubes.get(key);
          if (list) list.push(t);
          else this.cubes.set(key, [t]);
        }
  }

  /**
   * Method: the nearest point of a triangle by the regions of its corners, sides and inside (Ericson 2005, Real-Time
   * Collision Detection, 5.1.5; from memory).
   */
  private distanceTo(t: number, x: number, y: number, z: number): number {
    const { points } = this.mesh;
    const [a, b, c] = [0, 1, 2].map((k) => {
      const p = 3 * this.triangles[3 * t + k];
      return [points[p] - x, points[p + 1] - y, points[p + 2] - z];
    });
    const ab = minus(b, a);
    const ac = minus(c, a);
    const [d1, d2] = [-dot(ab, a), -dot(ac, a)];
    if (d1 <= 0 && d2 <= 0) return Math.sqrt(dot(a, a));
    const [d3, d4] = [-dot(ab, b), -dot(ac, b)];
    if (d3 >= 0 && d4 <= d3) return Math.sqrt(dot(b, b));
    const [d5, d6] = [-dot(ab, c), -dot(ac, c)];
    if (d6 >= 0 && d5 <= d6) return Math.sqrt(dot(c, c));
    const at = (u: number, v: number): number => {
      const p = a.map((w, k) => w + u * ab[k] + v * ac[k]);
      return Math.sqrt(dot(p, p));
    };
    const vc = d1 * d4 - d3 * d2;
    if (vc <= 0 && d1 >= 0 && d3 <= 0) return at(d1 / (d1 - d3), 0);
    const vb = d5 * d2 - d1 * d6;
    if (vb <= 0 && d2 >= 0 && d6 <= 0) return at(0, d2 / (d2 - d6));
    const va = d3 * d6 - d5 * d4;
    if (va <= 0 && d4 >= d3 && d5 >= d6) {
      const w = (d4 - d3) / (d4 - d3 + (d5 - d6));
      return at(1 - w, w);
    }
    const all = va + vb + vc;
    return at(vb / all, vc / all);
  }
}

const keyOf = (i: number, j: number, k: number): number =>
  ((i & 0x1fffff) * 0x200000 + (j & 0x1fffff)) * 2048 + (k & 0x7ff);
const minus = (a: number[], b: number[]): number[] => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
const dot = (a: number[], b: number[]): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
