import { cellTypeById } from '../../model/cell-types.ts';
import type { Mesh } from '../../model/mesh.ts';

/** Lines of a mesh as runs of points, and for each the cell it came from between a point and the next. */
export interface LineRun {
  points: number[];
  /** One fewer than there are points, but for closed runs, which end where they began. */
  cells: number[];
}

/**
 * The lines of a mesh joined end to end wherever just two meet. Where more meet, and at loose ends, a run ends.
 */
export function lineRuns({ connectivity, offsets, types, points }: Mesh): LineRun[] {
  const n = points.length / 3;
  const degree = new Uint32Array(n + 1);
  const from: number[] = [];
  const to: number[] = [];
  const cell: number[] = [];
  for (let c = 0; c < types.length; c++) {
    if (cellTypeById[types[c]]!.dimension !== 1) continue;
    const corners = cellTypeById[types[c]]!.corners || offsets[c + 1] - offsets[c];
    for (let i = 0; i + 1 < corners; i++) {
      from.push(connectivity[offsets[c] + i]);
      to.push(connectivity[offsets[c] + i + 1]);
      cell.push(c);
    }
  }
  for (let s = 0; s < from.length; s++) {
    degree[from[s]]++;
    degree[to[s]]++;
  }
  const starts = new Uint32Array(n + 1);
  for (let p = 0; p < n; p++) starts[p + 1] = starts[p] + degree[p];
  const fill = starts.slice();
  const segments = new Uint32Array(2 * from.length);
  for (let s = 0; s < from.length; s++) {
    segments[fill[from[s]]++] = s;
    segments[fill[to[s]]++] = s;
  }
  const used = new Uint8Array(from.length);
  const runs: LineRun[] = [];
  const walk = (begin: number): void => {
    for (let i = starts[begin]; i < starts[begin + 1]; i++) {
      if (used[segments[i]]) continue;
      const run: LineRun = { points: [begin], cells: [] };
      for (let at = begin, s = segments[i]; ; ) {
        used[s] = 1;
        at = from[s] === at ? to[s] : from[s];
        run.points.push(at);
        run.cells.push(cell[s]);
        if (degree[at] !== 2) break;
        const next = segments[starts[at]] === s ? segments[starts[at] + 1] : segments[starts[at]];
        if (used[next]) break;
        s = next;
      }
      runs.push(run);
    }
  };
  for (let p = 0; p < n; p++) if (degree[p] !== 0 && degree[p] !== 2) walk(p);
  for (let p = 0; p < n; p++) if (degree[p] === 2) walk(p);
  return runs;
}
