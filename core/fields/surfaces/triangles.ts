import { GrowingUint32 } from '../../model/arrays.ts';
import { cellTypes } from '../../model/cell-types.ts';
import type { Mesh } from '../../model/mesh.ts';

/** A list of triangles that grows: three points each, and the cell of the mesh that they are of. */
export class Triangles {
  private readonly corners: GrowingUint32;
  private readonly cells: GrowingUint32;

  constructor(capacity: number) {
    this.corners = new GrowingUint32(3 * Math.max(16, capacity));
    this.cells = new GrowingUint32(Math.max(16, capacity));
  }

  add(a: number, b: number, c: number, cell: number): void {
    this.corners.push(a);
    this.corners.push(b);
    this.corners.push(c);
    this.cells.push(cell);
  }

  toArrays(): { corners: Uint32Array; cells: Uint32Array } {
    return { corners: this.corners.toArray(), cells: this.cells.toArray() };
  }
}

/** The polygons of a mesh as fans of triangles, as they are drawn; other cells are left out. */
export function fansOf({ types, offsets, connectivity }: Mesh): Triangles {
  const fan = new Triangles(types.length);
  for (let c = 0; c < types.length; c++) {
    if (cellTypes.get(types[c])!.dimension !== 2) continue;
    for (let i = offsets[c] + 1; i + 1 < offsets[c + 1]; i++)
      fan.add(connectivity[offsets[c]], connectivity[i], connectivity[i + 1], c);
  }
  return fan;
}
