import { cellCount, type Mesh, pointCount } from './mesh.ts';

/** The cells around each point: those of point `p` are `cells[starts[p] .. starts[p + 1])`, in rising order. */
export interface CellsAround {
  starts: Uint32Array;
  cells: Uint32Array;
}

/** By the connectivity, which a mesh shares with those that are moved from it. */
const known = new WeakMap<Uint32Array, CellsAround>();

/** The cells around each point, made once for a mesh. */
export function cellsAround(mesh: Mesh): CellsAround {
  const { offsets, connectivity } = mesh;
  const found = known.get(connectivity);
  if (found && found.starts.length === pointCount(mesh) + 1) return found;
  const n = pointCount(mesh);
  const starts = new Uint32Array(n + 1);
  for (let i = 0; i < connectivity.length; i++) starts[connectivity[i] + 1]++;
  for (let p = 0; p < n; p++) starts[p + 1] += starts[p];
  const cells = new Uint32Array(connectivity.length);
  const fill = starts.slice();
  for (let c = 0; c < cellCount(mesh); c++)
    for (let i = offsets[c]; i < offsets[c + 1]; i++) cells[fill[connectivity[i]]++] = c;
  const made = { starts, cells };
  known.set(connectivity, made);
  return made;
}
