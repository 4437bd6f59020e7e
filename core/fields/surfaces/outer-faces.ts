import { cellTypes, LINE, POLYGON, POLYHEDRON, QUAD, TRIANGLE, VERTEX } from '../../model/cell-types.ts';
import { boundsCentre, boundsOf, type Mesh, meshDimension, pointCount } from '../../model/mesh.ts';
import { copyOf, type Recipe } from '../../model/recipe.ts';
import { CellList } from './cell-list.ts';

/** Faces, lines and points as a mesh of their own, and from where in the other mesh each comes. */
export interface OuterFaces {
  mesh: Mesh;
  recipe: Recipe;
}

/**
 * The outer faces of volume cells, and surface, line and point cells as they are. A surface cell that lies on a
 * face of a volume cell is left out, because that face is drawn already.
 *
 * @param labels of each cell: faces between cells with different labels are drawn too
 */
export function outerFaces(mesh: Mesh, labels: Uint16Array | null = null): OuterFaces {
  const list = new CellList();
  const dimension = meshDimension(mesh.types);
  if (dimension === 3)
    eachOuterFace(mesh, labels, (cell, face) => {
      if (face === SURFACE_CELL) emitSurfaceCell(mesh, list, cell);
      else emitFace(mesh, list, cell, face);
    });
  else addSurfaceCells(mesh, list);
  addLinesAndPoints(mesh, list, dimension);
  return compacted(list, mesh);
}

/** Stands for the whole of a surface cell where faces of volumes have their number. */
export const SURFACE_CELL = 0xffffffff;

/** Mixes a node number; the sum over the nodes of a face does not depend on their order. */
const mix = (v: number): number => {
  const a = Math.imul(v ^ (v >>> 16), 0x7feb352d);
  return Math.imul(a ^ (a >>> 15), 0x846ca68b);
};

/**
 * Visits the faces that only one volume cell has, and free surface cells. A face of a polyhedron is known by its
 * place in the list of faces.
 *
 * Method: faces that wait for their other half lie in a hash table; the second cell that comes with the same face
 * takes it out again. In the order of most files few faces wait at a time, so the table stays small and in the cache.
 * Tried: a sort of all faces takes four times as long, a table of toggles for all faces six times.
 */
export function eachOuterFace(
  mesh: Mesh,
  labels: Uint16Array | null,
  visit: (cell: number, face: number) => void,
): void {
  const { types, offsets, connectivity, polyhedra } = mesh;
  const facesOf = flatFaces();
  const waiting = new FaceTable();
  const surfaces = hasSurfaceCells(types) ? new FaceTable() : null;
  const sumsOf = (nodes: Uint32Array, from: number, n: number): [number, number] => {
    let sum = 0;
    let plain = 0;
    for (let k = 0; k < n; k++) {
      sum = (sum + mix(nodes[from + k])) | 0;
      plain = (plain + nodes[from + k]) | 0;
    }
    return [sum, plain];
  };
  if (surfaces)
    for (let c = 0; c < types.length; c++) {
      const type = cellTypes.get(types[c])!;
      if (type.dimension !== 2) continue;
      const [sum, plain] = sumsOf(connectivity, offsets[c], type.corners || offsets[c + 1] - offsets[c]);
      surfaces.add(sum, plain, c, SURFACE_CELL);
    }
  const see = (sum: number, plain: number, cell: number, face: number): void => {
    surfaces?.mark(sum, plain);
    const other = waiting.takeOrAdd(sum, plain, cell, face);
    if (other >= 0 && labels && labels[other] !== labels[cell]) visit(cell, face);
  };
  const mixed = new Int32Array(64);
  for (let c = 0; c < types.length; c++) {
    const flat = facesOf[types[c]];
    if (flat) {
      const from = offsets[c];
      for (let i = 0; i < flat.corners; i++) mixed[i] = mix(connectivity[from + i]);
      const { starts, nodes } = flat;
      for (let f = 0; f + 1 < starts.length; f++) {
        let sum = 0;
        let plain = 0;
        for (let k = starts[f]; k < starts[f + 1]; k++) {
          sum = (sum + mixed[nodes[k]]) | 0;
          plain = (plain + connectivity[from + nodes[k]]) | 0;
        }
        see(sum, plain, c, f);
      }
    } else if (types[c] === POLYHEDRON) {
      const { faces, starts } = polyhedra!;
      for (let at = starts[c]; at < starts[c + 1]; at += faces[at] + 1) {
        const [sum, plain] = sumsOf(faces, at + 1, faces[at]);
        see(sum, plain, c, at);
      }
    }
  }
  waiting.each(visit);
  // A surface cell on a face of a volume is drawn with that face, or lies inside.
  surfaces?.each(visit);
}

function hasSurfaceCells(types: Uint8Array): boolean {
  const flat = Uint8Array.from({ length: 256 }, (_, id) => Number(cellTypes.get(id)?.dimension === 2));
  for (let c = 0; c < types.length; c++) if (flat[types[c]] === 1) return true;
  return false;
}

interface FlatFaces {
  corners: number;
  starts: Uint8Array;
  nodes: Uint8Array;
}

let flattened: (FlatFaces | null)[] | null = null;

/** Faces of the volume types as flat lists; null for polyhedra and what is no volume. */
function flatFaces(): (FlatFaces | null)[] {
  flattened ??= Array.from({ length: 256 }, (_, id) => {
    const type = cellTypes.get(id);
    if (type?.dimension !== 3 || type.faces.length === 0) return null;
    const starts = [0];
    for (const face of type.faces) starts.push(starts[starts.length - 1] + face.length);
    return {
      corners: type.corners,
      starts: Uint8Array.from(starts),
      nodes: Uint8Array.from(type.faces.flat()),
    };
  });
  return flattened;
}

/** Faces by two numbers made from their nodes, in a hash table with open places. */
class FaceTable {
  private size = 0;
  private sums = new Int32Array(4096);
  private plains = new Int32Array(4096);
  private cells = new Uint32Array(4096);
  private faces = new Uint32Array(4096);
  /** 0 free, 1 taken, 2 taken and marked. */
  private state = new Uint8Array(4096);

  add(sum: number, plain: number, cell: number, face: number): void {
    this.put(this.slotOf(sum, plain), sum, plain, cell, face, 1);
  }

  /** Marks a face that is there; it is not visited in the end. */
  mark(sum: number, plain: number): void {
    const slot = this.slotOf(sum, plain);
    if (this.state[slot] === 1) this.state[slot] = 2;
  }

  /** Takes the same face out and gives its cell; when it is not there, puts this one in and gives -1. */
  takeOrAdd(sum: number, plain: number, cell: number, face: number): number {
    const slot = this.slotOf(sum, plain);
    if (this.state[slot] === 0) {
      this.put(slot, sum, plain, cell, face, 1);
      return -1;
    }
    const other = this.cells[slot];
    this.remove(slot);
    return other;
  }

  /** In the order of their cells. */
  each(visit: (cell: number, face: number) => void): void {
    const slots: number[] = [];
    for (let s = 0; s < this.state.length; s++) if (this.state[s] === 1) slots.push(s);
    slots.sort((a, b) => this.cells[a] - this.cells[b] || this.faces[a] - this.faces[b]);
    for (const s of slots) visit(this.cells[s], this.faces[s]);
  }

  private home(sum: number, plain: number): number {
    return (sum ^ (sum >>> 15) ^ Math.imul(plain, 0x9e3779b1)) & (this.state.length - 1);
  }

  private slotOf(sum: number, plain: number): number {
    const mask = this.state.length - 1;
    let slot = this.home(sum, plain);
    while (this.state[slot] !== 0 && (this.sums[slot] !== sum || this.plains[slot] !== plain))
      slot = (slot + 1) & mask;
    return slot;
  }

  private put(slot: number, sum: number, plain: number, cell: number, face: number, state: number): void {
    this.sums[slot] = sum;
    this.plains[slot] = plain;
    this.cells[slot] = cell;
    this.faces[slot] = face;
    this.state[slot] = state;
    this.size++;
    if (this.size * 2 > this.state.length) this.grow();
  }

  /** Those behind move up, so that every face is found on the way from its home. */
  private remove(slot: number): void {
    const mask = this.state.length - 1;
    this.size--;
    let hole = slot;
    for (let s = (slot + 1) & mask; this.state[s] !== 0; s = (s + 1) & mask) {
      const home = this.home(this.sums[s], this.plains[s]);
      if (((s - home) & mask) < ((s - hole) & mask)) continue;
      this.sums[hole] = this.sums[s];
      this.plains[hole] = this.plains[s];
      this.cells[hole] = this.cells[s];
      this.faces[hole] = this.faces[s];
      this.state[hole] = this.state[s];
      hole = s;
    }
    this.state[hole] = 0;
  }

  private grow(): void {
    const { sums, plains, cells, faces, state } = this;
    const n = state.length * 2;
    this.sums = new Int32Array(n);
    this.plains = new Int32Array(n);
    this.cells = new Uint32Array(n);
    this.faces = new Uint32Array(n);
    this.state = new Uint8Array(n);
    this.size = 0;
    for (let s = 0; s < state.length; s++)
      if (state[s])
        this.put(this.slotOf(sums[s], plains[s]), sums[s], plains[s], cells[s], faces[s], state[s]);
  }
}

function emitFace(mesh: Mesh, list: CellList, cell: number, face: number): void {
  const { types, offsets, connectivity, points } = mesh;
  const type = cellTypes.get(types[cell])!;
  if (type.id === POLYHEDRON) {
    emitPolyhedronFace(mesh, list, cell, face);
    return;
  }
  const corners = type.faces[face];
  const from = offsets[cell];
  const outward = looksOutward(points, corners, type.corners, (k) => connectivity[from + k]);
  const n = corners.length;
  for (let k = 0; k < n; k++) list.node(connectivity[from + corners[outward ? k : n - 1 - k]]);
  list.finish(n === 3 ? TRIANGLE : n === 4 ? QUAD : POLYGON, cell);
}

function emitPolyhedronFace(mesh: Mesh, list: CellList, cell: number, at: number): void {
  const { points, offsets, connectivity } = mesh;
  const { faces } = mesh.polyhedra!;
  const n = faces[at];
  const corners = offsets[cell + 1] - offsets[cell];
  const loop = Array.from({ length: n }, (_, k) => corners + k);
  const node = (k: number): number =>
    k < corners ? connectivity[offsets[cell] + k] : faces[at + 1 + k - corners];
  const outward = looksOutward(points, loop, corners, node);
  for (let k = 0; k < n; k++) list.node(faces[at + 1 + (outward ? k : n - 1 - k)]);
  list.finish(n === 3 ? TRIANGLE : n === 4 ? QUAD : POLYGON, cell);
}

/** Whether the face, in its own order, turns its front away from the middle of the cell. */
function looksOutward(
  p: Float32Array,
  face: readonly number[],
  corners: number,
  node: (k: number) => number,
): boolean {
  const middle = [0, 0, 0];
  for (let k = 0; k < corners; k++) for (let i = 0; i < 3; i++) middle[i] += p[3 * node(k) + i] / corners;
  const at = (k: number, i: number): number => p[3 * node(face[k % face.length]) + i] - middle[i];
  let volume = 0;
  for (let k = 1; k + 1 < face.length; k++) {
    const [ax, ay, az] = [at(0, 0), at(0, 1), at(0, 2)];
    const [bx, by, bz] = [at(k, 0), at(k, 1), at(k, 2)];
    const [cx, cy, cz] = [at(k + 1, 0), at(k + 1, 1), at(k + 1, 2)];
    volume += ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx);
  }
  return volume >= 0;
}

/**
 * Surface cells as they are; a closed surface whose normals look inward is turned over, so that its outside is where
 * everybody expects it (divergence theorem: its volume would be negative).
 */
function addSurfaceCells(mesh: Mesh, list: CellList): void {
  const turn = enclosedVolume(mesh) < 0;
  for (let c = 0; c < mesh.types.length; c++) {
    if (cellTypes.get(mesh.types[c])!.dimension === 2) emitSurfaceCell(mesh, list, c, turn);
  }
}

function enclosedVolume({ types, offsets, connectivity, points: p }: Mesh): number {
  const b = boundsOf(p);
  const [mx, my, mz] = boundsCentre(b);
  let volume = 0;
  for (let c = 0; c < types.length; c++) {
    const type = cellTypes.get(types[c])!;
    // Strips and pixels are rare and flat ones have no inside.
    if (type.dimension !== 2 || type.name === 'strip' || type.loop.length > 0) continue;
    const n = type.corners || offsets[c + 1] - offsets[c];
    const a = 3 * connectivity[offsets[c]];
    for (let k = 1; k + 1 < n; k++) {
      const q = 3 * connectivity[offsets[c] + k];
      const r = 3 * connectivity[offsets[c] + k + 1];
      const [ax, ay, az] = [p[a] - mx, p[a + 1] - my, p[a + 2] - mz];
      const [bx, by, bz] = [p[q] - mx, p[q + 1] - my, p[q + 2] - mz];
      const [cx, cy, cz] = [p[r] - mx, p[r + 1] - my, p[r + 2] - mz];
      volume += ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx);
    }
  }
  // An open or flat surface encloses next to nothing.
  const box = (b[1] - b[0]) * (b[3] - b[2]) * (b[5] - b[4]);
  return Math.abs(volume) < 0.03 * box ? 0 : volume;
}

function emitSurfaceCell(mesh: Mesh, list: CellList, cell: number, turn = false): void {
  const { types, offsets, connectivity } = mesh;
  const type = cellTypes.get(types[cell])!;
  const from = offsets[cell];
  const n = type.corners || offsets[cell + 1] - from;
  if (type.name === 'strip') {
    for (let i = 0; i + 2 < n; i++) {
      const turned = i % 2;
      list.node(connectivity[from + i]);
      list.node(connectivity[from + i + 1 + turned]);
      list.node(connectivity[from + i + 2 - turned]);
      list.finish(TRIANGLE, cell);
    }
    return;
  }
  for (let i = 0; i < n; i++) {
    const k = turn ? n - 1 - i : i;
    list.node(connectivity[from + (type.loop.length > 0 ? type.loop[k] : k)]);
  }
  list.finish(n === 3 ? TRIANGLE : n === 4 ? QUAD : POLYGON, cell);
}

/** Lines and points are kept unless they lie within the bodies or surfaces of the same mesh. */
function addLinesAndPoints(mesh: Mesh, list: CellList, dimension: number): void {
  const { types, offsets, connectivity } = mesh;
  const slender = Uint8Array.from({ length: 256 }, (_, id) =>
    Number((cellTypes.get(id)?.dimension ?? 2) < 2),
  );
  if (!types.some((id) => slender[id] === 1)) return;
  const covered = new Uint8Array(pointCount(mesh));
  if (dimension >= 2) {
    for (let c = 0; c < types.length; c++) {
      if (cellTypes.get(types[c])!.dimension < 2) continue;
      for (let i = offsets[c]; i < offsets[c + 1]; i++) covered[connectivity[i]] = 1;
    }
  }
  for (let c = 0; c < types.length; c++) {
    const type = cellTypes.get(types[c])!;
    if (type.dimension > 1) continue;
    const n = type.corners || offsets[c + 1] - offsets[c];
    const node = (k: number): number => connectivity[offsets[c] + k];
    if (type.dimension === 1) {
      for (let k = 0; k + 1 < n; k++) {
        if (covered[node(k)] && covered[node(k + 1)]) continue;
        list.node(node(k));
        list.node(node(k + 1));
        list.finish(LINE, c);
      }
    } else {
      for (let k = 0; k < n; k++) {
        if (covered[node(k)]) continue;
        list.node(node(k));
        list.finish(VERTEX, c);
      }
    }
  }
}

/** Leaves out the points no face uses and writes the copy recipe. */
function compacted(list: CellList, mesh: Mesh): OuterFaces {
  const result = list.mesh(mesh.points);
  const renumber = new Int32Array(pointCount(mesh)).fill(-1);
  let used = 0;
  for (let i = 0; i < result.connectivity.length; i++) {
    const p = result.connectivity[i];
    if (renumber[p] < 0) renumber[p] = used++;
    result.connectivity[i] = renumber[p];
  }
  const index = new Uint32Array(used);
  const points = new Float32Array(used * 3);
  for (let p = 0; p < renumber.length; p++) {
    const to = renumber[p];
    if (to < 0) continue;
    index[to] = p;
    points[3 * to] = mesh.points[3 * p];
    points[3 * to + 1] = mesh.points[3 * p + 1];
    points[3 * to + 2] = mesh.points[3 * p + 2];
  }
  return {
    mesh: { ...result, points },
    recipe: { points: copyOf(index), cells: copyOf(list.originCells()) },
  };
}
