import { ownName } from '../fields/quantity-sources.ts';
import { phrasesOf } from '../language/phrase.ts';
import { z } from '../model/schema.ts';
import { unitProduct } from '../model/unit-products.ts';
import type { OperationInput } from '../ops/chain/operation.ts';
import type { Lacking, Measure } from './measure.ts';
import {
  asAnswer,
  exampleOf,
  isVector,
  type MeasuredQuantity,
  measuredQuantity,
  measuredQuantityShape,
  needOf,
  unitOf,
} from './measured-quantity.ts';
import { joinSums, missingShare, type Sums, summedOver } from './summed.ts';

/** What is weighed by: the size of cells by itself, or asked for by its name. */
const over = ['size', 'volume', 'area', 'length'] as const;

export interface AverageOptions extends MeasuredQuantity {
  by: (typeof over)[number];
}

const p = phrasesOf<AverageOptions>();
const q = phrasesOf<MeasuredQuantity>();
const DIMENSION = { volume: 3, area: 2, length: 1 } as const;

const whatIs = ['points', 'lines', 'surfaces', 'bodies'];

function sumsOf(input: OperationInput, o: MeasuredQuantity): Sums | Lacking {
  const field = input.field({ field: o.field });
  if (!field) return { lacking: ownName(o.field) };
  return summedOver(input, o, field);
}

/** A quantity times the size of what it stands on, all together. */
export const integral: Measure<MeasuredQuantity, Sums & { dimension: number }> = {
  id: 'integral',
  name: 'Integral',
  purpose: 'a quantity over volume, area or length',
  schema: z.object(measuredQuantityShape),
  phrase: q.row(q.text('integral of '), measuredQuantity(), q.text(' over ')),
  asks: 'something',
  example: (s) => exampleOf('integral', s),
  isVector,
  needs: needOf,
  ofPart(input, o) {
    const { dimension } = input;
    if (dimension === 0 && input.mesh.types.length > 0)
      return { lacking: 'size: they are points. Ask for the sum' };
    const sums = sumsOf(input, o);
    return 'lacking' in sums ? sums : { ...sums, dimension };
  },
  join: (a, b) => ({ ...joinSums(a, b), dimension: Math.max(a.dimension, b.dimension) }),
  answer: (sums) => ({ value: asAnswer(sums.sums), ...missingShare(sums) }),
  unit: (o, s, { dimension }) => unitProduct([unitOf(o, s), 1], [s.lengthUnit, dimension]),
};

/** The mean of a quantity: weighted by volume, area or length of the cells, or of points each as one. */
export const average: Measure<AverageOptions, Sums> = {
  id: 'average',
  name: 'Average',
  purpose: 'the mean of a quantity, weighted by size',
  schema: z.object({ ...measuredQuantityShape, by: z.enum(over).default('size') }),
  phrase: p.row(
    p.oneOf(
      ...(['volume', 'area', 'length'] as const).map((by) =>
        p.row(p.text(`${by} average`), p.fixed('by', by)),
      ),
      p.row(p.text('average'), p.fixed('by', 'size')),
      p.row(p.text('mean'), p.fixed('by', 'size')),
    ),
    p.text(' of '),
    measuredQuantity(),
    p.text(' over '),
  ),
  asks: 'something',
  example: (s) => exampleOf('average', s),
  isVector,
  looksAt: (input, { by }) => (by === 'area' ? input.outer() : input),
  needs: needOf,
  ofPart(input, o) {
    const of = o.by === 'area' ? input.outer() : input;
    if (o.by !== 'size' && of.mesh.types.length > 0 && of.dimension !== DIMENSION[o.by])
      return { lacking: `${o.by} to weigh by: they are ${whatIs[of.dimension]}` };
    return sumsOf(of, o);
  },
  join: joinSums,
  answer: (sums) =>
    sums.size > 0
      ? { value: asAnswer(sums.sums.map((v) => v / sums.size)), ...missingShare(sums) }
      : { lacking: sums.missing > 0 ? 'value anywhere' : 'cells here: nothing is left of them' },
  unit: unitOf,
};
