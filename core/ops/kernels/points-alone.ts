import { pointsToCells } from '../../fields/averages.ts';
import { VERTEX } from '../../model/cell-types.ts';
import { cellCount, type Mesh, pointCount } from '../../model/mesh.ts';
import { copyOf, identityGather, replayAll } from '../../model/recipe.ts';
import type { OperationResult } from '../chain/operation.ts';

/** The points of a mesh, or the middles of its cells, each as a cell of its own. */
export function pointsAlone(mesh: Mesh, of: 'points' | 'cells'): OperationResult {
  const n = of === 'points' ? pointCount(mesh) : cellCount(mesh);
  const centres = pointsToCells(mesh);
  const around = new Uint32Array(pointCount(mesh));
  for (let c = 0; c < cellCount(mesh); c++)
    for (let i = mesh.offsets[c]; i < mesh.offsets[c + 1]; i++) around[mesh.connectivity[i]] = c;
  return {
    mesh: {
      points: of === 'points' ? mesh.points : replayAll(centres, mesh.points, 3),
      types: new Uint8Array(n).fill(VERTEX),
      offsets: Uint32Array.from({ length: n + 1 }, (_, i) => i),
      connectivity: Uint32Array.from({ length: n }, (_, i) => i),
    },
    recipe:
      of === 'points'
        ? { points: identityGather(n), cells: copyOf(around) }
        : { points: centres, cells: identityGather(n) },
  };
}
