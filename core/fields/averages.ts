import { cellsAround } from '../model/cells-around.ts';
import { type Mesh, pointCount } from '../model/mesh.ts';
import { copyOf, type Gather } from '../model/recipe.ts';

/** The mean of the cells around each point, every cell counting once; points without a cell get nothing, not zero. */
export function cellsToPoints(mesh: Mesh): Gather {
  const { starts, cells } = cellsAround(mesh);
  const weight = new Float32Array(cells.length);
  const n = pointCount(mesh);
  for (let p = 0; p < n; p++)
    for (let i = starts[p]; i < starts[p + 1]; i++) weight[i] = 1 / (starts[p + 1] - starts[p]);
  return { ...copyOf(cells), width: 0, starts, weight };
}

/** The mean of the nodes of each cell, every node counting once. */
export function pointsToCells({ offsets, connectivity }: Mesh): Gather {
  const weight = new Float32Array(connectivity.length);
  for (let c = 0; c + 1 < offsets.length; c++)
    weight.fill(1 / (offsets[c + 1] - offsets[c]), offsets[c], offsets[c + 1]);
  return { ...copyOf(connectivity), width: 0, starts: offsets, weight };
}
