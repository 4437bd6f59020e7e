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
}

const made = new Map<number, CrossingCases>();

/**
 * The table of a cell type, made when first asked for.
 *
 * Method: on each face, every run of corners above the level is bounded by one edge where the walk leaves it and
 * one where it enters; these two are joined. A crossed edge lies on two faces that walk it in opposite directions,
 * so the joints close to loops. On a face with alternating signs the corners above stay apart; the choice depends
 * on the face alone, so neighbouring cells agree and the surface has no holes.
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
    for (const loop of loopsOf(mask, type.faces, number)) polygons.push(loop.length, ...loop);
  }
  start[cases] = polygons.length;
  const table = {
    edgeA: Uint8Array.from(edges, (e) => e[0]),
    edgeB: Uint8Array.from(edges, (e) => e[1]),
    start,
    polygons: Uint8Array.from(polygons),
  };
  made.set(type.id, table);
  return table;
}

function loopsOf(mask: number, faces: CellType['faces'], number: Map<number, number>): number[][] {
  const next = new Map<number, number>();
  for (const face of faces) {
    const n = face.length;
    const above = face.map((corner) => (mask >> corner) & 1);
    for (let i = 0; i < n; i++) {
      if (!above[i] || above[(i + 1) % n]) continue;
      let first = i;
      while (above[(first - 1 + n) % n]) first = (first - 1 + n) % n;
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
