import { cellTypeName, cellTypes } from './cell-types.ts';
import { ReadError } from './read-error.ts';

/**
 * An unstructured mesh. Cell `c` has the nodes `connectivity[offsets[c] .. offsets[c + 1])`.
 *
 * - `points`: x y z of each point, relative to the origin of the run (length 3 n)
 * - `types`: one cell type id per cell
 * - `offsets`: one more entry than there are cells, starting at 0
 */
export interface Mesh {
  points: Float32Array;
  types: Uint8Array;
  offsets: Uint32Array;
  connectivity: Uint32Array;
  polyhedra?: Polyhedra | null;
}

/**
 * The faces of polyhedral cells. Those of cell `c` are `faces[starts[c] .. starts[c + 1])`: for each face the number
 * of its nodes, then the nodes in order around it. Other cells have none.
 */
export interface Polyhedra {
  faces: Uint32Array;
  starts: Uint32Array;
}

export const pointCount = (mesh: Mesh): number => mesh.points.length / 3;
export const cellCount = (mesh: Mesh): number => mesh.types.length;

/** Axis-aligned bounds `[x0, x1, y0, y1, z0, z1]`. */
export type Bounds = [number, number, number, number, number, number];

export const emptyBounds = (): Bounds => [Infinity, -Infinity, Infinity, -Infinity, Infinity, -Infinity];

/** Bounds of a coordinate array; points with a coordinate that is not a number are left out. */
export function boundsOf(points: ArrayLike<number>): Bounds {
  const b = emptyBounds();
  for (let i = 0; i + 2 < points.length; i += 3) {
    for (let k = 0; k < 3; k++) {
      const v = points[i + k];
      if (v < b[2 * k]) b[2 * k] = v;
      if (v > b[2 * k + 1]) b[2 * k + 1] = v;
    }
  }
  return b;
}

export function joinBounds(a: Bounds, b: Bounds): Bounds {
  return a.map((v, i) => (i % 2 === 0 ? Math.min(v, b[i]) : Math.max(v, b[i]))) as Bounds;
}

/** Bounds relative to the origin of a run, in the coordinates of the files. */
export const boundsInFiles = (b: Bounds, origin: readonly number[]): Bounds =>
  b.map((v, i) => v + origin[i >> 1]) as Bounds;

export const boundsCentre = (b: Bounds): [number, number, number] => [
  (b[0] + b[1]) / 2,
  (b[2] + b[3]) / 2,
  (b[4] + b[5]) / 2,
];

/** Width, depth and height. */
export const boundsSize = (b: Bounds): [number, number, number] => [b[1] - b[0], b[3] - b[2], b[5] - b[4]];

/** Length of the box diagonal; 0 for an empty box. */
export function boundsDiagonal(b: Bounds): number {
  const d = Math.hypot(...boundsSize(b));
  return Number.isFinite(d) ? d : 0;
}

/** From a place to the nearest of a box; 0 inside of it. */
export const distanceToBounds = (b: Bounds, place: readonly number[]): number =>
  Math.hypot(...[0, 1, 2].map((k) => Math.max(0, b[2 * k] - place[k], place[k] - b[2 * k + 1])));

/** Whether a box has no thickness. */
export const isFlat = (b: Bounds): boolean => Math.min(...boundsSize(b)) <= 1e-6 * boundsDiagonal(b);

/** Number of cells by type name, in order of first appearance. */
export function cellsByType(types: Uint8Array): Record<string, number> {
  const counts = new Uint32Array(256);
  for (let i = 0; i < types.length; i++) counts[types[i]]++;
  const out: Record<string, number> = {};
  for (let id = 0; id < 256; id++) if (counts[id] > 0) out[cellTypeName(id)] = counts[id];
  return out;
}

/** Highest dimension among the cells (0 when there are none). */
export function meshDimension(types: Uint8Array): number {
  let dimension = 0;
  const known = new Int8Array(256).fill(-1);
  for (let i = 0; i < types.length; i++) {
    let d = known[types[i]];
    if (d < 0) d = known[types[i]] = cellTypes.get(types[i])?.dimension ?? 0;
    if (d > dimension) dimension = d;
  }
  return dimension;
}

/**
 * The door check of cells: offsets rise and stay within the connectivity, every type is known and every cell has the
 * number of nodes its type asks for. That every node index points at a point is checked while it is read.
 *
 * @throws ReadError naming the first cell that breaks a rule
 */
export function checkCells({
  types,
  offsets,
  connectivity,
}: Pick<Mesh, 'types' | 'offsets' | 'connectivity'>): void {
  // 255 marks types that are not known, 0 types with any number of nodes.
  const nodesOf = Uint8Array.from({ length: 256 }, (_, id) => cellTypes.get(id)?.nodes ?? 255);
  if (allFit(types, offsets, connectivity.length, nodesOf)) return;
  for (let c = 0; c < types.length; c++) {
    const size = offsets[c + 1] - offsets[c];
    const wanted = nodesOf[types[c]];
    if (offsets[c + 1] < offsets[c] || offsets[c + 1] > connectivity.length) {
      throw new ReadError(
        `offset ${offsets[c + 1]} of cell ${c} is outside the connectivity of ${connectivity.length} entries`,
        `Cells / offsets, entry ${c}`,
        'The file is inconsistent; write it again from the solver.',
      );
    }
    if (wanted === 255) {
      throw new ReadError(
        `cell type ${types[c]} is not read`,
        `Cells / types, entry ${c}`,
        'Export the mesh with linear or quadratic cells.',
      );
    }
    if (wanted > 0 && size !== wanted) {
      throw new ReadError(
        `a ${cellTypeName(types[c])} needs ${wanted} nodes but cell ${c} has ${size}`,
        `Cells / offsets, entry ${c}`,
        'The file is inconsistent; write it again from the solver.',
      );
    }
  }
}

/** A quick look over all cells, without finding out what is wrong. */
function allFit(types: Uint8Array, offsets: Uint32Array, nodes: number, nodesOf: Uint8Array): boolean {
  let from = offsets[0];
  let wrong = 0;
  for (let c = 0; c < types.length; c++) {
    const to = offsets[c + 1];
    const wanted = nodesOf[types[c]];
    const size = to - from;
    if (size !== wanted && (wanted !== 0 || size < 0)) wrong++;
    from = to;
  }
  return wrong === 0 && from <= nodes;
}
