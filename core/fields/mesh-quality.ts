import { type CellType, cellTypes, edgesOf, POLYHEDRON } from '../model/cell-types.ts';
import { cellCount, type Mesh } from '../model/mesh.ts';
import { cross, dot, subtract } from '../model/vectors.ts';
import { cellMeasures } from './cell-measures.ts';

/** Measures of the shape of cells, each as a field on cells that needs no file. */
export const meshMeasures = [
  { key: 'mesh:mean-ratio', name: 'cell quality' },
  { key: 'mesh:scaled-jacobian', name: 'cell scaled Jacobian' },
  { key: 'mesh:edge-ratio', name: 'cell edge ratio' },
  { key: 'mesh:size', name: 'cell size' },
] as const;

/** The ideal corner of each volume type: three edges of an equal-sided cell. */
const idealCorners: Record<number, [number[], number[], number[]]> = {
  4: [
    [1, 0, 0],
    [0.5, Math.sqrt(3) / 2, 0],
    [0.5, Math.sqrt(3) / 6, Math.sqrt(2 / 3)],
  ],
  5: [
    [1, 0, 0],
    [0, 1, 0],
    [0.5, 0.5, Math.SQRT1_2],
  ],
  6: [
    [1, 0, 0],
    [0.5, Math.sqrt(3) / 2, 0],
    [0, 0, 1],
  ],
  8: [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ],
};

/** At each corner where three edges meet: the corner and its neighbours, right-handed for a cell that is not inverted. */
function cornersOf(type: CellType): [number, number, number, number][] {
  switch (type.corners) {
    case 4:
      return [
        [0, 1, 2, 3],
        [1, 2, 0, 3],
        [2, 0, 1, 3],
        [3, 1, 0, 2],
      ];
    case 5:
      return [
        [0, 1, 3, 4],
        [1, 2, 0, 4],
        [2, 3, 1, 4],
        [3, 0, 2, 4],
      ];
    case 6:
      return [
        [0, 1, 2, 3],
        [1, 2, 0, 4],
        [2, 0, 1, 5],
        [3, 5, 4, 0],
        [4, 3, 5, 1],
        [5, 4, 3, 2],
      ];
    case 8:
      return type.name === 'voxel'
        ? [
            [0, 1, 2, 4],
            [1, 3, 0, 5],
            [3, 2, 1, 7],
            [2, 0, 3, 6],
            [4, 6, 5, 0],
            [5, 4, 7, 1],
            [7, 5, 6, 3],
            [6, 7, 4, 2],
          ]
        : [
            [0, 1, 3, 4],
            [1, 2, 0, 5],
            [2, 3, 1, 6],
            [3, 0, 2, 7],
            [4, 7, 5, 0],
            [5, 4, 6, 1],
            [6, 5, 7, 2],
            [7, 6, 4, 3],
          ];
    default:
      return [];
  }
}

/**
 * A shape measure of every cell; NaN where the measure does not know the type.
 *
 * - `mesh:mean-ratio`: the worst corner's `3 det(T)^(2/3) / |T|²` with `T` from the ideal corner to the real one; 1 is
 *   equal-sided, 0 flat or inverted. Flat cells: `2 det(T) / |T|²`. Knupp, Algebraic mesh quality metrics, SIAM J.
 *   Sci. Comput. 23 (2001) 193; from memory.
 * - `mesh:scaled-jacobian`: the worst corner's determinant over the product of its edge lengths, as a part of that of
 *   the ideal corner. Stimpson et al., The Verdict Geometric Quality Library, SAND2007-1751; from memory.
 * - `mesh:edge-ratio`: longest over shortest edge. Same report; from memory.
 * - `mesh:size`: volume, area or length.
 */
export function meshMeasure(mesh: Mesh, key: string): Float32Array {
  if (key === 'mesh:size') return cellMeasures(mesh);
  const out = new Float32Array(cellCount(mesh)).fill(Number.NaN);
  for (let c = 0; c < out.length; c++) {
    const type = cellTypes.get(mesh.types[c])!;
    const node = (k: number): number[] => {
      const at = 3 * mesh.connectivity[mesh.offsets[c] + k];
      return [mesh.points[at], mesh.points[at + 1], mesh.points[at + 2]];
    };
    if (key === 'mesh:edge-ratio') out[c] = edgeRatio(mesh, c, type, node);
    else if (type.dimension === 3 && type.id !== POLYHEDRON) out[c] = worstCorner(type, node, key);
    else if (type.dimension === 2)
      out[c] = worstFlatCorner(type, mesh.offsets[c + 1] - mesh.offsets[c], node, key);
  }
  return out;
}

function edgeRatio(mesh: Mesh, cell: number, type: CellType, node: (k: number) => number[]): number {
  const n = type.corners || mesh.offsets[cell + 1] - mesh.offsets[cell];
  const pairs =
    type.dimension === 3
      ? edgesOf(type)
      : Array.from({ length: n }, (_, k): [number, number] => [loopAt(type, k), loopAt(type, (k + 1) % n)]);
  const lengths = pairs.map(([a, b]) => Math.hypot(...subtract(node(a), node(b))));
  return lengths.length === 0 ? Number.NaN : Math.max(...lengths) / Math.min(...lengths);
}

const loopAt = (type: CellType, k: number): number => (type.loop.length > 0 ? type.loop[k] : k);

function worstCorner(type: CellType, node: (k: number) => number[], key: string): number {
  const ideal = idealCorners[type.corners];
  if (!ideal) return Number.NaN;
  const inverse = inverseOf(ideal);
  const idealShare = dot(ideal[0], cross(ideal[1], ideal[2]));
  let worst = Infinity;
  for (const [at, ...ends] of cornersOf(type)) {
    const edges = ends.map((k) => subtract(node(k), node(at)));
    const determinant = dot(edges[0], cross(edges[1], edges[2]));
    if (key === 'mesh:scaled-jacobian') {
      const lengths = edges.reduce((product, e) => product * Math.hypot(...e), 1);
      worst = Math.min(worst, lengths > 0 ? determinant / lengths / idealShare : 0);
      continue;
    }
    // T = A W⁻¹ with edges as columns.
    let norm = 0;
    for (let r = 0; r < 3; r++)
      for (let c = 0; c < 3; c++) {
        let t = 0;
        for (let k = 0; k < 3; k++) t += edges[k][r] * inverse[k][c];
        norm += t * t;
      }
    const det = determinant / idealShare;
    worst = Math.min(worst, det > 0 && norm > 0 ? (3 * det ** (2 / 3)) / norm : 0);
  }
  return worst;
}

/** Inverse of the matrix whose columns are the edges: its rows. */
function inverseOf([a, b, c]: [number[], number[], number[]]): number[][] {
  const det = dot(a, cross(b, c));
  return [cross(b, c), cross(c, a), cross(a, b)].map((r) => r.map((v) => v / det));
}

function worstFlatCorner(type: CellType, nodes: number, node: (k: number) => number[], key: string): number {
  const n = type.corners || nodes;
  if (n !== 3 && n !== 4) return Number.NaN;
  const places = Array.from({ length: n }, (_, k) => node(loopAt(type, k)));
  const normal = cross(subtract(places[2], places[0]), subtract(places[3 % n], places[1]));
  const sign = (v: number[]): number => (dot(v, n === 3 ? v : normal) < 0 ? -1 : 1);
  const [s, c] = n === 3 ? [Math.sqrt(3) / 2, 0.5] : [1, 0];
  let worst = Infinity;
  for (let k = 0; k < n; k++) {
    const a = subtract(places[(k + 1) % n], places[k]);
    const b = subtract(places[(k + n - 1) % n], places[k]);
    const across = cross(a, b);
    const area = sign(across) * Math.hypot(...across);
    const [la, lb] = [Math.hypot(...a), Math.hypot(...b)];
    if (key === 'mesh:scaled-jacobian') worst = Math.min(worst, la * lb > 0 ? area / (la * lb) / s : 0);
    else {
      // |A W⁻¹|² for an ideal corner with edges (1, 0) and (c, s).
      const norm = la * la + (lb * lb - 2 * c * dot(a, b) + c * c * la * la) / (s * s);
      worst = Math.min(worst, area > 0 && norm > 0 ? (2 * area) / s / norm : 0);
    }
  }
  return worst;
}
