import { CellFinder } from '../fields/places/cell-finder.ts';
import { ownName } from '../fields/quantity-sources.ts';
import { phrasesOf } from '../language/phrase.ts';
import { boundsCentre } from '../model/mesh.ts';
import { z } from '../model/schema.ts';
import type { Measure } from './measure.ts';
import {
  asAnswer,
  isVector,
  type MeasuredQuantity,
  measuredAt,
  measuredQuantity,
  measuredQuantityShape,
  needOf,
  numbersOf,
  unitOf,
} from './measured-quantity.ts';

export interface ValueAtOptions extends MeasuredQuantity {
  place: [number, number, number];
}

const p = phrasesOf<ValueAtOptions>();

/** A quantity at a place, as it runs between the nodes of the cell there; of what stands on cells that of the cell. */
export const valueAt: Measure<ValueAtOptions, { values: number[] | null }> = {
  id: 'value at',
  name: 'Value',
  purpose: 'a quantity at a place',
  schema: z.object({ ...measuredQuantityShape, place: z.tuple([z.number(), z.number(), z.number()]) }),
  phrase: p.row(p.text('value of '), measuredQuantity(), p.text(' at '), p.vector('place', 'length')),
  asks: 'everything',
  example: ({ preferred, bounds }) =>
    preferred &&
    `value of ${preferred.name} at (${boundsCentre(bounds)
      .map((v) => Number(v.toPrecision(3)))
      .join(', ')})`,
  isVector,
  needs: needOf,
  ofPart(input, o) {
    const field = input.field({ field: o.field });
    if (!field) return { lacking: ownName(o.field) };
    if (input.dimension < 2) return { values: null };
    const finder = new CellFinder(input.mesh, input.blocks());
    const [x, y, z] = o.place.map((v, k) => v - input.origin[k]);
    if (!finder.find(x, y, z)) return { values: null };
    const n = numbersOf(o, field);
    const values = new Float64Array(n);
    if (field.location === 'cell') {
      measuredAt(o, field, finder.cell, values);
      return { values: [...values] };
    }
    // Components run between the nodes, and the length of a vector is that of what they come to.
    const { components } = field;
    const between = new Float64Array(components);
    for (let i = 0; i < finder.count; i++)
      for (let k = 0; k < components; k++)
        between[k] += finder.weights[i] * field.data[components * finder.nodes[i] + k];
    measuredAt(o, { ...field, data: between }, 0, values);
    return { values: [...values] };
  },
  join: (a, b) => (a.values ? a : b),
  answer: ({ values }, { place }) =>
    values ? { value: asAnswer(values), place } : { lacking: 'cell there: the place lies outside' },
  unit: unitOf,
};
