import { type CellType, edgesOf } from '../../model/cell-types.ts';

/**
 * How a level set crosses a volume cell, for every pattern of corner signs. Case `m` (bit `i` set when corner `i`
 * is at or above the level) is the list `polygons[start[m] .. start[m + 1])`: a count followed by that many edge
 * numbers, repeated. Edge `e` joins corners `edgeA[e]` and `edgeB[e]`.
 */
export interface CrossingCases {
  edgeA: Uint8Array;
  edgeB: Uint8Array;
  start: Uint32Array;
  polygons: Uint8Array;
  /** Faces (bit `k` for the k-th) whose corners are above and below in turn, for every case. */
  ambiguous: Uint8Array;
  /** The list of a case in which some of its ambiguous faces have the corners above joined; made when first asked for. */
  joined(mask: number, faces: number): Uint8Array;
}

const made = new Map<number, CrossingCases>();

/**
 * The table of a cell type, made when first asked for.
 *
 * Method: on each face, every run of corners above the level is bounded by one edge where the walk leaves it and
 * one where it enters; these two are joined. A crossed edge lies on two faces that walk it in opposite directions,
 * so the joints close to loops. On a face with alternating signs the corners above stay apart, unless it is said to
 * have them joined; the choice depends on the face alone, so neighbouring cells agree and the surface has no holes.
 */
export function crossingCases(type: CellType): CrossingCases {
  const found = made.get(type.id);
  if (found) return found;
  const edges = edgesOf(type);
  const number = new Map(edges.map(([a, b], e) => [a * 64 + b, e]));
  const cases = 2 ** type.corners;
  const start = new Uint32Array(cases + 1);
  const polygons: number[] = [];
  for (let mask = 0; mask < cases; mask++) {
    start[mask] = polygons.length;
    polygons.push(...listOf(loopsOf(mask, type.faces, number, 0)));
  }
  start[cases] = polygons.length;
  const lists = new Map<number, Uint8Array>();
  const table: CrossingCases = {
    ambiguous: Uint8Array.from({ length: cases }, (_, mask) => ambiguousFaces(mask, type.faces)),
    joined(mask, joined) {
      const key = mask * 256 + joined;
      let list = lists.get(key);
      if (!list) lists.set(key, (list = Uint8Array.from(listOf(loopsOf(mask, type.faces, number, joined)))));
      return list;
    },
    edgeA: Uint8Array.from(edges, (e) => e[0]),
    edgeB: Uint8Array.from(edges, (e) => e[1]),
    start,
    polygons: Uint8Array.from(polygons),
  };
  made.set(type.id, table);
  return table;
}

const listOf = (loops: number[][]): number[] => loops.flatMap((loop) => [loop.length, ...loop]);

function ambiguousFaces(mask: number, faces: CellType['faces']): number {
  let found = 0;
  faces.forEach((face, k) => {
    const above = face.map((corner) => (mask >> corner) & 1);
    if (face.length === 4 && above[0] === above[2] && above[1] === above[3] && above[0] !== above[1])
      found |= 1 << k;
  });
  return found;
}

/** @param joined faces that have their corners above joined: what leaves one run of them comes in at the other */
function loopsOf(
  mask: number,
  faces: CellType['faces'],
  number: Map<number, number>,
  joined: number,
): number[][] {
  const next = new Map<number, number>();
  for (const [k, face] of faces.entries()) {
    const n = face.length;
    const above = face.map((corner) => (mask >> corner) & 1);
    for (let i = 0; i < n; i++) {
      if (!above[i] || above[(i + 1) % n]) continue;
      let first = i;
      while (above[(first - 1 + n) % n]) first = (first - 1 + n) % n;
      if ((joined >> k) & 1) first = (i + 2) % n;
      const leave = edgeNumber(number, face[i], face[(i + 1) % n]);
      const enter = edgeNumber(number, face[(first - 1 + n) % n], face[first]);
      next.set(leave, enter);
    }
  }
  const loops: number[][] = [];
  while (next.size > 0) {
    const [begin] = next.keys();
    const loop: number[] = [];
    let edge: number | undefined = begin;
    while (edge !== undefined && next.has(edge)) {
      loop.push(edge);
      const following: number = next.get(edge)!;
      next.delete(edge);
      edge = following;
    }
    if (loop.length >= 3) loops.push(loop);
  }
  return loops;
}

const edgeNumber = (number: Map<number, number>, a: number, b: number): number =>
  number.get(Math.min(a, b) * 64 + Math.max(a, b))!;
