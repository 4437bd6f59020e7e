import { boundsDiagonal, boundsOf, type Mesh } from '../../model/mesh.ts';
import { fansOf } from './triangles.ts';

/** Cubes from one end of a body to the other, at most: more of them would be empty. */
const ACROSS = 128;

/** Finds the face that is nearest to a place, within a reach. */
export class NearestFace {
  /** How far the face that was found last is. */
  distance = Infinity;
  private readonly points: Float32Array;
  private readonly cubes = new Map<number, number[]>();
  private readonly size: number;
  private readonly corners: Uint32Array;
  private readonly faces: Uint32Array;

  /** @param reach what is farther away is not found; in the unit of the points */
  constructor(
    mesh: Mesh,
    private readonly reach: number,
  ) {
    this.points = mesh.points;
    this.size = Math.max(2 * reach, boundsDiagonal(boundsOf(mesh.points)) / ACROSS) || 1;
    const { corners, cells } = fansOf(mesh).toArrays();
    this.corners = corners;
    this.faces = cells;
    for (let t = 0; t < cells.length; t++) this.enter(t);
  }

  /** The face nearest to a place, or -1 where none is within reach; of two that are as near the first. */
  find(x: number, y: number, z: number): number {
    this.distance = Infinity;
    let found = -1;
    const { size } = this;
    const near = this.cubes.get(keyOf(Math.floor(x / size), Math.floor(y / size), Math.floor(z / size)));
    if (!near) return found;
    for (const t of near) {
      const d = this.distanceTo(t, x, y, z);
      if (d > this.reach || d >= this.distance) continue;
      this.distance = d;
      found = this.faces[t];
    }
    return found;
  }

  /** A triangle is known in every cube from which it may be within reach. */
  private enter(t: number): void {
    const [from, to] = [-this.reach, this.reach].map((grown) =>
      [0, 1, 2].map((k) => {
        const ends = [0, 1, 2].map((corner) => this.points[3 * this.corners[3 * t + corner] + k]);
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
   * Written out by components, for this is asked for every triangle near to every grain.
   *
   * Method: the nearest point of a triangle by the regions of its corners, sides and inside (Ericson 2005, Real-Time
   * Collision Detection, 5.1.5; from memory).
   */
  private distanceTo(t: number, x: number, y: number, z: number): number {
    const { points, corners } = this;
    const [a, b, c] = [3 * corners[3 * t], 3 * corners[3 * t + 1], 3 * corners[3 * t + 2]];
    // From the place to a corner, and along the two sides from there.
    const ax = points[a] - x;
    const ay = points[a + 1] - y;
    const az = points[a + 2] - z;
    const ux = points[b] - points[a];
    const uy = points[b + 1] - points[a + 1];
    const uz = points[b + 2] - points[a + 2];
    const vx = points[c] - points[a];
    const vy = points[c + 1] - points[a + 1];
    const vz = points[c + 2] - points[a + 2];
    const uu = ux * ux + uy * uy + uz * uz;
    const uv = ux * vx + uy * vy + uz * vz;
    const vv = vx * vx + vy * vy + vz * vz;
    const d1 = -(ux * ax + uy * ay + uz * az);
    const d2 = -(vx * ax + vy * ay + vz * az);
    const d3 = d1 - uu;
    const d4 = d2 - uv;
    const d5 = d1 - uv;
    const d6 = d2 - vv;
    const vc = d1 * d4 - d3 * d2;
    const vb = d5 * d2 - d1 * d6;
    const va = d3 * d6 - d5 * d4;
    let u = 0;
    let v = 0;
    if (d1 <= 0 && d2 <= 0) {
      // The first corner.
    } else if (d3 >= 0 && d4 <= d3) u = 1;
    else if (d6 >= 0 && d5 <= d6) v = 1;
    else if (vc <= 0 && d1 >= 0 && d3 <= 0) u = d1 / (d1 - d3);
    else if (vb <= 0 && d2 >= 0 && d6 <= 0) v = d2 / (d2 - d6);
    else if (va <= 0 && d4 >= d3 && d5 >= d6) {
      v = (d4 - d3) / (d4 - d3 + (d5 - d6));
      u = 1 - v;
    } else {
      u = vb / (va + vb + vc);
      v = vc / (va + vb + vc);
    }
    const px = ax + u * ux + v * vx;
    const py = ay + u * uy + v * vy;
    const pz = az + u * uz + v * vz;
    return Math.sqrt(px * px + py * py + pz * pz);
  }
}

const keyOf = (i: number, j: number, k: number): number =>
  ((i & 0x1fffff) * 0x200000 + (j & 0x1fffff)) * 2048 + (k & 0x7ff);
