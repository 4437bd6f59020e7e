import { ownName } from '../fields/quantity-sources.ts';
import { cellCount } from '../model/mesh.ts';
import type { OperationInput } from '../ops/chain/operation.ts';
import type { Lacking } from './measure.ts';
import { type MeasuredQuantity, measuredAt } from './measured-quantity.ts';
import { overWeights } from './summed.ts';

/** Values and the volume, area or length each stands for; of points each stands for one. */
export interface Weighed {
  values: number[];
  weights: number[];
}

export function weighed(input: OperationInput, quantity: MeasuredQuantity): Weighed | Lacking {
  const field = input.field({ field: quantity.field });
  if (!field) return { lacking: ownName(quantity.field) };
  const { mesh } = input;
  const count = field.location === 'cell' ? cellCount(mesh) : mesh.points.length / 3;
  const all = new Float64Array(count);
  overWeights(input, field.location, (index, weight) => {
    all[index] += weight;
  });
  const out: Weighed = { values: [], weights: [] };
  const value = new Float64Array(1);
  for (let i = 0; i < count; i++) {
    if (all[i] === 0) continue;
    measuredAt({ ...quantity, whole: false }, field, i, value);
    if (Number.isNaN(value[0])) continue;
    out.values.push(value[0]);
    out.weights.push(all[i]);
  }
  return out;
}

export const joinWeighed = (a: Weighed, b: Weighed): Weighed => ({
  values: [...a.values, ...b.values],
  weights: [...a.weights, ...b.weights],
});
