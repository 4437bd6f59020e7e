import { cellTypes, POLYHEDRON } from '../../model/cell-types.ts';
import { boundsDiagonal, boundsOf, cellCount, type Mesh, pointCount } from '../../model/mesh.ts';
import { copyOf, determinant, type Gather } from '../../model/recipe.ts';
import type { OperationResult } from '../chain/operation.ts';
import { joinMeshes } from './join-meshes.ts';
import { PlaceIndex } from './place-index.ts';

/** How a copy stands to the original: `x -> turn x + shift`. */
export interface Placement {
  /** 3 x 3, row by row. */
  turn: ArrayLike<number>;
  shift: ArrayLike<number>;
}

/**
 * Copies of a mesh at several places. Points of different copies that meet at a seam become one, so that bodies stay
 * closed and lines run through; directions are turned with their copy.
 */
export function placeCopies(mesh: Mesh, placements: readonly Placement[]): OperationResult {
  const n = pointCount(mesh);
  const parts = placements.map(({ turn, shift }) => {
    const points = new Float32Array(3 * n);
    for (let i = 0; i < n; i++) {
      const [x, y, z] = [mesh.points[3 * i], mesh.points[3 * i + 1], mesh.points[3 * i + 2]];
      for (let r = 0; r < 3; r++)
        points[3 * i + r] = turn[3 * r] * x + turn[3 * r + 1] * y + turn[3 * r + 2] * z + shift[r];
    }
    const copy = { ...mesh, points };
    return determinant(turn) < 0 ? turnedOver(copy) : copy;
  });
  const joined = joinMeshes(parts);
  const turns = Float64Array.from(placements.flatMap(({ turn }) => Array.from(turn)));
  const repeated = (count: number): Gather => ({
    ...copyOf(Uint32Array.from({ length: count * placements.length }, (_, i) => i % count)),
    turn: Uint16Array.from({ length: count * placements.length }, (_, i) => Math.floor(i / count)),
    turns,
  });
  return mergeSeams(joined, n, { points: repeated(n), cells: repeated(cellCount(mesh)) });
}

/** Relative to the size of one copy: closer points of two copies are one. */
const SEAM = 1e-5;

function mergeSeams(mesh: Mesh, perCopy: number, recipe: { points: Gather; cells: Gather }): OperationResult {
  const n = pointCount(mesh);
  const one = boundsOf(mesh.points.subarray(0, 3 * perCopy));
  const index = new PlaceIndex(SEAM * (boundsDiagonal(one) || 1));
  const target = new Uint32Array(n);
  const kept: number[] = [];
  for (let i = 0; i < n; i++) {
    const found = index.near(
      mesh.points,
      i,
      (other) => Math.floor(other / perCopy) !== Math.floor(i / perCopy),
    );
    if (found >= 0) {
      target[i] = target[found];
      continue;
    }
    target[i] = kept.length;
    index.add(mesh.points, i);
    kept.push(i);
  }
  if (kept.length === n) return { mesh, recipe };
  const points = new Float32Array(3 * kept.length);
  for (const [to, from] of kept.entries())
    for (let k = 0; k < 3; k++) points[3 * to + k] = mesh.points[3 * from + k];
  const faces = mesh.polyhedra?.faces.slice() ?? null;
  if (faces)
    for (let at = 0; at < faces.length; ) {
      const size = faces[at++];
      for (let k = 0; k < size; k++, at++) faces[at] = target[faces[at]];
    }
  const { index: from, turn } = recipe.points;
  return {
    mesh: {
      ...mesh,
      points,
      connectivity: mesh.connectivity.map((p) => target[p]),
      polyhedra: faces ? { faces, starts: mesh.polyhedra!.starts } : null,
    },
    recipe: {
      cells: recipe.cells,
      points: {
        ...recipe.points,
        index: Uint32Array.from(kept, (i) => from[i]),
        turn: Uint16Array.from(kept, (i) => turn![i]),
      },
    },
  };
}

/** The same cells for a mirrored copy: nodes in the order that keeps cells the right way out. */
function turnedOver(mesh: Mesh): Mesh {
  const connectivity = mesh.connectivity.slice();
  for (let c = 0; c < mesh.types.length; c++) {
    const type = cellTypes.get(mesh.types[c])!;
    const from = mesh.offsets[c];
    const n = mesh.offsets[c + 1] - from;
    if (type.id === POLYHEDRON || type.dimension < 2) continue;
    const order = mirroredOrder(type.name, type.dimension, n);
    for (let k = 0; k < n; k++) connectivity[from + k] = mesh.connectivity[from + order[k]];
  }
  return { ...mesh, connectivity };
}

/** For each node of a mirrored cell, the node of the original that takes its place. Quadratic cells follow VTK XML order. */
const mirrored: Record<string, number[]> = {
  tetra: [0, 2, 1, 3],
  tetra10: [0, 2, 1, 3, 6, 5, 4, 7, 9, 8],
  hexahedron: [0, 3, 2, 1, 4, 7, 6, 5],
  hexahedron20: [0, 3, 2, 1, 4, 7, 6, 5, 11, 10, 9, 8, 15, 14, 13, 12, 16, 19, 18, 17],
  wedge: [0, 2, 1, 3, 5, 4],
  wedge15: [0, 2, 1, 3, 5, 4, 8, 7, 6, 11, 10, 9, 12, 14, 13],
  pyramid: [0, 3, 2, 1, 4],
  pyramid13: [0, 3, 2, 1, 4, 8, 7, 6, 5, 9, 12, 11, 10],
  voxel: [0, 2, 1, 3, 4, 6, 5, 7],
  pixel: [0, 2, 1, 3],
  triangle6: [0, 2, 1, 5, 4, 3],
  quad8: [0, 3, 2, 1, 7, 6, 5, 4],
  quad9: [0, 3, 2, 1, 7, 6, 5, 4, 8],
  pentaprism: [0, 4, 3, 2, 1, 5, 9, 8, 7, 6],
  hexaprism: [0, 5, 4, 3, 2, 1, 6, 11, 10, 9, 8, 7],
};

function mirroredOrder(name: string, dimension: number, n: number): number[] {
  const known = mirrored[name];
  if (known) return known;
  // Plain polygons walk backwards; cells with nodes in their faces stay as they are, which only turns them inside out.
  return Array.from({ length: n }, (_, k) => (dimension === 2 && name !== 'strip' ? (n - k) % n : k));
}
