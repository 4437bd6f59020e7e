import type { FieldLocation, MeshField } from '../model/field.ts';
import { cellCount, type Mesh } from '../model/mesh.ts';
import type { OperationInput } from '../ops/chain/operation.ts';
import { type MeasuredQuantity, measuredAt, numbersOf } from './measured-quantity.ts';
import { type MeshWeights, meshWeights } from './mesh-weights.ts';

/** Sums over what is measured on, part by part. */
export interface Sums {
  /** Volume, area or length of what has a value; of points their number. */
  size: number;
  /** The same of what has none. */
  missing: number;
  /** Each number times the size it stands for. */
  sums: number[];
}

export const joinSums = (a: Sums, b: Sums): Sums => ({
  size: a.size + b.size,
  missing: a.missing + b.missing,
  sums: a.sums.length === 0 ? b.sums : b.sums.length === 0 ? a.sums : a.sums.map((v, k) => v + b.sums[k]),
});

export const missingShare = ({ size, missing }: Sums): { missing?: number } =>
  missing > 0 ? { missing: missing / (size + missing) } : {};

const known = new WeakMap<Mesh, Map<number, MeshWeights>>();

/** The weights of a mesh, made once. */
export function weightsOf(mesh: Mesh, dimension: 1 | 2 | 3): MeshWeights {
  const own = known.get(mesh) ?? new Map<number, MeshWeights>();
  known.set(mesh, own);
  const found = own.get(dimension) ?? meshWeights(mesh, dimension);
  own.set(dimension, found);
  return found;
}

const ofPoints = new WeakMap<MeshWeights, Float64Array>();

/** What every point counts in an integral over the mesh, all its cells together; made once. */
function pointWeights(mesh: Mesh, weights: MeshWeights): Float64Array {
  const found = ofPoints.get(weights);
  if (found) return found;
  const { connectivity } = mesh;
  const { nodes } = weights;
  const out = new Float64Array(mesh.points.length / 3);
  for (let e = 0; e < nodes.length; e++) out[connectivity[e]] += nodes[e];
  ofPoints.set(weights, out);
  return out;
}

const used = new WeakMap<Uint32Array, Uint32Array>();

/** The points that cells use, each once; made once. */
export function usedPoints({ connectivity }: Mesh): Uint32Array {
  const found = used.get(connectivity) ?? Uint32Array.from(new Set(connectivity));
  used.set(connectivity, found);
  return found;
}

/**
 * Goes over the points or cells of the highest dimension with the size each stands for, each once. Lone points stand for one each.
 */
export function overWeights(
  { mesh, dimension }: OperationInput,
  location: FieldLocation,
  add: (index: number, weight: number) => void,
): void {
  const { connectivity, offsets } = mesh;
  if (dimension === 0) {
    for (let c = 0; c < cellCount(mesh); c++) add(location === 'cell' ? c : connectivity[offsets[c]], 1);
    return;
  }
  const weights = weightsOf(mesh, dimension as 1 | 2 | 3);
  const each = location === 'cell' ? weights.cells : pointWeights(mesh, weights);
  for (let i = 0; i < each.length; i++) if (each[i] !== 0) add(i, each[i]);
}

/** What a quantity comes to over the cells of the highest dimension; over points each counts once. */
export function summedOver(input: OperationInput, quantity: MeasuredQuantity, field: MeshField): Sums {
  const count = numbersOf(quantity, field);
  const out: Sums = { size: 0, missing: 0, sums: new Array(count).fill(0) };
  const values = new Float64Array(count);
  overWeights(input, field.location, (index, weight) => {
    measuredAt(quantity, field, index, values);
    if (values.some(Number.isNaN)) {
      out.missing += weight;
      return;
    }
    out.size += weight;
    for (let k = 0; k < count; k++) out.sums[k] += weight * values[k];
  });
  return out;
}
