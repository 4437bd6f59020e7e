import type { Mesh } from './mesh.ts';

/**
 * Which piece of a mesh each of its points belongs to: cells that share a node are of one piece. Pieces are named by one of
 * their points; a point of no cell is a piece of its own.
 *
 * Union-find with path halving (Tarjan, van Leeuwen: Worst-case analysis of set union algorithms, J. ACM 31 (1984) 245).
 */
export function connectedPieces({ points, offsets, connectivity }: Mesh): Uint32Array {
  const parent = Uint32Array.from({ length: points.length / 3 }, (_, i) => i);
  const root = (of: number): number => {
    let i = of;
    while (parent[i] !== i) {
      parent[i] = parent[parent[i]];
      i = parent[i];
    }
    return i;
  };
  for (let cell = 0; cell + 1 < offsets.length; cell++) {
    const first = offsets[cell];
    if (first === offsets[cell + 1]) continue;
    let joined = root(connectivity[first]);
    for (let i = first + 1; i < offsets[cell + 1]; i++) {
      const other = root(connectivity[i]);
      // The smaller number stands for both: the same mesh is always named alike.
      const low = Math.min(joined, other);
      parent[Math.max(joined, other)] = low;
      joined = low;
    }
  }
  for (let i = 0; i < parent.length; i++) parent[i] = root(i);
  return parent;
}
