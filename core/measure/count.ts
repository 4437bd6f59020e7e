import { ownName } from '../fields/quantity-sources.ts';
import { phrasesOf } from '../language/phrase.ts';
import { quoteIfNeeded } from '../language/sentence.ts';
import { cellTypeById } from '../model/cell-types.ts';
import { z } from '../model/schema.ts';
import { unitProduct } from '../model/unit-products.ts';
import type { Measure } from './measure.ts';
import {
  asAnswer,
  exampleOf,
  isVector,
  type MeasuredQuantity,
  measuredAt,
  measuredQuantity,
  measuredQuantityShape,
  needOf,
  numbersOf,
  unitOf,
} from './measured-quantity.ts';
import { usedPoints } from './summed.ts';

export type CountOptions = { of: 'cells' | 'points' };

const c = phrasesOf<CountOptions>();

/** How many cells of the highest dimension there are; of particles and atoms how many of these. */
export const count: Measure<CountOptions, { count: number }> = {
  id: 'count',
  name: 'Count',
  purpose: 'how many there are',
  schema: z.object({ of: z.enum(['cells', 'points']).default('cells') }),
  phrase: c.row(
    c.oneOf(
      c.row(c.text('count of points of '), c.fixed('of', 'points')),
      c.row(c.text('count of '), c.fixed('of', 'cells')),
      c.row(c.text('number of '), c.fixed('of', 'cells')),
    ),
  ),
  asks: 'something',
  example: ({ particles }) => `count of ${particles[0] ? quoteIfNeeded(particles[0]) : 'everything'}`,
  needs: () => [],
  ofPart({ mesh, dimension }, { of }) {
    if (of === 'points') return { count: usedPoints(mesh).length };
    return { count: mesh.types.reduce((n, id) => n + Number(cellTypeById[id]!.dimension === dimension), 0) };
  },
  join: (a, b) => ({ count: a.count + b.count }),
  answer: ({ count: value }) => ({ value }),
  unit: () => '',
};

export interface SumOptions extends MeasuredQuantity {
  squares: boolean;
}

const s = phrasesOf<SumOptions>();

/** Values one by one, or their squares, each point or cell as one: what particles carry together. */
export const sum: Measure<SumOptions, { sums: number[] }> = {
  id: 'sum',
  name: 'Sum',
  purpose: 'values of points or cells, each counted once',
  schema: z.object({ ...measuredQuantityShape, squares: z.boolean().default(false) }),
  phrase: s.row(
    s.oneOf(
      s.row(s.text('sum of squares of '), s.fixed('squares', true)),
      s.row(s.text('sum of '), s.fixed('squares', false)),
    ),
    measuredQuantity(),
    s.text(' over '),
  ),
  asks: 'something',
  example: (s) => exampleOf('sum', s),
  isVector,
  needs: needOf,
  ofPart({ mesh, field: fieldOf }, o) {
    const field = fieldOf({ field: o.field });
    if (!field) return { lacking: ownName(o.field) };
    const n = numbersOf(o, field);
    const sums: number[] = new Array(n).fill(0);
    const values = new Float64Array(n);
    const used = field.location === 'cell' ? mesh.types.keys() : usedPoints(mesh);
    for (const index of used) {
      measuredAt(o, field, index, values);
      if (!values.some(Number.isNaN))
        for (let k = 0; k < n; k++) sums[k] += o.squares ? values[k] ** 2 : values[k];
    }
    return { sums };
  },
  join: (a, b) => ({ sums: a.sums.map((v, k) => v + b.sums[k]) }),
  answer: ({ sums }) => ({ value: asAnswer(sums) }),
  unit: (o, setting) => (o.squares ? unitProduct([unitOf(o, setting), 2]) : unitOf(o, setting)),
};
