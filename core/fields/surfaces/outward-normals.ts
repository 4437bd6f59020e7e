import { cellTypes } from '../../model/cell-types.ts';
import { edgeMiddles } from '../../model/edge-middles.ts';
import { polygonNormals } from '../../model/mark-geometry.ts';
import { type Mesh, meshDimension } from '../../model/mesh.ts';
import { PairTable } from '../../model/pair-table.ts';
import { CellList } from './cell-list.ts';
import { type OuterFaces, outerFaces } from './outer-faces.ts';
import { type Loops, sharedLoops } from './shared-loops.ts';

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

/** Where something looks at its points, and which of them are at its free outside. */
export interface Outside {
  /** Of length one, three for each point; what is inside, and what has no outside, has none. */
  normals: Float32Array;
  /** 1 at points of faces that no neighbour shares. */
  free: Uint8Array;
}

/**
 * Where a body or a surface looks at each of its points, of length one: out of bodies, across surfaces, and out of what lies flat
 * along its border. Faces that it shares with a neighbour count only where there are no others, so that what goes on there looks
 * the same way on both sides of the seam.
 *
 * @param flat whether surfaces stand for a body that is the same all along the third direction
 * @param neighbours what it goes on in
 */
export function outsideOf(mesh: Mesh, flat: boolean, neighbours: readonly Mesh[] = []): Outside {
  const normals = new Float32Array(mesh.points.length).fill(Number.NaN);
  const free = new Uint8Array(mesh.points.length / 3);
  const dimension = meshDimension(mesh.types);
  if (dimension < 2) return { normals, free };
  const faces = outerFaces(mesh);
  const border = dimension === 2 && flat;
  const shared = sharedWith(faces.mesh, border, neighbours);
  addNormals(mesh, faces, border, shared && ((i) => shared[i] === 0), normals);
  for (let p = 0; p < free.length; p++) free[p] = Number(!Number.isNaN(normals[3 * p]));
  if (shared?.includes(1)) {
    const others = new Float32Array(normals.length).fill(Number.NaN);
    addNormals(mesh, faces, border, (i) => shared[i] === 1, others);
    for (let i = 0; i < normals.length; i++) if (Number.isNaN(normals[i])) normals[i] = others[i];
  }
  return { normals, free };
}

/** Which faces, or edges of the border, neighbours have as well; null without neighbours. */
function sharedWith(faces: Mesh, border: boolean, neighbours: readonly Mesh[]): Uint8Array | null {
  if (neighbours.length === 0) return null;
  const loopsOf = (of: Mesh): Loops => ({
    points: of.points,
    loops: border
      ? borderOf(of).map(({ a, b }) => [a, b])
      : Array.from({ length: of.types.length }, (_, c) => [
          ...of.connectivity.subarray(of.offsets[c], of.offsets[c + 1]),
        ]),
  });
  return sharedLoops(
    loopsOf(faces),
    neighbours.map((other) => loopsOf(outerFaces(other).mesh)),
  );
}

const borderOf = (faces: Mesh): FaceEdge[] => edgesOfFaces(faces).filter((e) => e.cell !== TWO);

/**
 * Normals at the points of some faces, or of some edges of the border.
 *
 * @param counts which of them, by their number; null for all
 */
function addNormals(
  mesh: Mesh,
  { mesh: whole, recipe }: OuterFaces,
  border: boolean,
  counts: ((i: number) => boolean) | null,
  out: Float32Array,
): void {
  const { index } = recipe.points;
  const faces = border || !counts ? whole : withCells(whole, counts);
  const edges = border ? borderOf(whole).filter((_, i) => counts?.(i) ?? true) : edgesOfFaces(faces);
  const normals = border ? normalsOfBorder(whole, edges) : normalsAtPoints(faces);
  for (const [i, point] of index.entries()) set(out, point, normals.subarray(3 * i, 3 * i + 3));
  addMiddles(mesh, edges, index, out);
}

/** Some of the cells of a mesh, with all its points. */
function withCells(mesh: Mesh, counts: (cell: number) => boolean): Mesh {
  const list = new CellList();
  for (let c = 0; c < mesh.types.length; c++) {
    if (!counts(c)) continue;
    for (let i = mesh.offsets[c]; i < mesh.offsets[c + 1]; i++) list.node(mesh.connectivity[i]);
    list.finish(mesh.types[c], c);
  }
  return list.mesh(mesh.points);
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
