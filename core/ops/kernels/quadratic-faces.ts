import { CellList } from '../../fields/surfaces/cell-list.ts';
import { eachOuterFace, outerFaces, SURFACE_CELL } from '../../fields/surfaces/outer-faces.ts';
import { GrowingFloat32, GrowingUint32 } from '../../model/arrays.ts';
import { type CellType, cellTypes, POLYHEDRON, TRIANGLE } from '../../model/cell-types.ts';
import { edgeMiddles } from '../../model/edge-middles.ts';
import { type Mesh, meshDimension } from '../../model/mesh.ts';
import { copyOf, weighted } from '../../model/recipe.ts';
import type { OperationResult } from '../chain/operation.ts';

/** The node in the middle of an edge of a cell, or -1 when the type has none there. */
function middleOf(type: CellType, a: number, b: number): number {
  const at =
    edgeMiddles[type.name]?.findIndex(([p, q]) => (p === a && q === b) || (p === b && q === a)) ?? -1;
  return at < 0 ? -1 : type.corners + at;
}

/**
 * The outer faces with the faces of quadratic cells cut into 4^level flat pieces that follow their curve.
 *
 * Method: serendipity shape functions of the six-node triangle and the eight-node quadrilateral (Zienkiewicz, Taylor:
 * The Finite Element Method, chapter on shape functions; from memory). Nodes in the middle of faces are not used. What
 * lies on an edge is made once from its three nodes, so neighbouring faces meet.
 */
export function smoothOuterFaces(mesh: Mesh, level: number, labels: Uint16Array | null): OperationResult {
  const quadratic = (id: number): boolean =>
    cellTypes.get(id)?.name !== undefined && cellTypes.get(id)!.name in edgeMiddles;
  if (level < 1 || mesh.polyhedra || !mesh.types.some(quadratic)) return outerFaces(mesh, labels);
  const grid = new FaceGrid(mesh, 2 ** level);
  const visit = (cell: number, face: number): void => {
    const type = cellTypes.get(mesh.types[cell])!;
    if (type.id === POLYHEDRON) return;
    const corners =
      face === SURFACE_CELL ? Array.from({ length: type.corners }, (_, k) => k) : type.faces[face];
    if (corners.length === 3 || corners.length === 4) grid.add(cell, type, corners);
  };
  if (meshDimension(mesh.types) === 3) eachOuterFace(mesh, labels, visit);
  else
    for (let c = 0; c < mesh.types.length; c++)
      if (cellTypes.get(mesh.types[c])!.dimension === 2) visit(c, SURFACE_CELL);
  return grid.result();
}

const NODES = 8;

/** Cuts faces into small triangles and keeps what they share. */
class FaceGrid {
  private readonly list = new CellList();
  private readonly index = new GrowingUint32();
  private readonly weight = new GrowingFloat32();
  private readonly known = new Map<string, number>();
  private count = 0;

  constructor(
    private readonly mesh: Mesh,
    private readonly n: number,
  ) {}

  add(cell: number, type: CellType, corners: readonly number[]): void {
    const { connectivity, offsets } = this.mesh;
    const m = corners.length;
    const node = (k: number): number => connectivity[offsets[cell] + k];
    const mid = corners.map((c, k) => middleOf(type, c, corners[(k + 1) % m]));
    const nodes = [...corners.map(node), ...mid.map((k, i) => (k < 0 ? node(corners[i]) : node(k)))];
    const straight = mid.some((k) => k < 0);
    const make = m === 3 ? this.triangle(nodes, straight) : this.quad(nodes, straight);
    const { n } = this;
    const made = new Map<number, number>();
    const at = (i: number, j: number): number => {
      const place = j * (n + 1) + i;
      const known = made.get(place) ?? make(i, j);
      made.set(place, known);
      return known;
    };
    for (let j = 0; j < n; j++) {
      for (let i = 0; i < (m === 3 ? n - j : n); i++) {
        this.face(cell, at(i, j), at(i + 1, j), at(i, j + 1));
        if (m === 4 || i + j + 1 < n) this.face(cell, at(i + 1, j), at(i + 1, j + 1), at(i, j + 1));
      }
    }
  }

  result(): OperationResult {
    const { points: p } = this.mesh;
    const index = this.index.toArray();
    const weight = this.weight.toArray();
    const points = new Float32Array(3 * this.count);
    for (let v = 0; v < this.count; v++) {
      for (let k = 0; k < 3; k++) {
        let sum = 0;
        for (let i = NODES * v; i < NODES * (v + 1); i++) sum += weight[i] * p[3 * index[i] + k];
        points[3 * v + k] = sum;
      }
    }
    return {
      mesh: this.list.mesh(points),
      recipe: { points: weighted(NODES, index, weight), cells: copyOf(this.list.originCells()) },
    };
  }

  private face(cell: number, a: number, b: number, c: number): void {
    for (const v of [a, b, c]) this.list.node(v);
    this.list.finish(TRIANGLE, cell);
  }

  /** Shape functions of six nodes: corners L (2 L - 1), middles 4 L L'. */
  private triangle(nodes: number[], straight: boolean): (i: number, j: number) => number {
    const { n } = this;
    return (i, j) => {
      const l = [1 - (i + j) / n, i / n, j / n];
      const w = straight
        ? l
        : [...l.map((v) => v * (2 * v - 1)), 4 * l[0] * l[1], 4 * l[1] * l[2], 4 * l[2] * l[0]];
      return this.vertex(nodes, w, sideOf([i, j], n, 3), n);
    };
  }

  /** Eight nodes: corners (1 + xx')(1 + yy')(xx' + yy' - 1) / 4, middles (1 - x²)(1 + yy') / 2 and the like. */
  private quad(nodes: number[], straight: boolean): (i: number, j: number) => number {
    const { n } = this;
    const corner = [
      [-1, -1],
      [1, -1],
      [1, 1],
      [-1, 1],
    ];
    return (i, j) => {
      const [x, y] = [(2 * i) / n - 1, (2 * j) / n - 1];
      const bilinear = corner.map(([a, b]) => ((1 + x * a) * (1 + y * b)) / 4);
      const w = straight
        ? bilinear
        : [
            ...corner.map(([a, b], k) => bilinear[k] * (x * a + y * b - 1)),
            ((1 - x * x) * (1 - y)) / 2,
            ((1 + x) * (1 - y * y)) / 2,
            ((1 - x * x) * (1 + y)) / 2,
            ((1 - x) * (1 - y * y)) / 2,
          ];
      return this.vertex(nodes, w, sideOf([i, j], n, 4), n);
    };
  }

  private vertex(nodes: number[], w: number[], side: Side | null, n: number): number {
    const m = nodes.length / 2;
    let key: string | null = null;
    if (side) {
      const [a, b] = [nodes[side.edge], nodes[(side.edge + 1) % m]];
      if (side.at === 0) key = String(a);
      else if (side.at === n) key = String(b);
      else key = a < b ? `${a}/${b}/${side.at}` : `${b}/${a}/${n - side.at}`;
      const found = this.known.get(key);
      if (found !== undefined) return found;
    }
    for (let k = 0; k < NODES; k++) {
      this.index.push(k < w.length ? nodes[k] : nodes[0]);
      this.weight.push(k < w.length ? w[k] : 0);
    }
    if (key !== null) this.known.set(key, this.count);
    return this.count++;
  }
}

interface Side {
  edge: number;
  /** Steps from the first corner of the edge. */
  at: number;
}

/** Which edge of the face a grid place lies on, or null inside. */
function sideOf([i, j]: [number, number], n: number, corners: number): Side | null {
  if (j === 0) return { edge: 0, at: i };
  if (corners === 3) {
    if (i + j === n) return { edge: 1, at: j };
    return i === 0 ? { edge: 2, at: n - j } : null;
  }
  if (i === n) return { edge: 1, at: j };
  if (j === n) return { edge: 2, at: n - i };
  return i === 0 ? { edge: 3, at: n - j } : null;
}
