import { CellFinder } from '../fields/places/cell-finder.ts';
import { ownName } from '../fields/quantity-sources.ts';
import { phrasesOf } from '../language/phrase.ts';
import { cellsAround } from '../model/cells-around.ts';
import type { MeshField } from '../model/field.ts';
import { boundsCentre, type Mesh } from '../model/mesh.ts';
import { z } from '../model/schema.ts';
import type { OperationInput } from '../ops/chain/operation.ts';
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
import { type Picked, picked, pickedSchema, placeOfSpot } from './spot.ts';

export interface ValueAtOptions extends MeasuredQuantity {
  place: [number, number, number];
  /** A node or cell in place of the place; null for that. */
  picked: Picked | null;
}

interface Found {
  values: number[] | null;
  /** Where that is, in the coordinates of the files. */
  at: number[] | null;
}

const NOWHERE: Found = { values: null, at: null };

const p = phrasesOf<ValueAtOptions>();

/** A quantity at a place, as it runs between the nodes of the cell there; of what stands on cells that of the cell. */
export const valueAt: Measure<ValueAtOptions, Found> = {
  id: 'value at',
  name: 'Value',
  purpose: 'a quantity at a place',
  schema: z.object({
    ...measuredQuantityShape,
    place: z.tuple([z.number(), z.number(), z.number()]).default([0, 0, 0]),
    picked: pickedSchema.nullable().default(null),
  }),
  phrase: p.row(
    p.text('value of '),
    measuredQuantity(),
    p.text(' at '),
    p.oneOf(picked('picked'), p.row(p.fixed('picked', null), p.vector('place', 'length'))),
  ),
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
    if (o.picked) return atPicked(input, o, o.picked, field);
    if (input.dimension < 2) return NOWHERE;
    const finder = new CellFinder(input.mesh, input.blocks());
    const [x, y, z] = o.place.map((v, k) => v - input.origin[k]);
    if (!finder.find(x, y, z)) return NOWHERE;
    const n = numbersOf(o, field);
    const values = new Float64Array(n);
    if (field.location === 'cell') {
      measuredAt(o, field, finder.cell, values);
      return { values: [...values], at: o.place };
    }
    // Components run between the nodes, and the length of a vector is that of what they come to.
    const { components } = field;
    const between = new Float64Array(components);
    for (let k = 0; k < components; k++) between[k] = finder.between(field.data, components, k);
    measuredAt(o, { ...field, data: between }, 0, values);
    return { values: [...values], at: o.place };
  },
  join: (a, b) => (a.values ? a : b),
  answer({ values, at }, { picked: of }) {
    if (values && at) return { value: asAnswer(values), place: at };
    return { lacking: of ? `${of.kind} ${of.index} of "${of.part}"` : 'cell there: the place lies outside' };
  },
  unit: unitOf,
};

/** Of a node what stands there, or the mean of the cells around it; of a cell the same the other way round. */
function atPicked(input: OperationInput, o: ValueAtOptions, of: Picked, field: MeshField): Found {
  const at = placeOfSpot(of, input);
  if (!at) return NOWHERE;
  const { offsets, connectivity } = input.mesh;
  const own = (field.location === 'cell') === (of.kind === 'cell');
  const from = own
    ? [of.index]
    : of.kind === 'cell'
      ? [...connectivity.subarray(offsets[of.index], offsets[of.index + 1])]
      : cellsWith(input.mesh, of.index);
  const { components } = field;
  const mean = new Float64Array(components);
  for (const i of from)
    for (let k = 0; k < components; k++) mean[k] += field.data[components * i + k] / from.length;
  const values = new Float64Array(numbersOf(o, field));
  measuredAt(o, { ...field, data: mean }, 0, values);
  return { values: [...values], at };
}

function cellsWith(mesh: Mesh, node: number): number[] {
  const { starts, cells } = cellsAround(mesh);
  return [...cells.subarray(starts[node], starts[node + 1])];
}
