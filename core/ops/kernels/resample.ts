import { type CellType, cellTypes, POLYHEDRON } from '../../model/cell-types.ts';
import { type Bounds, boundsOf, type Mesh, pointCount } from '../../model/mesh.ts';
import { cross } from '../../model/vectors.ts';

/** Values at the points of a regular grid; NaN where the mesh is not. */
export interface Resampled {
  size: [number, number, number];
  bounds: Bounds;
  values: Float32Array;
}

/** How many points a grid has along each side: those of the mesh where it is a regular grid itself, else by the longest. */
export function gridSize(mesh: Mesh, longest: number): [number, number, number] {
  const own = regularSize(mesh.points);
  if (own && Math.max(...own) <= 256) return own;
  const b = boundsOf(mesh.points);
  const sides = [b[1] - b[0], b[3] - b[2], b[5] - b[4]];
  const step = Math.max(...sides) / (longest - 1) || 1;
  return sides.map((s) => Math.max(2, Math.round(s / step) + 1)) as [number, number, number];
}

function regularSize(points: Float32Array): [number, number, number] | null {
  const n = points.length / 3;
  const counts: number[] = [];
  for (let k = 0; k < 3; k++) {
    const seen = new Set<number>();
    for (let i = k; i < points.length && seen.size <= 1024; i += 3) seen.add(points[i]);
    const sorted = [...seen].sort((a, b) => a - b);
    const step = (sorted[sorted.length - 1] - sorted[0]) / Math.max(1, sorted.length - 1);
    if (sorted.some((v, i) => Math.abs(v - sorted[0] - i * step) > 1e-4 * step)) return null;
    counts.push(sorted.length);
  }
  return counts[0] * counts[1] * counts[2] === n ? (counts as [number, number, number]) : null;
}

/**
 * Puts point values on a regular grid. Every volume cell is taken apart into tetrahedra around its middle (a
 * tetrahedron stays one), in which the value runs linearly.
 */
export function resample(mesh: Mesh, values: ArrayLike<number>, size: [number, number, number]): Resampled {
  const bounds = boundsOf(mesh.points);
  const out = new Float32Array(size[0] * size[1] * size[2]).fill(Number.NaN);
  const painter = new TetraPainter(bounds, size, out);
  const p = mesh.points;
  const place = (i: number): number[] => [p[3 * i], p[3 * i + 1], p[3 * i + 2], values[i]];
  for (let c = 0; c < mesh.types.length; c++) {
    const type = cellTypes.get(mesh.types[c])!;
    if (type.dimension !== 3 || painter.misses(mesh, c, type)) continue;
    const node = (k: number): number[] => place(mesh.connectivity[mesh.offsets[c] + k]);
    if (type.corners === 4) {
      painter.paint(node(0), node(1), node(2), node(3));
      continue;
    }
    const n = type.corners || mesh.offsets[c + 1] - mesh.offsets[c];
    const middle = [0, 0, 0, 0];
    for (let k = 0; k < n; k++) for (const [i, v] of node(k).entries()) middle[i] += v / n;
    const face = (corners: number[][]): void => {
      const centre = [0, 1, 2, 3].map((i) => corners.reduce((s, q) => s + q[i], 0) / corners.length);
      for (let k = 0; k < corners.length; k++) {
        const [a, b] = [corners[k], corners[(k + 1) % corners.length]];
        if (corners.length === 3) {
          painter.paint(a, b, corners[2], middle);
          break;
        }
        painter.paint(a, b, centre, middle);
      }
    };
    if (type.id === POLYHEDRON) {
      const { faces, starts } = mesh.polyhedra!;
      for (let f = starts[c]; f < starts[c + 1]; f += faces[f] + 1)
        face(Array.from(faces.subarray(f + 1, f + 1 + faces[f]), place));
    } else for (const corners of type.faces) face(corners.map(node));
  }
  return { size, bounds, values: out };
}

/** Fills grid points that lie in tetrahedra. */
class TetraPainter {
  private readonly step: number[];
  constructor(
    private readonly bounds: Bounds,
    private readonly size: [number, number, number],
    private readonly out: Float32Array,
  ) {
    this.step = size.map((n, k) => (bounds[2 * k + 1] - bounds[2 * k]) / (n - 1) || 1);
  }

  /** Whether no grid point can lie in a cell: most cells of a fine mesh. */
  misses(mesh: Mesh, cell: number, type: CellType): boolean {
    const from = mesh.offsets[cell];
    const n = type.corners || mesh.offsets[cell + 1] - from;
    for (let k = 0; k < 3; k++) {
      let low = Infinity;
      let high = -Infinity;
      for (let i = 0; i < n; i++) {
        const v = mesh.points[3 * mesh.connectivity[from + i] + k];
        if (v < low) low = v;
        if (v > high) high = v;
      }
      const [first, last] = this.span(k, low, high);
      if (first > last) return true;
    }
    return false;
  }

  /** @param a corners as x y z value */
  paint(a: number[], b: number[], c: number[], d: number[]): void {
    const spans = [0, 1, 2].map((k) =>
      this.span(k, Math.min(a[k], b[k], c[k], d[k]), Math.max(a[k], b[k], c[k], d[k])),
    );
    if (spans.some(([first, last]) => first > last)) return;
    const [u, v, w] = [b, c, d].map((q) => [q[0] - a[0], q[1] - a[1], q[2] - a[2]]);
    const [vw, wu, uv] = [cross(v, w), cross(w, u), cross(u, v)];
    const volume = u[0] * vw[0] + u[1] * vw[1] + u[2] * vw[2];
    if (volume === 0) return;
    const { bounds, step, size, out } = this;
    const slack = -1e-5;
    for (let k = spans[2][0]; k <= spans[2][1]; k++)
      for (let j = spans[1][0]; j <= spans[1][1]; j++)
        for (let i = spans[0][0]; i <= spans[0][1]; i++) {
          const r = [
            bounds[0] + i * step[0] - a[0],
            bounds[2] + j * step[1] - a[1],
            bounds[4] + k * step[2] - a[2],
          ];
          const s = (r[0] * vw[0] + r[1] * vw[1] + r[2] * vw[2]) / volume;
          const t = (r[0] * wu[0] + r[1] * wu[1] + r[2] * wu[2]) / volume;
          const q = (r[0] * uv[0] + r[1] * uv[1] + r[2] * uv[2]) / volume;
          if (s < slack || t < slack || q < slack || s + t + q > 1 - slack) continue;
          out[(k * size[1] + j) * size[0] + i] =
            a[3] + s * (b[3] - a[3]) + t * (c[3] - a[3]) + q * (d[3] - a[3]);
        }
  }

  private span(k: number, low: number, high: number): [number, number] {
    const at = (v: number): number => (v - this.bounds[2 * k]) / this.step[k];
    return [Math.max(0, Math.ceil(at(low) - 1e-4)), Math.min(this.size[k] - 1, Math.floor(at(high) + 1e-4))];
  }
}

/** Worst and mean difference between the mesh and its grid, at the points of the mesh, as parts of the range of values. */
export function resamplingError(
  mesh: Mesh,
  values: ArrayLike<number>,
  grid: Resampled,
): { worst: number; mean: number } {
  const { size, bounds } = grid;
  let low = Infinity;
  let high = -Infinity;
  for (let i = 0; i < values.length; i++) {
    if (values[i] < low) low = values[i];
    if (values[i] > high) high = values[i];
  }
  let [worst, sum, count] = [0, 0, 0];
  const stride = Math.max(1, Math.floor(pointCount(mesh) / 50_000));
  for (let i = 0; i < pointCount(mesh); i += stride) {
    const cell: number[] = [];
    const part: number[] = [];
    for (let k = 0; k < 3; k++) {
      const at =
        ((mesh.points[3 * i + k] - bounds[2 * k]) / (bounds[2 * k + 1] - bounds[2 * k] || 1)) * (size[k] - 1);
      cell.push(Math.max(0, Math.min(size[k] - 2, Math.floor(at))));
      part.push(at - cell[k]);
    }
    let [value, weight] = [0, 0];
    for (let corner = 0; corner < 8; corner++) {
      const d = [corner & 1, (corner >> 1) & 1, corner >> 2];
      const w = d.reduce((product, on, k) => product * (on ? part[k] : 1 - part[k]), 1);
      const v = grid.values[((cell[2] + d[2]) * size[1] + cell[1] + d[1]) * size[0] + cell[0] + d[0]];
      if (w > 0 && Number.isFinite(v)) {
        value += w * v;
        weight += w;
      }
    }
    if (weight < 0.5 || !Number.isFinite(values[i])) continue;
    const error = Math.abs(value / weight - values[i]) / (high - low || 1);
    worst = Math.max(worst, error);
    sum += error;
    count++;
  }
  return { worst, mean: count > 0 ? sum / count : 0 };
}
