import { type CellsAround, cellsAround } from '../model/cells-around.ts';
import { type Mesh, pointCount } from '../model/mesh.ts';
import { type Gather, replayAll } from '../model/recipe.ts';
import { principalAxes } from './principal-axes.ts';

/**
 * Gradients at points by weighted least squares over all points that share a cell with one, with weights of one over
 * the squared distance (Mavriplis, "Revisiting the least-squares procedure for gradient reconstruction on unstructured
 * meshes", AIAA 2003-3986; from memory). Exact for linear fields on any mesh. On sheets and lines it is the gradient
 * along them: what the neighbours cannot tell is zero.
 */
export class PointGradients {
  private readonly around: CellsAround;
  private readonly seen: Int32Array;
  private readonly sums = new Float64Array(6);
  private readonly right: Float64Array;

  /** @param values `components` numbers for each point */
  constructor(
    private readonly mesh: Mesh,
    private readonly values: ArrayLike<number>,
    private readonly components: number,
  ) {
    this.around = cellsAround(mesh);
    this.seen = new Int32Array(pointCount(mesh)).fill(-1);
    this.right = new Float64Array(3 * components);
  }

  /** Adds `3 * components` numbers to `out`: d/dx, d/dy, d/dz of the first component, then of the second ... */
  add(point: number, out: Float32Array, at: number): void {
    const { points: p, offsets, connectivity } = this.mesh;
    const { components, values, seen, sums, right } = this;
    const { starts, cells } = this.around;
    sums.fill(0);
    right.fill(0);
    seen[point] = point;
    for (let k = starts[point]; k < starts[point + 1]; k++) {
      const c = cells[k];
      for (let i = offsets[c]; i < offsets[c + 1]; i++) {
        const b = connectivity[i];
        if (seen[b] === point) continue;
        seen[b] = point;
        const x = p[3 * b] - p[3 * point];
        const y = p[3 * b + 1] - p[3 * point + 1];
        const z = p[3 * b + 2] - p[3 * point + 2];
        const squared = x * x + y * y + z * z;
        if (squared === 0) continue;
        const w = 1 / squared;
        sums[0] += w * x * x;
        sums[1] += w * y * y;
        sums[2] += w * z * z;
        sums[3] += w * x * y;
        sums[4] += w * y * z;
        sums[5] += w * x * z;
        for (let m = 0; m < components; m++) {
          const d = w * (values[b * components + m] - values[point * components + m]);
          right[3 * m] += d * x;
          right[3 * m + 1] += d * y;
          right[3 * m + 2] += d * z;
        }
      }
    }
    solveAll(sums, right, components, out, at);
  }
}

/**
 * The gradients of all points, `3 * components` numbers each; see `PointGradients`.
 *
 * @param values `components` numbers for each point
 */
export function gradientAtPoints(mesh: Mesh, values: ArrayLike<number>, components: number): Float32Array {
  const n = pointCount(mesh);
  const gradients = new PointGradients(mesh, values, components);
  const out = new Float32Array(3 * components * n);
  for (let a = 0; a < n; a++) gradients.add(a, out, 3 * components * a);
  return out;
}

/**
 * Directions of length one along which a value grows, at places that are weighted sums of points: the gradients of the
 * points, made once each, mixed in the same way. Zero where the value does not change.
 *
 * @param places how each place comes from the points
 * @param values one number for each point
 * @returns three numbers for each place
 */
export function directionsOfGrowth(mesh: Mesh, values: ArrayLike<number>, places: Gather): Float32Array {
  const gradients = new PointGradients(mesh, values, 1);
  const known = new Float32Array(3 * pointCount(mesh));
  const has = new Uint8Array(pointCount(mesh));
  for (const point of places.index) {
    if (has[point]) continue;
    has[point] = 1;
    gradients.add(point, known, 3 * point);
  }
  const out = replayAll(places, known, 3);
  for (let i = 0; i < out.length; i += 3) {
    const length = Math.hypot(out[i], out[i + 1], out[i + 2]);
    // What is not a number points nowhere.
    for (let k = 0; k < 3; k++) out[i + k] = length > 0 ? out[i + k] / length : 0;
  }
  return out;
}

const axes = new Float64Array(9);
const work = new Float64Array(9);

/** Adds the solution of A g = r for each right side, in the space the neighbours span. */
function solveAll(
  sums: Float64Array,
  right: Float64Array,
  components: number,
  out: Float32Array,
  at: number,
): void {
  const [xx, yy, zz, xy, yz, xz] = sums;
  const [a, b, c] = [yy * zz - yz * yz, yz * xz - xy * zz, xy * yz - yy * xz];
  const whole = xx * a + xy * b + xz * c;
  // Neighbours on all sides: by the inverse (Cramer's rule). Else by the principal axes.
  if (whole > 1e-3 * ((xx + yy + zz) / 3) ** 3) {
    const [d, e, f] = [xx * zz - xz * xz, xy * xz - xx * yz, xx * yy - xy * xy];
    for (let m = 0; m < 3 * components; m += 3) {
      const [r, s, t] = [right[m], right[m + 1], right[m + 2]];
      out[at + m] += (a * r + b * s + c * t) / whole;
      out[at + m + 1] += (b * r + d * s + e * t) / whole;
      out[at + m + 2] += (c * r + e * s + f * t) / whole;
    }
    return;
  }
  work.set([xx, xy, xz, xy, yy, yz, xz, yz, zz]);
  principalAxes(work, axes);
  const largest = Math.max(work[0], work[4], work[8]);
  for (let m = 0; m < components; m++) {
    const r = right.subarray(3 * m, 3 * m + 3);
    for (let k = 0; k < 3; k++) {
      const strength = work[4 * k];
      if (!(strength > 1e-9 * largest)) continue;
      const along = (axes[k] * r[0] + axes[3 + k] * r[1] + axes[6 + k] * r[2]) / strength;
      for (let i = 0; i < 3; i++) out[at + 3 * m + i] += along * axes[3 * i + k];
    }
  }
}
