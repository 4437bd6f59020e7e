import type { MeshField } from '../model/field.ts';
import { cellCount, type Mesh } from '../model/mesh.ts';
import type { OperationInput } from '../ops/chain/operation.ts';
import { type MeasuredQuantity, measuredAt } from './measured-quantity.ts';
import { eachCellPlaces } from './quadrature.ts';

/** Places within cells, all of a mesh: they are the same for every field and step on it. */
interface PlacesOfMesh {
  /** The cells that have any. */
  cells: number[];
  /** Where the places of each of them begin, and the end of the last. */
  starts: number[];
  /** Of each of them, what its nodes weigh: so many numbers a place. Cells of one shape share theirs. */
  weights: Float64Array[];
  /** The length, area or volume of each place. */
  sizes: Float64Array;
  /** Of surfaces the same with the direction across them, three numbers a place. */
  across: Float64Array | null;
}

function placesOfMesh(mesh: Mesh, dimension: 1 | 2 | 3): PlacesOfMesh {
  const cells: number[] = [];
  const starts = [0];
  const weights: Float64Array[] = [];
  const sizes: number[] = [];
  const across: number[] | null = dimension === 2 ? [] : null;
  eachCellPlaces(mesh, dimension, (of) => {
    cells.push(of.cell);
    weights.push(of.shared ? of.weights : of.weights.slice(0, of.nodes * of.count));
    for (let q = 0; q < of.count; q++) sizes.push(of.sizes[q]);
    if (across) for (let q = 0; q < 3 * of.count; q++) across.push(of.across[q]);
    starts.push(sizes.length);
  });
  return {
    cells,
    starts,
    weights,
    sizes: Float64Array.from(sizes),
    across: across && Float64Array.from(across),
  };
}

const known = new WeakMap<Mesh, PlacesOfMesh>();

/** A place within a cell at which integrals are taken; the same object for all of them. See `CellPlaces`. */
export class Place {
  /** The length, area or volume it stands for; of lone points one. */
  size = 1;
  /** Of surfaces the same with the direction across them. */
  readonly across = new Float64Array(3);
  private readonly at = new Float64Array(3);
  private between = new Float64Array(9);
  private cell = 0;
  private from = 0;
  private nodes = 1;
  /** Where its weights begin among those of its cell. */
  private first = 0;
  private weights: ArrayLike<number> = [1];

  constructor(private readonly input: OperationInput) {}

  /** In the coordinates of the files; the same array for all places. */
  where(): Float64Array {
    const { at, input, nodes, weights, first, from } = this;
    const { points, connectivity } = input.mesh;
    for (let k = 0; k < 3; k++) {
      at[k] = input.origin[k];
      for (let i = 0; i < nodes; i++) at[k] += weights[first + i] * points[3 * connectivity[from + i] + k];
    }
    return at;
  }

  /** What a quantity comes to there, into `out`: its components between the nodes, and then what is measured of them. */
  measure(
    quantity: MeasuredQuantity,
    { data, components, location, axial }: MeshField,
    out: Float64Array,
  ): void {
    const { connectivity } = this.input.mesh;
    const { cell, from, nodes, first, weights } = this;
    if (components > this.between.length) this.between = new Float64Array(components);
    const { between } = this;
    for (let k = 0; k < components; k++) {
      if (location === 'cell') between[k] = data[components * cell + k];
      else {
        between[k] = 0;
        for (let i = 0; i < nodes; i++)
          between[k] += weights[first + i] * data[components * connectivity[from + i] + k];
      }
    }
    measuredAt(quantity, { location, axial, components, data: between }, 0, out);
  }

  /** Goes to every node of every cell. */
  overPoints(visit: (place: Place) => void): void {
    const { offsets } = this.input.mesh;
    for (this.cell = 0; this.cell < cellCount(this.input.mesh); this.cell++)
      for (this.from = offsets[this.cell]; this.from < offsets[this.cell + 1]; this.from++) visit(this);
  }

  /** Goes to every place of every cell that has any. */
  over({ cells, starts, weights, sizes, across }: PlacesOfMesh, visit: (place: Place) => void): void {
    const { offsets } = this.input.mesh;
    for (let i = 0; i < cells.length; i++) {
      this.cell = cells[i];
      this.from = offsets[this.cell];
      this.weights = weights[i];
      this.nodes = weights[i].length / (starts[i + 1] - starts[i]);
      this.first = 0;
      for (let q = starts[i]; q < starts[i + 1]; q++) {
        this.size = sizes[q];
        if (across) for (let k = 0; k < 3; k++) this.across[k] = across[3 * q + k];
        visit(this);
        this.first += this.nodes;
      }
    }
  }
}

/** Visits the places of all cells of the highest dimension, which are kept with the mesh; of lone points each. */
export function eachPlace(input: OperationInput, visit: (place: Place) => void): void {
  const { mesh, dimension } = input;
  const place = new Place(input);
  if (dimension === 0) {
    place.overPoints(visit);
    return;
  }
  // A mesh is measured in its highest dimension alone.
  const places = known.get(mesh) ?? placesOfMesh(mesh, dimension as 1 | 2 | 3);
  known.set(mesh, places);
  place.over(places, visit);
}
