/**
 * The cell types of unstructured grids: corners, faces and edges of each.
 *
 * Ids and node order follow the openly documented VTK XML file format. In all of its isoparametric quadratic
 * types the corner nodes come first, so a quadratic cell is drawn with straight edges by looking at its corners
 * only.
 */
export interface CellType {
  readonly id: number;
  /** Name used in every listing, for example `hexahedron` or `tetra10`. */
  readonly name: string;
  readonly dimension: 0 | 1 | 2 | 3;
  /** Number of nodes in a file; 0 when it varies from cell to cell (polygons, polylines). */
  readonly nodes: number;
  /** Number of corner nodes; 0 when it varies. */
  readonly corners: number;
  readonly quadratic: boolean;
  /** Corner loops of the faces of a volume cell, empty for the others. */
  readonly faces: readonly (readonly number[])[];
  /** Corner loop of a surface cell, in walking order; empty when it is simply 0..n-1. */
  readonly loop: readonly number[];
}

const tetraFaces = [
  [0, 2, 1],
  [0, 1, 3],
  [1, 2, 3],
  [0, 3, 2],
];
const hexahedronFaces = [
  [0, 3, 2, 1],
  [4, 5, 6, 7],
  [0, 1, 5, 4],
  [1, 2, 6, 5],
  [2, 3, 7, 6],
  [3, 0, 4, 7],
];
const voxelFaces = [
  [0, 2, 3, 1],
  [4, 5, 7, 6],
  [0, 1, 5, 4],
  [1, 3, 7, 5],
  [3, 2, 6, 7],
  [2, 0, 4, 6],
];
const wedgeFaces = [
  [0, 2, 1],
  [3, 4, 5],
  [0, 1, 4, 3],
  [1, 2, 5, 4],
  [2, 0, 3, 5],
];
const pyramidFaces = [
  [0, 3, 2, 1],
  [0, 1, 4],
  [1, 2, 4],
  [2, 3, 4],
  [3, 0, 4],
];

/** Faces of a prism over an n-sided base: nodes 0..n-1 below, n..2n-1 above. */
function prismFaces(n: number): number[][] {
  const base = Array.from({ length: n }, (_, i) => n - 1 - i);
  const top = Array.from({ length: n }, (_, i) => n + i);
  const sides = Array.from({ length: n }, (_, i) => [i, (i + 1) % n, n + ((i + 1) % n), n + i]);
  return [base, top, ...sides];
}

type Row = [
  id: number,
  name: string,
  dimension: 0 | 1 | 2 | 3,
  nodes: number,
  corners: number,
  faces?: number[][],
  loop?: number[],
];

const linear: Row[] = [
  [1, 'vertex', 0, 1, 1],
  [2, 'polyvertex', 0, 0, 0],
  [3, 'line', 1, 2, 2],
  [4, 'polyline', 1, 0, 0],
  [5, 'triangle', 2, 3, 3],
  [6, 'strip', 2, 0, 0],
  [7, 'polygon', 2, 0, 0],
  [8, 'pixel', 2, 4, 4, [], [0, 1, 3, 2]],
  [9, 'quad', 2, 4, 4],
  [10, 'tetra', 3, 4, 4, tetraFaces],
  [11, 'voxel', 3, 8, 8, voxelFaces],
  [12, 'hexahedron', 3, 8, 8, hexahedronFaces],
  [13, 'wedge', 3, 6, 6, wedgeFaces],
  [14, 'pyramid', 3, 5, 5, pyramidFaces],
  [15, 'pentaprism', 3, 10, 10, prismFaces(5)],
  [16, 'hexaprism', 3, 12, 12, prismFaces(6)],
  // Its faces stand in the mesh; see `Polyhedra`.
  [42, 'polyhedron', 3, 0, 0],
];

const quadratic: Row[] = [
  [21, 'line3', 1, 3, 2],
  [22, 'triangle6', 2, 6, 3],
  [23, 'quad8', 2, 8, 4],
  [24, 'tetra10', 3, 10, 4, tetraFaces],
  [25, 'hexahedron20', 3, 20, 8, hexahedronFaces],
  [26, 'wedge15', 3, 15, 6, wedgeFaces],
  [27, 'pyramid13', 3, 13, 5, pyramidFaces],
  [28, 'quad9', 2, 9, 4],
  [29, 'hexahedron27', 3, 27, 8, hexahedronFaces],
  [30, 'quad6', 2, 6, 4],
  [31, 'wedge12', 3, 12, 6, wedgeFaces],
  [32, 'wedge18', 3, 18, 6, wedgeFaces],
  [33, 'hexahedron24', 3, 24, 8, hexahedronFaces],
  [34, 'triangle7', 2, 7, 3],
  [37, 'pyramid19', 3, 19, 5, pyramidFaces],
];

function row(
  [id, name, dimension, nodes, corners, faces = [], loop = []]: Row,
  isQuadratic: boolean,
): CellType {
  return { id, name, dimension, nodes, corners, quadratic: isQuadratic, faces, loop };
}

/** Every cell type that can be read, by id. */
export const cellTypes: ReadonlyMap<number, CellType> = new Map(
  [...linear.map((r) => row(r, false)), ...quadratic.map((r) => row(r, true))].map((t) => [t.id, t]),
);

/** The same by id in a list, for loops over many cells. */
export const cellTypeById: readonly (CellType | undefined)[] = Array.from({ length: 256 }, (_, id) =>
  cellTypes.get(id),
);

/** Ids used when an operation makes new cells. */
export const VERTEX = 1;
export const LINE = 3;
export const POLYLINE = 4;
export const TRIANGLE = 5;
export const STRIP = 6;
export const POLYGON = 7;
export const QUAD = 9;
export const TETRA = 10;
export const VOXEL = 11;
export const HEXAHEDRON = 12;
export const WEDGE = 13;
export const PYRAMID = 14;
export const POLYHEDRON = 42;

/** The listing name of a type id; unknown ids are spelled out. */
export function cellTypeName(id: number): string {
  return cellTypes.get(id)?.name ?? `type ${id}`;
}

/** Unique edges of a volume cell as corner pairs (smaller first), taken from its faces. */
export function edgesOf(type: CellType): [number, number][] {
  const seen = new Set<number>();
  const edges: [number, number][] = [];
  for (const face of type.faces) {
    for (let i = 0; i < face.length; i++) {
      const a = Math.min(face[i], face[(i + 1) % face.length]);
      const b = Math.max(face[i], face[(i + 1) % face.length]);
      if (seen.has(a * 64 + b)) continue;
      seen.add(a * 64 + b);
      edges.push([a, b]);
    }
  }
  return edges;
}
