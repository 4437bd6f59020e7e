import type { NumberArray } from '../../model/arrays.ts';
import type { FieldHeader } from '../../model/field.ts';
import type { OpenedMesh, RawMesh } from '../format.ts';
import type { Findings } from './findings.ts';
import { once } from './opened-run.ts';

/** Cell flags of the VTK file format that mark copies, refined and hidden cells. */
const LEFT_OUT_CELL = 1 | 8 | 32;
const COPIED_POINT = 1;

const ghostName = /^vtkGhost(Type|Levels)$/;
const pointIdName = /^(GlobalNodeIds?|GlobalPointIds?|GlobalNodeID|vtkOriginalPointIds_global)$/;

interface Joined {
  mesh: RawMesh;
  /** For each joined point: its piece and its place there. */
  pointPiece: Uint32Array;
  pointIndex: Uint32Array;
  /** For each piece: the cells that stay. */
  keptCells: Uint32Array[];
}

/** Whether a mesh carries marks of ghost cells. */
const hasGhosts = (mesh: OpenedMesh): boolean => mesh.fields.some((f) => ghostName.test(f.name));

/** A part as one mesh: as it stands when it is whole and has no ghost cells, joined otherwise. */
export const wholeMesh = (pieces: OpenedMesh[], findings: Findings): OpenedMesh =>
  pieces.length > 1 || pieces.some(hasGhosts) ? joinPieces(pieces, findings) : pieces[0];

/**
 * Partitions as one mesh: ghost and hidden cells are dropped, points that stand in several partitions are merged (by
 * their global ids where every partition has them, else by equal coordinates), and fields follow.
 * One partition alone is freed of its ghost cells.
 */
export function joinPieces(pieces: OpenedMesh[], findings: Findings): OpenedMesh {
  const joined = once(() => join(pieces, findings));
  const fields = jointFields(pieces, findings);
  const ghosts = pieces.some(hasGhosts);
  const plain = (key: 'points' | 'cells'): number => pieces.reduce((n, p) => n + p[key], 0);
  return {
    get points() {
      return ghosts || pieces.length > 1 ? joined().mesh.points.length / 3 : plain('points');
    },
    get cells() {
      return ghosts ? joined().mesh.types.length : plain('cells');
    },
    fields,
    meshKey: null,
    readMesh: () => joined().mesh,
    readField(index) {
      const field = fields[index];
      return field.location === 'point'
        ? gatherPoints(pieces, field, joined())
        : gatherCells(pieces, field, joined());
    },
  };
}

function jointFields(pieces: OpenedMesh[], findings: Findings): FieldHeader[] {
  const out: FieldHeader[] = [];
  for (const piece of pieces) {
    for (const f of piece.fields) {
      if (ghostName.test(f.name) || out.some((o) => sameField(o, f))) continue;
      const having = pieces.filter((p) => p.fields.some((g) => sameField(g, f))).length;
      if (having < pieces.length)
        findings.add(`${f.name} is in ${having} of ${pieces.length} partitions; elsewhere it has no value`);
      out.push(f);
    }
  }
  return out;
}

const sameField = (a: FieldHeader, b: FieldHeader): boolean =>
  a.name === b.name && a.location === b.location && a.components === b.components;

function fieldOf(piece: OpenedMesh, test: (f: FieldHeader) => boolean): NumberArray | null {
  const index = piece.fields.findIndex(test);
  return index < 0 ? null : piece.readField(index);
}

function join(pieces: OpenedMesh[], findings: Findings): Joined {
  const meshes = pieces.map((p) => p.readMesh());
  const keptCells = pieces.map((piece, i) => {
    const flags = fieldOf(piece, (f) => f.location === 'cell' && ghostName.test(f.name));
    const levels = piece.fields.some((f) => f.name === 'vtkGhostLevels');
    return keep(meshes[i].types.length, flags, levels);
  });
  const dropped = keptCells.reduce((n, k, i) => n + meshes[i].types.length - k.length, 0);
  if (dropped > 0) findings.add(`${dropped} ghost or hidden cells were dropped`);
  const used = meshes.map((m, i) => usedPoints(m, keptCells[i]));
  const { maps, pointPiece, pointIndex } = mergePoints(pieces, meshes, used);
  const merged = used.reduce((n, u) => n + u.reduce((a, b) => a + b, 0), 0) - pointIndex.length;
  if (merged > 0) findings.add(`${merged} doubled points at the borders of partitions were merged`);
  return {
    mesh: assemble(meshes, keptCells, maps, pointPiece, pointIndex),
    pointPiece,
    pointIndex,
    keptCells,
  };
}

function keep(cells: number, flags: NumberArray | null, levels: boolean): Uint32Array {
  const out = new Uint32Array(cells);
  let n = 0;
  for (let c = 0; c < cells; c++) {
    if (flags && (levels ? flags[c] > 0 : flags[c] & LEFT_OUT_CELL)) continue;
    out[n++] = c;
  }
  return out.subarray(0, n);
}

/** Points of kept cells, and points no cell uses at all; what only dropped cells use goes. */
function usedPoints(mesh: RawMesh, kept: Uint32Array): Uint8Array {
  const used = new Uint8Array(mesh.points.length / 3);
  if (kept.length === mesh.types.length) return used.fill(1);
  used.fill(1);
  for (let i = 0; i < mesh.connectivity.length; i++) used[mesh.connectivity[i]] = 0;
  for (const c of kept) {
    for (let i = mesh.offsets[c]; i < mesh.offsets[c + 1]; i++) used[mesh.connectivity[i]] = 1;
  }
  return used;
}

function mergePoints(pieces: OpenedMesh[], meshes: RawMesh[], used: Uint8Array[]) {
  const maps = meshes.map((m) => new Int32Array(m.points.length / 3).fill(-1));
  const total = used.reduce((n, u) => n + u.reduce((a, b) => a + b, 0), 0);
  const pointPiece = new Uint32Array(total);
  const pointIndex = new Uint32Array(total);
  const ids =
    pieces.length > 1
      ? pieces.map((p) => fieldOf(p, (f) => f.location === 'point' && pointIdName.test(f.name)))
      : [];
  const byId = ids.length > 0 && ids.every((i) => i !== null) ? new Map<number, number>() : null;
  const byPlace = byId || pieces.length === 1 ? null : new PointTable(total, meshes, pointPiece, pointIndex);
  let n = 0;
  for (const [i, mesh] of meshes.entries()) {
    const copies = fieldOf(pieces[i], (f) => f.location === 'point' && ghostName.test(f.name));
    const begin = n;
    for (let p = 0; p < used[i].length; p++) {
      if (!used[i][p]) continue;
      const id = byId ? ids[i]![p] : 0;
      const known = byId?.get(id) ?? byPlace?.find(mesh.points, p, begin) ?? -1;
      if (known >= 0) {
        maps[i][p] = known;
        // A copy that is not marked as one holds the values that count.
        if (copies && !(copies[p] & COPIED_POINT)) {
          pointPiece[known] = i;
          pointIndex[known] = p;
        }
        continue;
      }
      maps[i][p] = n;
      pointPiece[n] = i;
      pointIndex[n] = p;
      byId?.set(id, n);
      n++;
    }
    if (byPlace) for (let q = begin; q < n; q++) byPlace.add(q);
  }
  return { maps, pointPiece: pointPiece.slice(0, n), pointIndex: pointIndex.slice(0, n) };
}

/** Points found by equal coordinates: an open-addressed table over the bits of x, y and z. */
class PointTable {
  private readonly slots: Int32Array;
  private readonly mask: number;
  private readonly words = new Uint32Array(6);
  private readonly numbers = new Float64Array(this.words.buffer);

  constructor(
    total: number,
    private readonly meshes: RawMesh[],
    private readonly piece: Uint32Array,
    private readonly index: Uint32Array,
  ) {
    let size = 16;
    while (size < 2 * total) size *= 2;
    this.slots = new Int32Array(size).fill(-1);
    this.mask = size - 1;
  }

  private hash(points: ArrayLike<number>, p: number): number {
    let h = 2166136261;
    for (let k = 0; k < 3; k++) this.numbers[k] = points[3 * p + k] + 0;
    for (let k = 0; k < 6; k++) h = Math.imul(h ^ this.words[k], 16777619) ^ (h >>> 15);
    return h & this.mask;
  }

  /** A joined point before `before` at the same place, or -1. */
  find(points: ArrayLike<number>, p: number, before: number): number {
    for (let s = this.hash(points, p); this.slots[s] >= 0; s = (s + 1) & this.mask) {
      const n = this.slots[s];
      const other = this.meshes[this.piece[n]].points;
      const q = 3 * this.index[n];
      if (
        n < before &&
        other[q] === points[3 * p] &&
        other[q + 1] === points[3 * p + 1] &&
        other[q + 2] === points[3 * p + 2]
      )
        return n;
    }
    return -1;
  }

  add(n: number): void {
    let s = this.hash(this.meshes[this.piece[n]].points, this.index[n]);
    while (this.slots[s] >= 0) s = (s + 1) & this.mask;
    this.slots[s] = n;
  }
}

function assemble(
  meshes: RawMesh[],
  kept: Uint32Array[],
  maps: Int32Array[],
  pointPiece: Uint32Array,
  pointIndex: Uint32Array,
): RawMesh {
  const double = meshes.some((m) => m.points instanceof Float64Array);
  const points = new (double ? Float64Array : Float32Array)(3 * pointIndex.length);
  for (let n = 0; n < pointIndex.length; n++) {
    const from = meshes[pointPiece[n]].points;
    for (let k = 0; k < 3; k++) points[3 * n + k] = from[3 * pointIndex[n] + k];
  }
  let cells = 0;
  let nodes = 0;
  let faces = 0;
  for (const [i, m] of meshes.entries()) {
    cells += kept[i].length;
    for (const c of kept[i]) {
      nodes += m.offsets[c + 1] - m.offsets[c];
      if (m.polyhedra) faces += m.polyhedra.starts[c + 1] - m.polyhedra.starts[c];
    }
  }
  const out: RawMesh = {
    points,
    types: new Uint8Array(cells),
    offsets: new Uint32Array(cells + 1),
    connectivity: new Uint32Array(nodes),
    polyhedra: meshes.some((m) => m.polyhedra)
      ? { faces: new Uint32Array(faces), starts: new Uint32Array(cells + 1) }
      : null,
  };
  let c = 0;
  let at = 0;
  let f = 0;
  for (const [i, m] of meshes.entries()) {
    for (const cell of kept[i]) {
      out.types[c++] = m.types[cell];
      for (let k = m.offsets[cell]; k < m.offsets[cell + 1]; k++)
        out.connectivity[at++] = maps[i][m.connectivity[k]];
      out.offsets[c] = at;
      if (!out.polyhedra) continue;
      if (m.polyhedra) {
        const { faces: stream, starts } = m.polyhedra;
        for (let k = starts[cell]; k < starts[cell + 1]; ) {
          const size = stream[k++];
          out.polyhedra.faces[f++] = size;
          for (let j = 0; j < size; j++) out.polyhedra.faces[f++] = maps[i][stream[k++]];
        }
      }
      out.polyhedra.starts[c] = f;
    }
  }
  return out;
}

function gatherPoints(pieces: OpenedMesh[], field: FieldHeader, joined: Joined): NumberArray {
  const sources = pieces.map((p) => fieldOf(p, (f) => sameField(f, field)));
  const { components } = field;
  const out = emptyLike(sources, joined.pointIndex.length * components);
  for (let n = 0; n < joined.pointIndex.length; n++) {
    const source = sources[joined.pointPiece[n]];
    const from = joined.pointIndex[n] * components;
    for (let k = 0; k < components; k++) out[n * components + k] = source ? source[from + k] : Number.NaN;
  }
  return out;
}

function gatherCells(pieces: OpenedMesh[], field: FieldHeader, joined: Joined): NumberArray {
  const sources = pieces.map((p) => fieldOf(p, (f) => sameField(f, field)));
  const { components } = field;
  const cells = joined.keptCells.reduce((n, k) => n + k.length, 0);
  const out = emptyLike(sources, cells * components);
  let at = 0;
  for (const [i, kept] of joined.keptCells.entries()) {
    const source = sources[i];
    for (const c of kept)
      for (let k = 0; k < components; k++) out[at++] = source ? source[c * components + k] : Number.NaN;
  }
  return out;
}

/** An array of the type of the sources; of floats where values are missing or types differ. */
function emptyLike(sources: (NumberArray | null)[], length: number): NumberArray {
  const first = sources.find((s) => s !== null);
  const same = first && sources.every((s) => s?.constructor === first.constructor);
  if (!same) return new Float64Array(length);
  return new (first.constructor as new (n: number) => NumberArray)(length);
}
