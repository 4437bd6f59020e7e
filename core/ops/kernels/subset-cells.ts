import { POLYHEDRON } from '../../model/cell-types.ts';
import type { Mesh } from '../../model/mesh.ts';
import { copyOf } from '../../model/recipe.ts';
import type { OperationResult } from '../chain/operation.ts';

/** Some cells of a mesh, with just the points they use. */
export function subsetCells(mesh: Mesh, cells: Uint32Array): OperationResult {
  const { points, types, offsets, connectivity, polyhedra } = mesh;
  const map = new Int32Array(points.length / 3).fill(-1);
  const index: number[] = [];
  const place = (p: number): number => {
    if (map[p] < 0) {
      map[p] = index.length;
      index.push(p);
    }
    return map[p];
  };
  const kept = cells.filter((c) => c < types.length);
  const ends = new Uint32Array(kept.length + 1);
  const nodes: number[] = [];
  const faces: number[] = [];
  const starts = new Uint32Array(kept.length + 1);
  for (const [i, c] of kept.entries()) {
    for (let k = offsets[c]; k < offsets[c + 1]; k++) nodes.push(place(connectivity[k]));
    ends[i + 1] = nodes.length;
    if (polyhedra && types[c] === POLYHEDRON) {
      for (let at = polyhedra.starts[c]; at < polyhedra.starts[c + 1]; ) {
        const n = polyhedra.faces[at++];
        faces.push(n);
        for (let k = 0; k < n; k++) faces.push(place(polyhedra.faces[at++]));
      }
    }
    starts[i + 1] = faces.length;
  }
  const own = new Float32Array(3 * index.length);
  for (const [i, p] of index.entries()) for (let k = 0; k < 3; k++) own[3 * i + k] = points[3 * p + k];
  return {
    mesh: {
      points: own,
      types: Uint8Array.from(kept, (c) => types[c]),
      offsets: ends,
      connectivity: Uint32Array.from(nodes),
      polyhedra: polyhedra ? { faces: Uint32Array.from(faces), starts } : null,
    },
    recipe: { points: copyOf(Uint32Array.from(index)), cells: copyOf(kept) },
  };
}
