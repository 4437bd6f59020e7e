import { cellCount, type Mesh, pointCount } from '../model/mesh.ts';
import { copyOf, type Gather } from '../model/recipe.ts';

/** The mean of the cells around each point, every cell counting once; points without a cell get nothing, not zero. */
export function cellsToPoints(mesh: Mesh): Gather {
  const { offsets, connectivity } = mesh;
  const n = pointCount(mesh);
  const starts = new Uint32Array(n + 1);
  for (let i = 0; i < connectivity.length; i++) starts[connectivity[i] + 1]++;
  for (let p = 0; p < n; p++) starts[p + 1] += starts[p];
  const index = new Uint32Array(connectivity.length);
  const weight = new Float32Array(connectivity.length);
  const fill = starts.slice();
  for (let c = 0; c < cellCount(mesh); c++)
    for (let i = offsets[c]; i < offsets[c + 1]; i++) index[fill[connectivity[i]]++] = c;
  for (let p = 0; p < n; p++)
    for (let i = starts[p]; i < starts[p + 1]; i++) weight[i] = 1 / (starts[p + 1] - starts[p]);
  return { ...copyOf(index), width: 0, starts, weight };
}

/** The mean of the nodes of each cell, every node counting once. */
export function pointsToCells({ offsets, connectivity }: Mesh): Gather {
  const weight = new Float32Array(connectivity.length);
  for (let c = 0; c + 1 < offsets.length; c++)
    weight.fill(1 / (offsets[c + 1] - offsets[c]), offsets[c], offsets[c + 1]);
  return { ...copyOf(connectivity), width: 0, starts: offsets, weight };
}
