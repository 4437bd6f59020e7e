import { pointsToCells } from '../../fields/averages.ts';
import { VERTEX } from '../../model/cell-types.ts';
import { cellCount, type Mesh, pointCount } from '../../model/mesh.ts';
import { copyOf, identityGather, replayAll } from '../../model/recipe.ts';
import type { OperationResult } from '../chain/operation.ts';

/** Points as cells of their own, one after the other. */
export const loneCells = (points: Float32Array): Mesh => {
  const n = points.length / 3;
  return {
    points,
    types: new Uint8Array(n).fill(VERTEX),
    offsets: Uint32Array.from({ length: n + 1 }, (_, i) => i),
    connectivity: Uint32Array.from({ length: n }, (_, i) => i),
  };
};

/** The last cell that each point of a mesh is in. */
function cellsAround(mesh: Mesh): Uint32Array {
  const around = new Uint32Array(pointCount(mesh));
  for (let c = 0; c < cellCount(mesh); c++)
    for (let i = mesh.offsets[c]; i < mesh.offsets[c + 1]; i++) around[mesh.connectivity[i]] = c;
  return around;
}

/** The points of a mesh, or the middles of its cells, each as a cell of its own. */
export function pointsAlone(mesh: Mesh, of: 'points' | 'cells'): OperationResult {
  const centres = pointsToCells(mesh);
  return {
    mesh: loneCells(of === 'points' ? mesh.points : replayAll(centres, mesh.points, 3)),
    recipe:
      of === 'points'
        ? { points: identityGather(pointCount(mesh)), cells: copyOf(cellsAround(mesh)) }
        : { points: centres, cells: identityGather(cellCount(mesh)) },
  };
}

/** Some points of a mesh, each as a cell of its own. */
export function somePoints(mesh: Mesh, which: Uint32Array): OperationResult {
  const points = new Float32Array(3 * which.length);
  for (const [i, at] of which.entries()) points.set(mesh.points.subarray(3 * at, 3 * at + 3), 3 * i);
  const around = cellsAround(mesh);
  return {
    mesh: loneCells(points),
    recipe: { points: copyOf(which), cells: copyOf(which.map((at) => around[at])) },
  };
}
