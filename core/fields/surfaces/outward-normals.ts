import { cellTypes } from '../../model/cell-types.ts';
import { edgeMiddles } from '../../model/edge-middles.ts';
import { polygonNormals } from '../../model/mark-geometry.ts';
import { type Mesh, meshDimension } from '../../model/mesh.ts';
import { PairTable } from '../../model/pair-table.ts';
import { outerFaces } from './outer-faces.ts';

/** At each point of faces, of length one: the mean of the faces around it by their areas. Zero where there is none. */
export function normalsAtPoints(faces: Mesh): Float32Array {
  const ofFaces = polygonNormals(faces, false);
  const out = new Float32Array(faces.points.length);
  for (let c = 0; c < faces.types.length; c++)
    for (let i = faces.offsets[c]; i < faces.offsets[c + 1]; i++)
      for (let k = 0; k < 3; k++) out[3 * faces.connectivity[i] + k] += ofFaces[3 * c + k];
  for (let i = 0; i < out.length; i += 3) {
    const length = Math.hypot(out[i], out[i + 1], out[i + 2]) || 1;
    for (let k = 0; k < 3; k++) out[i + k] /= length;
  }
  return out;
}

/**
 * Where a body or a surface looks at each of its points, of length one: out of bodies, across surfaces, and out of what lies flat
 * along its border. What is inside, and what has no outside, has none.
 *
 * @param flat whether surfaces stand for a body that is the same all along the third direction
 */
export function outwardNormals(mesh: Mesh, flat: boolean): Float32Array {
  const out = new Float32Array(mesh.points.length).fill(Number.NaN);
  const dimension = meshDimension(mesh.types);
  if (dimension < 2) return out;
  const { mesh: faces, recipe } = outerFaces(mesh);
  const { index } = recipe.points;
  const edges = edgesOfFaces(faces);
  const along = dimension === 2 && flat ? edges.filter((e) => e.cell !== TWO) : edges;
  const normals = along === edges ? normalsAtPoints(faces) : normalsOfBorder(faces, along);
  for (const [i, point] of index.entries()) set(out, point, normals.subarray(3 * i, 3 * i + 3));
  addMiddles(mesh, along, index, out);
  return out;
}

/** Of length one; what has none stays so. */
function set(out: Float32Array, point: number, [x, y, z]: ArrayLike<number> & Iterable<number>): void {
  const length = Math.hypot(x, y, z);
  if (length > 0) out.set([x / length, y / length, z / length], 3 * point);
}

interface FaceEdge {
  a: number;
  b: number;
  /** The cell that has it, or `TWO` where more than one does. */
  cell: number;
}

const TWO = -1;

/** The edges of faces, each once, as their first face walks them. */
function edgesOfFaces({ types, offsets, connectivity }: Mesh): FaceEdge[] {
  const numbers = new PairTable(4096);
  const edges: FaceEdge[] = [];
  for (let c = 0; c < types.length; c++) {
    if (cellTypes.get(types[c])!.dimension !== 2) continue;
    for (let i = offsets[c]; i < offsets[c + 1]; i++) {
      const [a, b] = [connectivity[i], connectivity[i + 1 === offsets[c + 1] ? offsets[c] : i + 1]];
      const e = numbers.at(Math.min(a, b), Math.max(a, b));
      if (e === edges.length) edges.push({ a, b, cell: c });
      else edges[e].cell = TWO;
    }
  }
  return edges;
}

/** Across edges that only one face has, in its plane, by their lengths. */
function normalsOfBorder(faces: Mesh, border: readonly FaceEdge[]): Float32Array {
  const { points } = faces;
  const normals = polygonNormals(faces);
  const out = new Float32Array(points.length);
  for (const { a, b, cell } of border) {
    const [x, y, z] = [0, 1, 2].map((k) => points[3 * b + k] - points[3 * a + k]);
    const [nx, ny, nz] = normals.subarray(3 * cell, 3 * cell + 3);
    const across = [y * nz - z * ny, z * nx - x * nz, x * ny - y * nx];
    for (const p of [a, b]) for (let k = 0; k < 3; k++) out[3 * p + k] += across[k];
  }
  return out;
}

/** Nodes in the middle of edges of quadratic cells look as the mean of both ends do. */
function addMiddles(
  { types, offsets, connectivity }: Mesh,
  edges: readonly FaceEdge[],
  index: Uint32Array,
  out: Float32Array,
): void {
  if (!types.some((id) => cellTypes.get(id)!.name in edgeMiddles)) return;
  const outer = new Set(edges.map(({ a, b }) => pairName(index[a], index[b])));
  for (let c = 0; c < types.length; c++) {
    const type = cellTypes.get(types[c])!;
    for (const [k, [p, q]] of (edgeMiddles[type.name] ?? []).entries()) {
      const [a, b] = [connectivity[offsets[c] + p], connectivity[offsets[c] + q]];
      if (!outer.has(pairName(a, b))) continue;
      const middle = connectivity[offsets[c] + type.corners + k];
      set(
        out,
        middle,
        [0, 1, 2].map((i) => out[3 * a + i] + out[3 * b + i]),
      );
    }
  }
}

const pairName = (a: number, b: number): number => Math.min(a, b) * 2 ** 32 + Math.max(a, b);
