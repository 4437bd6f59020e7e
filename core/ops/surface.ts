import { z } from 'zod';
import { cellTypes, LINE, POLYGON, POLYHEDRON, QUAD, TRIANGLE, VERTEX } from '../model/cell-types.ts';
import { boundsCentre, boundsOf, type Mesh, meshDimension, pointCount } from '../model/mesh.ts';
import { CellList } from './cell-list.ts';
import type { Operation, OperationResult } from './operation.ts';

export type SurfaceOptions = Record<string, never>;

/**
 * The outer faces of volume cells, and surface, line and point cells as they are. A surface cell that lies on a
 * face of a volume cell is left out, because that face is drawn already.
 */
export const surface: Operation<SurfaceOptions> = {
  id: 'surface',
  name: 'Surface',
  purpose: 'the outer faces',
  opening: 'Surface of ',
  schema: z.object({}).strict() as z.ZodType<SurfaceOptions>,
  defaults: () => ({}),
  sentence: () => [],
  run: (input) => outerFaces(input.mesh),
};

function outerFaces(mesh: Mesh): OperationResult {
  const list = new CellList();
  const dimension = meshDimension(mesh.types);
  if (dimension === 3) addFacesOfVolumes(mesh, list);
  else addSurfaceCells(mesh, list);
  addLinesAndPoints(mesh, list, dimension);
  return compacted(list, mesh);
}

/** Stands for the whole of a surface cell where faces of volumes have their number. */
const SURFACE_CELL = 0xffffffff;

function polyhedronFaces({ polyhedra }: Mesh, cell: number): number {
  const { faces, starts } = polyhedra!;
  let n = 0;
  for (let at = starts[cell]; at < starts[cell + 1]; at += faces[at] + 1) n++;
  return n;
}

/** Faces by their lowest node, for a counting sort; two faces are one when they have the same corners. */
function addFacesOfVolumes(mesh: Mesh, list: CellList): void {
  const { types, offsets, connectivity } = mesh;
  let total = 0;
  for (let c = 0; c < types.length; c++) {
    const type = cellTypes.get(types[c])!;
    total +=
      type.id === POLYHEDRON
        ? polyhedronFaces(mesh, c)
        : type.dimension === 3
          ? type.faces.length
          : type.dimension === 2
            ? 1
            : 0;
  }
  const lowest = new Uint32Array(total);
  const second = new Uint32Array(total);
  const highest = new Uint32Array(total);
  const sum = new Float64Array(total);
  const owner = new Uint32Array(total);
  const local = new Uint32Array(total);
  const bucket = new Uint32Array(pointCount(mesh) + 1);
  let f = 0;
  /** A face of `n` nodes behind `from` in a list, at the given corners or as they stand. */
  const add = (
    cell: number,
    face: number,
    nodes: Uint32Array,
    from: number,
    corners: readonly number[] | null,
    n: number,
  ): void => {
    let lo = 0xffffffff;
    let next = 0xffffffff;
    let hi = 0;
    let s = 0;
    for (let k = 0; k < n; k++) {
      const v = nodes[from + (corners ? corners[k] : k)];
      s += v;
      if (v < lo) {
        next = lo;
        lo = v;
      } else if (v < next) next = v;
      if (v > hi) hi = v;
    }
    lowest[f] = lo;
    second[f] = next;
    highest[f] = hi;
    sum[f] = s;
    owner[f] = cell;
    local[f] = face;
    bucket[lo + 1]++;
    f++;
  };
  for (let c = 0; c < types.length; c++) {
    const type = cellTypes.get(types[c])!;
    const from = offsets[c];
    if (type.id === POLYHEDRON) {
      // A face of a polyhedron is known by its place in the list of faces.
      const { faces, starts } = mesh.polyhedra!;
      for (let at = starts[c]; at < starts[c + 1]; at += faces[at] + 1)
        add(c, at, faces, at + 1, null, faces[at]);
    } else if (type.dimension === 3) {
      for (let i = 0; i < type.faces.length; i++) {
        add(c, i, connectivity, from, type.faces[i], type.faces[i].length);
      }
    } else if (type.dimension === 2) {
      add(c, SURFACE_CELL, connectivity, from, null, type.corners || offsets[c + 1] - from);
    }
  }
  for (let p = 1; p < bucket.length; p++) bucket[p] += bucket[p - 1];
  const order = new Uint32Array(total);
  const fill = bucket.slice();
  for (let i = 0; i < total; i++) order[fill[lowest[i]]++] = i;
  const met = new Uint8Array(total);
  for (let p = 0; p + 1 < bucket.length; p++) {
    const from = bucket[p];
    const to = bucket[p + 1];
    for (let i = from; i < to; i++) {
      const a = order[i];
      if (met[a]) continue;
      let volumes = local[a] === SURFACE_CELL ? 0 : 1;
      let shown = a;
      for (let j = i + 1; j < to; j++) {
        const b = order[j];
        if (second[a] !== second[b] || highest[a] !== highest[b] || sum[a] !== sum[b]) continue;
        met[b] = 1;
        if (local[b] !== SURFACE_CELL) {
          volumes++;
          if (local[shown] === SURFACE_CELL) shown = b;
        }
      }
      if (volumes < 2) emitFace(mesh, list, owner[shown], local[shown]);
    }
  }
}

function emitFace(mesh: Mesh, list: CellList, cell: number, face: number): void {
  if (face === SURFACE_CELL) {
    emitSurfaceCell(mesh, list, cell);
    return;
  }
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
function compacted(list: CellList, mesh: Mesh): OperationResult {
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
    recipe: { points: { width: 1, index, weight: null }, cells: list.originCells() },
  };
}
