import { cellTypes } from '../../model/cell-types.ts';
import type { RawMesh } from '../format.ts';

/** Corners of the triangles of a surface mesh (polygons as fans), and the cell each comes from. */
export function trianglesOf({ types, offsets, connectivity }: RawMesh): {
  corners: number[];
  cells: number[];
} {
  const corners: number[] = [];
  const cells: number[] = [];
  for (let c = 0; c < types.length; c++) {
    const type = cellTypes.get(types[c]);
    if (type?.dimension !== 2) continue;
    const from = offsets[c];
    const n = type.corners || offsets[c + 1] - offsets[c];
    const node = (k: number): number => connectivity[from + (type.loop.length > 0 ? type.loop[k] : k)];
    if (type.name === 'strip') {
      for (let k = 0; k + 2 < n; k++) {
        corners.push(node(k), node(k + 1 + (k % 2)), node(k + 2 - (k % 2)));
        cells.push(c);
      }
      continue;
    }
    for (let k = 1; k + 1 < n; k++) {
      corners.push(node(0), node(k), node(k + 1));
      cells.push(c);
    }
  }
  return { corners, cells };
}
