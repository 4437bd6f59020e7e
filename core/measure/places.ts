import type { MeshField } from '../model/field.ts';
import { cellCount } from '../model/mesh.ts';
import type { OperationInput } from '../ops/chain/operation.ts';
import { type MeasuredQuantity, measuredAt } from './measured-quantity.ts';
import { eachCellPlaces } from './quadrature.ts';

/** A place within a cell at which integrals are taken; the same object for all of them. See `CellPlaces`. */
export interface Place {
  /** The length, area or volume it stands for; of lone points one. */
  size: number;
  /** Of surfaces the same with the direction across them. */
  across: Float64Array;
  /** In the coordinates of the files. */
  at: Float64Array;
  /** What a quantity comes to there, into `out`: its components between the nodes, and then what is measured of them. */
  measure(quantity: MeasuredQuantity, field: MeshField, out: Float64Array): void;
}

/** Visits the places of all cells of the highest dimension; of lone points each. */
export function eachPlace(
  { mesh, dimension, origin }: OperationInput,
  visit: (place: Place, cell: number) => void,
): void {
  const { points, offsets, connectivity } = mesh;
  let [cell, from, nodes] = [0, 0, 1];
  let weights: ArrayLike<number> = [1];
  let first = 0;
  const between = new Float64Array(9);
  const place: Place = {
    size: 1,
    across: new Float64Array(3),
    at: new Float64Array(3),
    measure(quantity, { data, components, location, axial }, out) {
      for (let k = 0; k < components; k++) {
        if (location === 'cell') between[k] = data[components * cell + k];
        else {
          between[k] = 0;
          for (let i = 0; i < nodes; i++)
            between[k] += weights[first + i] * data[components * connectivity[from + i] + k];
        }
      }
      measuredAt(quantity, { location, axial, components, data: between }, 0, out);
    },
  };
  const given = (): void => {
    for (let k = 0; k < 3; k++) {
      place.at[k] = origin[k];
      for (let i = 0; i < nodes; i++)
        place.at[k] += weights[first + i] * points[3 * connectivity[from + i] + k];
    }
    visit(place, cell);
  };
  if (dimension === 0) {
    for (cell = 0; cell < cellCount(mesh); cell++)
      for (from = offsets[cell]; from < offsets[cell + 1]; from++) given();
    return;
  }
  eachCellPlaces(mesh, dimension as 1 | 2 | 3, (of) => {
    ({ cell, from, nodes, weights } = of);
    for (let q = 0; q < of.count; q++) {
      first = nodes * q;
      place.size = of.sizes[q];
      for (let k = 0; k < 3; k++) place.across[k] = of.across[3 * q + k];
      given();
    }
  });
}
