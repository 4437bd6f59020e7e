import { GrowingFloat32, GrowingUint32 } from '../../model/arrays.ts';
import { type CellType, VOXEL } from '../../model/cell-types.ts';
import { type Gather, weighted } from '../../model/recipe.ts';

/** Corners of a hexahedron in its own coordinates, in the node order of the file format. */
const HEXAHEDRON = [
  [0, 0, 0],
  [1, 0, 0],
  [1, 1, 0],
  [0, 1, 0],
  [0, 0, 1],
  [1, 0, 1],
  [1, 1, 1],
  [0, 1, 1],
];
const VOXEL_CORNERS = Array.from({ length: 8 }, (_, i) => [i & 1, (i >> 1) & 1, i >> 2]);

/** How far a piece may lie beside the trilinear surface, as a share of the cell, before it is bent. */
const FLAT = 0.01;

/**
 * Vertices within hexahedra, on the surface where the trilinear function of the eight corners is zero: the pieces of a
 * level set in a cell are bent over them. What the pieces share with other cells, their edges, stays as it is.
 */
export class TrilinearMiddles {
  private readonly places = new GrowingFloat32();
  private readonly nodes = new GrowingUint32();
  private readonly weights = new GrowingFloat32();
  private readonly ref = new Float64Array(3 * 12);
  private readonly low = new Float64Array(3);
  private readonly high = new Float64Array(3);
  private readonly at = new Float64Array(3);
  private readonly between = new Float64Array(3);
  private readonly slope = new Float64Array(3);
  /** Values at the corners in the order of their coordinates: x fastest. */
  private readonly f = new Float64Array(8);

  constructor(private readonly points: Float32Array) {}

  get count(): number {
    return this.places.length / 3;
  }

  /** Whether cells of a type are bent. */
  static bends = (type: CellType): boolean => type.dimension === 3 && type.corners === 8;

  /**
   * A vertex in the middle of a piece, or -1 where it is flat enough without.
   *
   * @param from where the nodes of the cell begin in `connectivity`
   * @param heights of the eight corners
   * @param edges pairs of corners whose edges the piece crosses, `n` of them, in walking order
   */
  of(
    type: CellType,
    connectivity: Uint32Array,
    from: number,
    heights: Float64Array,
    edges: Uint8Array,
    n: number,
  ): number {
    const { ref, low, high, at, between, f, slope } = this;
    const corners = type.id === VOXEL ? VOXEL_CORNERS : HEXAHEDRON;
    for (let i = 0; i < 8; i++) {
      const [x, y, z] = corners[i];
      f[x + 2 * y + 4 * z] = heights[i];
    }
    low.fill(1);
    high.fill(0);
    at.fill(0);
    for (let j = 0; j < n; j++) {
      const [a, b] = [edges[2 * j], edges[2 * j + 1]];
      const t = heights[a] / (heights[a] - heights[b]);
      const [p, q] = [corners[a], corners[b]];
      for (let k = 0; k < 3; k++) {
        const r = p[k] + t * (q[k] - p[k]);
        ref[3 * j + k] = r;
        at[k] += r / n;
        if (r < low[k]) low[k] = r;
        if (r > high[k]) high[k] = r;
      }
    }
    if (n === 4) {
      // Two triangles do when the edge between them lies on the surface.
      for (let k = 0; k < 3; k++) between[k] = 0.5 * (ref[k] + ref[6 + k]);
      if (this.beside(between) < FLAT) return -1;
    }
    for (let turn = 0; turn < 4; turn++) {
      const value = this.evaluate(at);
      const steep = slope[0] ** 2 + slope[1] ** 2 + slope[2] ** 2;
      if (!(steep > 0)) break;
      for (let k = 0; k < 3; k++)
        at[k] = Math.min(high[k], Math.max(low[k], at[k] - (value * slope[k]) / steep));
    }
    const { points, places, nodes, weights, count } = this;
    let [x, y, z] = [0, 0, 0];
    for (let i = 0; i < 8; i++) {
      const p = corners[i];
      let w = 1;
      for (let k = 0; k < 3; k++) w *= p[k] ? at[k] : 1 - at[k];
      const node = connectivity[from + i];
      nodes.push(node);
      weights.push(w);
      x += w * points[3 * node];
      y += w * points[3 * node + 1];
      z += w * points[3 * node + 2];
    }
    places.push(x);
    places.push(y);
    places.push(z);
    return count;
  }

  get positions(): Float32Array {
    return this.places.toArray();
  }

  recipe(): Gather {
    return weighted(8, this.nodes.toArray(), this.weights.toArray());
  }

  /** How far a place is from the surface, as a share of the cell; to first order. */
  private beside(place: Float64Array): number {
    const value = this.evaluate(place);
    const steep = Math.hypot(this.slope[0], this.slope[1], this.slope[2]);
    return steep > 0 ? Math.abs(value) / steep : 0;
  }

  /** The trilinear function, and its `slope`. */
  private evaluate([x, y, z]: Float64Array): number {
    const { f, slope } = this;
    const a = f[0] + x * (f[1] - f[0]);
    const b = f[2] + x * (f[3] - f[2]);
    const c = f[4] + x * (f[5] - f[4]);
    const d = f[6] + x * (f[7] - f[6]);
    const [e, g] = [a + y * (b - a), c + y * (d - c)];
    slope[0] =
      (1 - z) * ((1 - y) * (f[1] - f[0]) + y * (f[3] - f[2])) +
      z * ((1 - y) * (f[5] - f[4]) + y * (f[7] - f[6]));
    slope[1] = (1 - z) * (b - a) + z * (d - c);
    slope[2] = g - e;
    return e + z * (g - e);
  }
}
