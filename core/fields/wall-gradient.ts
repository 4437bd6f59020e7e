import { type CellsAround, cellsAround } from '../model/cells-around.ts';
import { type Mesh, meshDimension, pointCount } from '../model/mesh.ts';
import { outsideOf } from './surfaces/outward-normals.ts';

/** Terms of the fit behind the value itself: x y z xx yy zz xy yz xz. */
const TERMS = 9;
/** A direction that the neighbours tell less of than this, against that they tell most of, is left out. */
const LEAST = 1e-7;

/**
 * Gradients at the points of walls: the outside of bodies, and the border of what is flat. There neighbours lie on one side only,
 * where a linear fit is off by half a cell; here it is that of the quadratic function through the point that comes nearest to the
 * neighbours and to theirs, weighed by one over the squared distance. Exact for quadratic fields. Points inside have no value, nor do
 * those where it goes on in a neighbour.
 *
 * Method: weighted least squares with a quadratic basis, as in the recovery of gradients of Zhang and Naga (SIAM J. Sci. Comput. 26
 * (2005) 1192; from memory).
 *
 * @param values `components` numbers for each point
 * @param neighbours meshes it goes on in, where they share faces with it
 * @returns `3 * components` numbers for each point, a row for each component
 */
export function gradientAtWalls(
  mesh: Mesh,
  values: ArrayLike<number>,
  components: number,
  neighbours: readonly Mesh[] = [],
): Float32Array {
  const n = pointCount(mesh);
  const out = new Float32Array(3 * components * n).fill(Number.NaN);
  const { free } = outsideOf(mesh, meshDimension(mesh.types) === 2, neighbours);
  const around = cellsAround(mesh);
  const seen = new Int32Array(n).fill(-1);
  const fit = new QuadraticFit(components);
  for (let p = 0; p < n; p++) {
    if (free[p] === 0) continue;
    const near = pointsAround(mesh, around, p, seen);
    fit.solve(mesh.points, values, p, near, out);
  }
  return out;
}

/** The points that share a cell with one, and those that share a cell with these. */
function pointsAround(
  { offsets, connectivity }: Mesh,
  { starts, cells }: CellsAround,
  point: number,
  seen: Int32Array,
): number[] {
  const found: number[] = [];
  seen[point] = point;
  const lookAround = (from: number): void => {
    for (let k = starts[from]; k < starts[from + 1]; k++)
      for (let i = offsets[cells[k]]; i < offsets[cells[k] + 1]; i++) {
        const other = connectivity[i];
        if (seen[other] === point) continue;
        seen[other] = point;
        found.push(other);
      }
  };
  lookAround(point);
  for (let i = found.length - 1; i >= 0; i--) lookAround(found[i]);
  return found;
}

/** Least squares of a quadratic function, by Cholesky with the strongest pivot first; what nothing tells of is zero. */
class QuadraticFit {
  private readonly sums = new Float64Array(TERMS * TERMS);
  private readonly right: Float64Array;
  private readonly terms = new Float64Array(TERMS);
  private readonly order = new Int32Array(TERMS);

  constructor(private readonly components: number) {
    this.right = new Float64Array(TERMS * components);
  }

  solve(
    points: Float32Array,
    values: ArrayLike<number>,
    point: number,
    near: readonly number[],
    out: Float32Array,
  ): void {
    const { sums, right, terms, components } = this;
    sums.fill(0);
    right.fill(0);
    const offset = (other: number, k: number): number => points[3 * other + k] - points[3 * point + k];
    // Places count in their mean distance, so that all terms are about one.
    let size = 0;
    for (const other of near) size += Math.hypot(offset(other, 0), offset(other, 1), offset(other, 2));
    size /= near.length || 1;
    if (!(size > 0)) return;
    for (const other of near) {
      const [x, y, z] = [0, 1, 2].map((k) => offset(other, k) / size);
      const squared = x * x + y * y + z * z;
      if (squared === 0) continue;
      terms.set([x, y, z, x * x, y * y, z * z, x * y, y * z, x * z]);
      for (let i = 0; i < TERMS; i++) {
        const w = terms[i] / squared;
        for (let j = 0; j <= i; j++) sums[TERMS * i + j] += w * terms[j];
        for (let m = 0; m < components; m++)
          right[TERMS * m + i] += w * (values[components * other + m] - values[components * point + m]);
      }
    }
    this.solveSums();
    for (let m = 0; m < components; m++)
      for (let k = 0; k < 3; k++) out[3 * (components * point + m) + k] = right[TERMS * m + k] / size;
  }

  /** Leaves the solutions in `right`. */
  private solveSums(): void {
    const { sums, right, components, order } = this;
    for (let i = 0; i < TERMS; i++)
      for (let j = i + 1; j < TERMS; j++) sums[TERMS * i + j] = sums[TERMS * j + i];
    const left = new Set(order.keys());
    let largest = 0;
    let rank = 0;
    // Elimination of one unknown after the other, each from all the others.
    while (left.size > 0) {
      let pivot = -1;
      for (const i of left) if (pivot < 0 || sums[(TERMS + 1) * i] > sums[(TERMS + 1) * pivot]) pivot = i;
      const strength = sums[(TERMS + 1) * pivot];
      largest = Math.max(largest, strength);
      if (!(strength > LEAST * largest)) break;
      left.delete(pivot);
      order[rank++] = pivot;
      for (let j = 0; j < TERMS; j++) sums[TERMS * pivot + j] /= strength;
      for (let m = 0; m < components; m++) right[TERMS * m + pivot] /= strength;
      for (let i = 0; i < TERMS; i++) {
        const share = sums[TERMS * i + pivot];
        if (i === pivot || share === 0) continue;
        for (let j = 0; j < TERMS; j++) sums[TERMS * i + j] -= share * sums[TERMS * pivot + j];
        for (let m = 0; m < components; m++) right[TERMS * m + i] -= share * right[TERMS * m + pivot];
      }
    }
    for (const i of left) for (let m = 0; m < components; m++) right[TERMS * m + i] = 0;
  }
}
