import { cellCount, type Mesh } from '../model/mesh.ts';
import { eachCellPlaces } from './quadrature.ts';

/**
 * What every node of every cell counts in an integral over the mesh: the integral of its weight over the cell. An integral of
 * values at points is then one pass over the connectivity, for every field and step again.
 */
export interface MeshWeights {
  /** Of the cells that count; the others have nothing but zeros. */
  dimension: 1 | 2 | 3;
  /** One number for each entry of the connectivity. */
  nodes: Float64Array;
  /** Length, area or volume of each cell. */
  cells: Float64Array;
  /** Of surfaces the same with the direction across them, three numbers an entry; by the right hand along the corners. */
  across: Float64Array | null;
  /** Cells that are turned inside out; they count like the others. */
  inverted: number;
}

/** Weights over the cells of one dimension; see `CellPlaces`. */
export function meshWeights(mesh: Mesh, dimension: 1 | 2 | 3): MeshWeights {
  const out: MeshWeights = {
    dimension,
    nodes: new Float64Array(mesh.connectivity.length),
    cells: new Float64Array(cellCount(mesh)),
    across: dimension === 2 ? new Float64Array(3 * mesh.connectivity.length) : null,
    inverted: 0,
  };
  eachCellPlaces(mesh, dimension, ({ cell, from, nodes, count, weights, sizes, across, inverted }) => {
    for (let q = 0; q < count; q++) {
      const size = sizes[q];
      out.cells[cell] += size;
      for (let i = 0; i < nodes; i++) {
        const weight = weights[nodes * q + i];
        out.nodes[from + i] += weight * size;
        if (!out.across) continue;
        for (let k = 0; k < 3; k++) out.across[3 * (from + i) + k] += weight * across[3 * q + k];
      }
    }
    out.inverted += Number(inverted);
  });
  return out;
}
