import { cellCount, type Mesh, pointCount } from '../model/mesh.ts';

/**
 * Gradients at points by weighted least squares over all points that share a cell with one, with weights of one over
 * the squared distance (Mavriplis, "Revisiting the least-squares procedure for gradient reconstruction on unstructured
 * meshes", AIAA 2003-3986; from memory). Exact for linear fields on any mesh. On sheets and lines it is the gradient
 * along them: what the neighbours cannot tell is zero.
 *
 * @param values `components` numbers for each point
 * @returns for each point `3 * components` numbers: d/dx, d/dy, d/dz of the first component, then of the second ...
 */
export function gradientAtPoints(mesh: Mesh, values: ArrayLike<number>, components: number): Float32Array {
  const n = pointCount(mesh);
  const { starts, cells } = cellsAround(mesh, n);
  const { points: p, offsets, connectivity } = mesh;
  const out = new Float32Array(3 * components * n);
  const seen = new Int32Array(n).fill(-1);
  const sums = new Float64Array(6);
  const right = new Float64Array(3 * components);
  for (let a = 0; a < n; a++) {
    sums.fill(0);
    right.fill(0);
    seen[a] = a;
    for (let k = starts[a]; k < starts[a + 1]; k++) {
      const c = cells[k];
      for (let i = offsets[c]; i < offsets[c + 1]; i++) {
        const b = connectivity[i];
        if (seen[b] === a) continue;
        seen[b] = a;
        const x = p[3 * b] - p[3 * a];
        const y = p[3 * b + 1] - p[3 * a + 1];
        const z = p[3 * b + 2] - p[3 * a + 2];
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
          const d = w * (values[b * components + m] - values[a * components + m]);
          right[3 * m] += d * x;
          right[3 * m + 1] += d * y;
          right[3 * m + 2] += d * z;
        }
      }
    }
    solveAll(sums, right, components, out, 3 * components * a);
  }
  return out;
}

function cellsAround(mesh: Mesh, n: number): { starts: Uint32Array; cells: Uint32Array } {
  const { offsets, connectivity } = mesh;
  const starts = new Uint32Array(n + 1);
  for (let i = 0; i < connectivity.length; i++) starts[connectivity[i] + 1]++;
  for (let a = 0; a < n; a++) starts[a + 1] += starts[a];
  const cells = new Uint32Array(connectivity.length);
  const fill = starts.slice();
  for (let c = 0; c < cellCount(mesh); c++)
    for (let i = offsets[c]; i < offsets[c + 1]; i++) cells[fill[connectivity[i]]++] = c;
  return { starts, cells };
}

const axes = new Float64Array(9);
const work = new Float64Array(9);

/** Solves A g = r for each right side, in the space the neighbours span: by the principal axes of A. */
function solveAll(
  [xx, yy, zz, xy, yz, xz]: Float64Array,
  right: Float64Array,
  components: number,
  out: Float32Array,
  at: number,
): void {
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

/**
 * Principal axes of a symmetric 3 x 3 matrix by Jacobi rotations (Golub and Van Loan, Matrix Computations, section 8.5;
 * from memory).
 *
 * @param a the matrix, row by row; afterwards its principal values stand on the diagonal
 * @param v gets the axes as columns
 */
function principalAxes(a: Float64Array, v: Float64Array): void {
  v.set([1, 0, 0, 0, 1, 0, 0, 0, 1]);
  for (let sweep = 0; sweep < 12; sweep++) {
    const off = a[1] * a[1] + a[2] * a[2] + a[5] * a[5];
    if (off <= 1e-30 * (a[0] * a[0] + a[4] * a[4] + a[8] * a[8])) return;
    for (let p = 0; p < 2; p++)
      for (let q = p + 1; q < 3; q++) {
        const apq = a[3 * p + q];
        if (apq === 0) continue;
        const theta = (a[4 * q] - a[4 * p]) / (2 * apq);
        const t = Math.sign(theta || 1) / (Math.abs(theta) + Math.sqrt(theta * theta + 1));
        const c = 1 / Math.sqrt(t * t + 1);
        const s = t * c;
        for (let k = 0; k < 3; k++) {
          const [kp, kq] = [a[3 * k + p], a[3 * k + q]];
          a[3 * k + p] = c * kp - s * kq;
          a[3 * k + q] = s * kp + c * kq;
        }
        for (let k = 0; k < 3; k++) {
          const [pk, qk] = [a[3 * p + k], a[3 * q + k]];
          a[3 * p + k] = c * pk - s * qk;
          a[3 * q + k] = s * pk + c * qk;
          const [vp, vq] = [v[3 * k + p], v[3 * k + q]];
          v[3 * k + p] = c * vp - s * vq;
          v[3 * k + q] = s * vp + c * vq;
        }
      }
  }
}
