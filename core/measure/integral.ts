import { ownName } from '../fields/quantity-sources.ts';
import { phrasesOf } from '../language/phrase.ts';
import { z } from '../model/schema.ts';
import { unitProduct } from '../model/unit-products.ts';
import type { OperationInput } from '../ops/chain/operation.ts';
import { isLacking, type Lacking, type Measure } from './measure.ts';
import {
  asAnswer,
  exampleOf,
  isVector,
  type MeasuredQuantity,
  measuredQuantity,
  measuredQuantityShape,
  needOf,
  numbersOf,
  unitOf,
} from './measured-quantity.ts';
import { eachPlace } from './places.ts';
import { joinSums, missingShare, type Sums, summedOver } from './summed.ts';
import {
  byDensity,
  flowWeigher,
  type Weighting,
  weigher,
  weightedBy,
  weightingShape,
  weightNeeds,
} from './weighting.ts';

/** What is weighed by: the size of cells by itself, or asked for by its name. */
const over = ['size', 'volume', 'area', 'length'] as const;

export interface AverageOptions extends MeasuredQuantity, Weighting {
  by: (typeof over)[number];
  /** The weight is a flow through faces, not a density. */
  through: boolean;
  /** The direction in which that counts as forward; null for outwards, or as faces look. */
  along: [number, number, number] | null;
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

/** Sums in which each place counts by its weight, or by what flows through it. */
function weighedSums(input: OperationInput, o: AverageOptions): Sums | Lacking {
  const field = input.field({ field: o.field });
  if (!field) return { lacking: ownName(o.field) };
  const weighed = o.through ? flowWeigher(input, o.weight, o.along) : weigher(input, o);
  if (isLacking(weighed)) return weighed;
  const count = numbersOf(o, field);
  const out: Sums = { size: 0, missing: 0, sums: new Array(count).fill(0) };
  const values = new Float64Array(count);
  eachPlace(input, (place) => {
    place.measure(o, field, values);
    const w = weighed(place) * (o.through ? 1 : place.size);
    if (values.some(Number.isNaN) || Number.isNaN(w)) {
      out.missing += Math.abs(w) || 0;
      return;
    }
    out.size += w;
    for (let k = 0; k < count; k++) out.sums[k] += w * values[k];
  });
  return out;
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

/**
 * The mean of a quantity: weighted by volume, area or length of the cells, or of points each as one; and by another quantity, such
 * as a density, or by what flows through faces.
 */
export const average: Measure<AverageOptions, Sums> = {
  id: 'average',
  name: 'Average',
  purpose: 'the mean of a quantity, weighted by size',
  schema: z.object({
    ...measuredQuantityShape,
    ...weightingShape,
    by: z.enum(over).default('size'),
    through: z.boolean().default(false),
    along: z.tuple([z.number(), z.number(), z.number()]).nullable().default(null),
  }),
  phrase: p.row(
    p.oneOf(
      p.row(
        p.oneOf(p.text('mass average'), p.text('mass-weighted average')),
        p.fixed('by', 'size'),
        byDensity('“average of … weighted by …” with a quantity, or with a formula in brackets'),
      ),
      ...(['volume', 'area', 'length'] as const).map((by) =>
        p.row(p.text(`${by} average`), p.fixed('by', by)),
      ),
      p.row(p.text('average'), p.fixed('by', 'size')),
      p.row(p.text('mean'), p.fixed('by', 'size')),
    ),
    p.text(' of '),
    measuredQuantity(),
    p.oneOf(
      p.row(
        p.text(' weighted by flow of '),
        p.vectorQuantity('weight', 'weightComponent'),
        p.fixed('through', true),
      ),
      p.row(weightedBy(), p.fixed('through', false)),
    ),
    p.text(' over '),
  ),
  asks: 'something',
  example: (s) => exampleOf('average', s),
  isVector,
  looksAt: (input, { by, through }) => (by === 'area' || through ? input.outer() : input),
  needs: (o) => [...needOf(o), ...weightNeeds(o)],
  facing: (o, along) => (o.through ? { ...o, along: along as AverageOptions['along'] } : o),
  ofPart(input, o) {
    const of = o.by === 'area' || o.through ? input.outer() : input;
    if (o.by !== 'size' && of.mesh.types.length > 0 && of.dimension !== DIMENSION[o.by])
      return { lacking: `${o.by} to weigh by: they are ${whatIs[of.dimension]}` };
    return o.weight ? weighedSums(of, o) : sumsOf(of, o);
  },
  join: joinSums,
  answer: (sums) =>
    sums.size !== 0
      ? { value: asAnswer(sums.sums.map((v) => v / sums.size)), ...missingShare(sums) }
      : { lacking: sums.missing > 0 ? 'value anywhere' : 'cells here: nothing is left of them' },
  unit: unitOf,
};
