import type { RawMesh } from '#core/formats/format.ts';
import { HEXAHEDRON, QUAD, VERTEX } from '#core/model/cell-types.ts';

export type Place = [number, number, number];

/** Cells of one type from lists of their points. */
export function cellsOf(
  points: ArrayLike<number>,
  cells: readonly (readonly number[])[],
  type: number,
): RawMesh {
  const size = cells[0]?.length ?? 0;
  return {
    points: Float32Array.from(points),
    types: new Uint8Array(cells.length).fill(type),
    offsets: Uint32Array.from({ length: cells.length + 1 }, (_, c) => c * size),
    connectivity: Uint32Array.from(cells.flat()),
  };
}

/** A grid of `nx` by `ny` by `nz` hexahedra; points run along x first. */
export function hexGrid(
  nx: number,
  ny: number,
  nz: number,
  place: (i: number, j: number, k: number) => Place,
  wanted: (i: number, j: number, k: number) => boolean = () => true,
): RawMesh {
  const points: number[] = [];
  for (let k = 0; k <= nz; k++)
    for (let j = 0; j <= ny; j++) for (let i = 0; i <= nx; i++) points.push(...place(i, j, k));
  const at = (i: number, j: number, k: number): number => (k * (ny + 1) + j) * (nx + 1) + i;
  const cells: number[][] = [];
  for (let k = 0; k < nz; k++)
    for (let j = 0; j < ny; j++)
      for (let i = 0; i < nx; i++)
        if (wanted(i, j, k))
          cells.push(
            [k, k + 1].flatMap((h) => [at(i, j, h), at(i + 1, j, h), at(i + 1, j + 1, h), at(i, j + 1, h)]),
          );
  return withoutLonePoints(cellsOf(points, cells, HEXAHEDRON));
}

/** A mesh with only the points its cells use, in their order. */
function withoutLonePoints(mesh: RawMesh): RawMesh {
  const kept = usedPoints(mesh);
  const number = new Map(kept.map((p, i) => [p, i]));
  return {
    ...mesh,
    points: Float32Array.from(kept.flatMap((p) => [...mesh.points.subarray(3 * p, 3 * p + 3)])),
    connectivity: mesh.connectivity.map((p) => number.get(p)!),
  };
}

/** The points the cells of a mesh use, in order. */
const usedPoints = ({ connectivity }: RawMesh): number[] => [...new Set(connectivity)].sort((a, b) => a - b);

/** A grid of `nx` by `ny` quadrilaterals; points run along x first. */
export function quadGrid(nx: number, ny: number, place: (i: number, j: number) => Place): RawMesh {
  const points: number[] = [];
  for (let j = 0; j <= ny; j++) for (let i = 0; i <= nx; i++) points.push(...place(i, j));
  const at = (i: number, j: number): number => j * (nx + 1) + i;
  const cells: number[][] = [];
  for (let j = 0; j < ny; j++)
    for (let i = 0; i < nx; i++) cells.push([at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)]);
  return cellsOf(points, cells, QUAD);
}

/** Points alone. */
export const pointCloud = (points: ArrayLike<number>): RawMesh =>
  cellsOf(
    points,
    Array.from({ length: points.length / 3 }, (_, i) => [i]),
    VERTEX,
  );

/** The same numbers every time, evenly spread over 0..1 (mulberry32, in the public domain; from memory). */
export function randomNumbers(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), state | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}
