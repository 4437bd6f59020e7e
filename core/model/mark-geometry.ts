import { GrowingFloat32, GrowingUint32 } from './arrays.ts';
import { cellTypes } from './cell-types.ts';
import type { Mesh } from './mesh.ts';
import { PairTable } from './pair-table.ts';

/** Vertices, and the point and the cell of the mesh behind each of them. */
export interface Vertices {
  positions: Float32Array;
  vertexPoint: Uint32Array;
  /** Only meaningful when built for cell fields, where no two cells share a vertex. */
  vertexCell: Uint32Array;
}

/** Triangles ready for the graphics card. */
export interface SurfaceGeometry extends Vertices {
  normals: Float32Array;
  triangles: Uint32Array;
  /** Mesh cell of each triangle. */
  triangleCells: Uint32Array;
  /** The edges of the faces as vertex pairs, each once. */
  edges: Uint32Array;
}

/** Lines as pairs of vertices, or dots as single ones. */
export interface CornerGeometry extends Vertices {
  elements: Uint32Array;
}

/** Faces that meet at a sharper angle than this keep a visible edge. Common practice, no source. */
const CREASE = 40;

/**
 * Triangulates the polygons of a mesh (as fans) and gives every vertex a normal: smooth within a crease angle,
 * sharp beyond it. Lines and points of the mesh are passed over.
 *
 * @param withEdges whether the edges of the faces are wanted
 * @param crease faces that meet at a larger angle keep a sharp edge, in degrees
 * @param perCell whether every cell needs vertices of its own, as fields on cells do
 * @param smooth where the surface looks at each point, up to the sign, when that is known better than by its faces
 */
export function buildSurface(
  mesh: Mesh,
  perCell: boolean,
  withEdges = true,
  crease = CREASE,
  smooth: Float32Array | null = null,
): SurfaceGeometry {
  const { types, offsets, connectivity, points } = mesh;
  const faceNormals = polygonNormals(mesh);
  const vertexPoint = new GrowingUint32();
  const vertexCell = new GrowingUint32();
  const triangles = new GrowingUint32(4096);
  const triangleCells = new GrowingUint32();
  const edges = new EdgeSet();
  const vertexOfCorner = new Uint32Array(connectivity.length);
  const least = smooth ? -2 : Math.cos((crease * Math.PI) / 180);
  const shared = perCell ? null : new VerticesByPoint(points.length / 3, least);
  const sums = new VertexSums();

  const vertexFor = (point: number, cell: number): number => {
    const known = shared?.find(point, cell, faceNormals, sums);
    if (known !== undefined && known >= 0) return known;
    const v = vertexPoint.length;
    vertexPoint.push(point);
    vertexCell.push(cell);
    sums.begin(faceNormals, cell);
    shared?.add(point, v);
    return v;
  };

  for (let c = 0; c < types.length; c++) {
    if (cellTypes.get(types[c])!.dimension !== 2) continue;
    const from = offsets[c];
    const to = offsets[c + 1];
    for (let i = from; i < to; i++) {
      const v = vertexFor(connectivity[i], c);
      vertexOfCorner[i] = v;
      sums.add(v, faceNormals, c);
    }
    for (let i = from + 1; i + 1 < to; i++) {
      triangles.push(vertexOfCorner[from]);
      triangles.push(vertexOfCorner[i]);
      triangles.push(vertexOfCorner[i + 1]);
      triangleCells.push(c);
    }
    for (let i = from; withEdges && i < to; i++) {
      const j = i + 1 === to ? from : i + 1;
      edges.add(connectivity[i], connectivity[j], vertexOfCorner[i], vertexOfCorner[j]);
    }
  }

  const n = vertexPoint.length;
  const normals = new Float32Array(3 * n);
  for (let v = 0; v < n; v++) {
    const x = sums.data.data[6 * v];
    const y = sums.data.data[6 * v + 1];
    const z = sums.data.data[6 * v + 2];
    const length = Math.hypot(x, y, z) || 1;
    normals[3 * v] = x / length;
    normals[3 * v + 1] = y / length;
    normals[3 * v + 2] = z / length;
    if (smooth) takeKnown(normals, 3 * v, smooth, 3 * vertexPoint.data[v]);
  }
  return {
    ...placed(points, vertexPoint, vertexCell),
    normals,
    triangles: triangles.toArray(),
    triangleCells: triangleCells.toArray(),
    edges: edges.toArray(),
  };
}

/** Puts a known direction in place of one found from faces, on the same side; a direction without length tells nothing. */
function takeKnown(normals: Float32Array, at: number, known: Float32Array, from: number): void {
  const [x, y, z] = [known[from], known[from + 1], known[from + 2]];
  const length = Math.hypot(x, y, z);
  if (!(length > 1e-6)) return;
  const along = x * normals[at] + y * normals[at + 1] + z * normals[at + 2];
  const share = (along < 0 ? -1 : 1) / length;
  normals[at] = x * share;
  normals[at + 1] = y * share;
  normals[at + 2] = z * share;
}

/**
 * The lines (`dimension` 1) or the points (0) of a mesh with vertices of their own.
 *
 * @param perCell whether every cell needs vertices of its own, as fields on cells do
 */
export function buildCorners(mesh: Mesh, dimension: 0 | 1, perCell: boolean): CornerGeometry {
  const { types, offsets, connectivity, points } = mesh;
  const vertexPoint = new GrowingUint32();
  const vertexCell = new GrowingUint32();
  const elements = new GrowingUint32();
  const known = perCell ? null : new Int32Array(points.length / 3).fill(-1);
  const vertexFor = (point: number, cell: number): number => {
    if (known && known[point] >= 0) return known[point];
    const v = vertexPoint.length;
    vertexPoint.push(point);
    vertexCell.push(cell);
    if (known) known[point] = v;
    return v;
  };
  for (let c = 0; c < types.length; c++) {
    if (cellTypes.get(types[c])!.dimension !== dimension) continue;
    let before = -1;
    for (let i = offsets[c]; i < offsets[c + 1]; i++) {
      const v = vertexFor(connectivity[i], c);
      if (dimension === 0) elements.push(v);
      else if (before >= 0) {
        elements.push(before);
        elements.push(v);
      }
      before = v;
    }
  }
  return { ...placed(points, vertexPoint, vertexCell), elements: elements.toArray() };
}

function placed(points: Float32Array, vertexPoint: GrowingUint32, vertexCell: GrowingUint32): Vertices {
  const n = vertexPoint.length;
  const positions = new Float32Array(3 * n);
  for (let v = 0; v < n; v++) {
    const p = vertexPoint.data[v];
    positions[3 * v] = points[3 * p];
    positions[3 * v + 1] = points[3 * p + 1];
    positions[3 * v + 2] = points[3 * p + 2];
  }
  return { positions, vertexPoint: vertexPoint.toArray(), vertexCell: vertexCell.toArray() };
}

/**
 * Normals of polygons by Newell's sum; zero for lines and points.
 *
 * @param unit of length one; otherwise twice the area long
 */
export function polygonNormals(mesh: Mesh, unit = true): Float32Array {
  const { types, offsets, connectivity, points: p } = mesh;
  const out = new Float32Array(types.length * 3);
  for (let c = 0; c < types.length; c++) {
    if (cellTypes.get(types[c])!.dimension !== 2) continue;
    let x = 0;
    let y = 0;
    let z = 0;
    for (let i = offsets[c]; i < offsets[c + 1]; i++) {
      const a = 3 * connectivity[i];
      const b = 3 * connectivity[i + 1 === offsets[c + 1] ? offsets[c] : i + 1];
      x += (p[a + 1] - p[b + 1]) * (p[a + 2] + p[b + 2]);
      y += (p[a + 2] - p[b + 2]) * (p[a] + p[b]);
      z += (p[a] - p[b]) * (p[a + 1] + p[b + 1]);
    }
    const length = unit ? Math.hypot(x, y, z) || 1 : 1;
    out[3 * c] = x / length;
    out[3 * c + 1] = y / length;
    out[3 * c + 2] = z / length;
  }
  return out;
}

/** For each vertex: the sum of the normals around it, and the normal of the face it was made for. */
class VertexSums {
  readonly data = new GrowingFloat32(6144);
  begin(normals: Float32Array, cell: number): void {
    for (let k = 0; k < 3; k++) this.data.push(0);
    for (let k = 0; k < 3; k++) this.data.push(normals[3 * cell + k]);
  }
  add(vertex: number, normals: Float32Array, cell: number): void {
    for (let k = 0; k < 3; k++) this.data.data[6 * vertex + k] += normals[3 * cell + k];
  }
  /** Cosine between the first face of a vertex and another face. */
  along(vertex: number, normals: Float32Array, cell: number): number {
    const s = this.data.data;
    const at = 6 * vertex + 3;
    return s[at] * normals[3 * cell] + s[at + 1] * normals[3 * cell + 1] + s[at + 2] * normals[3 * cell + 2];
  }
}

/** The vertices made so far at each point, as linked lists. */
class VerticesByPoint {
  private readonly head: Int32Array;
  private readonly next = new GrowingUint32();
  /** @param least cosine of the angle up to which faces share a vertex */
  constructor(
    points: number,
    private readonly least: number,
  ) {
    this.head = new Int32Array(points).fill(-1);
  }
  /** A vertex at `point` whose face looks nearly the same way as `cell`, or -1. */
  find(point: number, cell: number, normals: Float32Array, sums: VertexSums): number {
    for (let v = this.head[point]; v >= 0; v = this.next.data[v] - 1) {
      const dot = sums.along(v, normals, cell);
      if (dot >= this.least) return v;
    }
    return -1;
  }
  add(point: number, vertex: number): void {
    this.next.push(this.head[point] + 1);
    this.head[point] = vertex;
  }
}

/** Pairs of vertices, kept once for each pair of points. */
class EdgeSet {
  private readonly known = new PairTable();
  private readonly pairs = new GrowingUint32(4096);

  add(pointA: number, pointB: number, vertexA: number, vertexB: number): void {
    const { count } = this.known;
    if (this.known.at(Math.min(pointA, pointB), Math.max(pointA, pointB)) < count) return;
    this.pairs.push(vertexA);
    this.pairs.push(vertexB);
  }

  toArray(): Uint32Array {
    return this.pairs.toArray();
  }
}
