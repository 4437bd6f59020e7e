import { GrowingFloat32, GrowingUint32 } from '../../model/arrays.ts';
import { QUAD, TRIANGLE } from '../../model/cell-types.ts';
import type { Mesh } from '../../model/mesh.ts';
import { copyOf } from '../../model/recipe.ts';
import { cross, dot, subtract, times, unit, type Vector } from '../../model/vectors.ts';
import type { OperationResult } from '../chain/operation.ts';
import { type LineRun, lineRuns } from './line-runs.ts';

/** Two directions across a line at a point, square to it and to each other; six numbers. */
type Frame = Float64Array;

/**
 * Lines with a body: at each of their points an outline is put across them, and outlines that follow on each other are joined.
 *
 * The outline does not turn about the line but as `turn` says: its frame is carried from point to point by two reflections
 * (Wang, Jüttler, Zheng, Liu: "Computation of rotation minimizing frames", ACM Trans. Graphics 27, 2008; from memory).
 *
 * @param outline places across the line, two numbers each, in walking order
 * @param closed whether the outline closes; an open one is a band
 * @param turn angle of the outline at each point of the mesh, in radians; null for none
 * @param size of the outline at each point of the mesh, as a multiple; null for as it is everywhere
 */
export function sweptLines(
  mesh: Mesh,
  outline: readonly (readonly [number, number])[],
  closed: boolean,
  turn: ArrayLike<number> | null,
  size: ArrayLike<number> | null = null,
): OperationResult {
  const points = new GrowingFloat32();
  const origin = new GrowingUint32();
  const cells = new GrowingUint32();
  const types: number[] = [];
  const offsets = new GrowingUint32();
  const connectivity = new GrowingUint32();
  offsets.push(0);
  const face = (type: number, cell: number, ...nodes: number[]): void => {
    for (const node of nodes) connectivity.push(node);
    types.push(type);
    offsets.push(connectivity.length);
    cells.push(cell);
  };
  for (const given of lineRuns(mesh)) {
    const run = withoutTwins(given, mesh.points);
    if (run.points.length < 2) continue;
    const first = origin.length;
    const frames = framesAlong(run, mesh.points);
    const m = outline.length;
    for (const [i, point] of run.points.entries()) {
      const angle = turn ? turn[point] : 0;
      const [c, s] = [Math.cos(angle), Math.sin(angle)];
      const by = size ? size[point] : 1;
      const frame = frames[i];
      for (const [a, b] of outline) {
        const [u, v] = [by * (c * a - s * b), by * (s * a + c * b)];
        for (let k = 0; k < 3; k++) points.push(mesh.points[3 * point + k] + u * frame[k] + v * frame[3 + k]);
        origin.push(point);
      }
    }
    const sides = closed ? m : m - 1;
    for (let i = 0; i + 1 < run.points.length; i++)
      for (let j = 0; j < sides; j++) {
        const [a, b] = [first + i * m + j, first + i * m + ((j + 1) % m)];
        face(QUAD, run.cells[i], a, b, b + m, a + m);
      }
    if (!closed) continue;
    const last = first + (run.points.length - 1) * m;
    for (let j = 1; j + 1 < m; j++) {
      face(TRIANGLE, run.cells[0], first, first + j + 1, first + j);
      face(TRIANGLE, run.cells[run.cells.length - 1], last, last + j, last + j + 1);
    }
  }
  return {
    mesh: {
      points: points.toArray(),
      types: Uint8Array.from(types),
      offsets: offsets.toArray(),
      connectivity: connectivity.toArray(),
    },
    recipe: { points: copyOf(origin.toArray()), cells: copyOf(cells.toArray()) },
    crease: 70,
  };
}

/** A regular polygon around the line, as an outline. */
export const roundOutline = (radius: number, sides: number): [number, number][] =>
  Array.from({ length: sides }, (_, i) => {
    const angle = (2 * Math.PI * i) / sides;
    return [radius * Math.cos(angle), radius * Math.sin(angle)];
  });

/** A run without points that lie where the one before lies: they have no direction. */
function withoutTwins({ points: list, cells }: LineRun, p: Float32Array): LineRun {
  const out: LineRun = { points: [list[0]], cells: [] };
  for (let i = 1; i < list.length; i++) {
    const [a, b] = [3 * out.points[out.points.length - 1], 3 * list[i]];
    if (p[a] === p[b] && p[a + 1] === p[b + 1] && p[a + 2] === p[b + 2]) continue;
    out.points.push(list[i]);
    out.cells.push(cells[i - 1]);
  }
  return out;
}

function framesAlong({ points: list }: LineRun, p: Float32Array): Frame[] {
  const place = (i: number): number[] => [0, 1, 2].map((k) => p[3 * list[i] + k]);
  const tangents = list.map((_, i) => {
    const [a, b] = [place(Math.max(0, i - 1)), place(Math.min(list.length - 1, i + 1))];
    return unit([b[0] - a[0], b[1] - a[1], b[2] - a[2]]);
  });
  let [t] = tangents;
  let r = unit(cross(Math.abs(t[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0], t));
  const frames: Frame[] = [Float64Array.of(...r, ...cross(t, r))];
  for (let i = 1; i < list.length; i++) {
    const [a, b] = [place(i - 1), place(i)];
    const way = subtract(b, a);
    const mirrored = (v: readonly number[], n: readonly number[]): Vector => {
      const c = dot(n, n);
      return subtract(v, times(n, c > 0 ? (2 * dot(v, n)) / c : 0));
    };
    const left = mirrored(t, way);
    const next = tangents[i];
    r = mirrored(mirrored(r, way), subtract(next, left));
    t = next;
    // Squared again: rounding adds up along thousands of points.
    r = unit(subtract(r, times(t, dot(r, t))));
    frames.push(Float64Array.of(...r, ...cross(t, r)));
  }
  return frames;
}
