import { HEXAHEDRON, LINE, QUAD, VERTEX } from '../../model/cell-types.ts';
import { countByRule } from '../bytes/counts.ts';

export interface Cells {
  types: Uint8Array;
  offsets: Uint32Array;
  connectivity: Uint32Array;
}

/** Number of cells of a structured grid of `ni` x `nj` x `nk` points; flat directions count as one. */
export const gridCellCount = (dims: readonly number[]): number =>
  dims.some((d) => d < 1) ? 0 : dims.reduce((n, d) => n * Math.max(1, d - 1), 1);

/**
 * Cells of a structured grid whose points run fastest along i: hexahedra, or quads, lines or a point where
 * directions are flat.
 */
export function gridCells(dims: readonly number[]): Cells {
  const cells = countByRule(gridCellCount(dims), 'cells of the grid');
  const long = [0, 1, 2].filter((k) => dims[k] > 1);
  const step = [1, dims[0], dims[0] * dims[1]];
  const size = 2 ** long.length;
  const [a, b, c] = long.map((k) => step[k]);
  const corners = [[0], [0, a], [0, a, a + b, b], [0, a, a + b, b, c, a + c, a + b + c, b + c]][long.length];
  const connectivity = new Uint32Array(cells * size);
  let at = 0;
  const [ci, cj, ck] = dims.map((d) => Math.max(1, d - 1));
  if (cells > 0) {
    for (let k = 0; k < ck; k++) {
      for (let j = 0; j < cj; j++) {
        for (let i = 0; i < ci; i++) {
          const base = i * step[0] + j * step[1] + k * step[2];
          for (let n = 0; n < size; n++) connectivity[at++] = base + corners[n];
        }
      }
    }
  }
  return {
    types: new Uint8Array(cells).fill([VERTEX, LINE, QUAD, HEXAHEDRON][long.length]),
    offsets: sameSizeOffsets(cells, size),
    connectivity,
  };
}

/** Offsets of cells that all have the same number of nodes. */
export function sameSizeOffsets(cells: number, size: number): Uint32Array {
  const out = new Uint32Array(cells + 1);
  for (let c = 1; c <= cells; c++) out[c] = c * size;
  return out;
}

/** Cells of one type and size, their nodes given one after the other. */
export const uniformCells = (type: number, size: number, connectivity: Uint32Array): Cells => {
  const cells = Math.floor(connectivity.length / size);
  return { types: new Uint8Array(cells).fill(type), offsets: sameSizeOffsets(cells, size), connectivity };
};

/** One point cell for each point. */
export function pointCells(points: number): Cells {
  const connectivity = new Uint32Array(points);
  for (let i = 0; i < points; i++) connectivity[i] = i;
  return uniformCells(VERTEX, 1, connectivity);
}

/** Puts lists of cells behind each other; they share their points. */
export function joinCells(lists: Cells[]): Cells {
  if (lists.length === 1) return lists[0];
  const cells = lists.reduce((n, l) => n + l.types.length, 0);
  const nodes = lists.reduce((n, l) => n + l.connectivity.length, 0);
  const out: Cells = {
    types: new Uint8Array(cells),
    offsets: new Uint32Array(cells + 1),
    connectivity: new Uint32Array(nodes),
  };
  let c = 0;
  let n = 0;
  for (const list of lists) {
    out.types.set(list.types, c);
    out.connectivity.set(list.connectivity, n);
    for (let i = 1; i < list.offsets.length; i++) out.offsets[c + i] = list.offsets[i] + n;
    c += list.types.length;
    n += list.connectivity.length;
  }
  return out;
}
