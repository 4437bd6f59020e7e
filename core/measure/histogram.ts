import { phrasesOf } from '../language/phrase.ts';
import { z } from '../model/schema.ts';
import { unitProduct } from '../model/unit-products.ts';
import type { Measure } from './measure.ts';
import {
  exampleOf,
  type MeasuredQuantity,
  measuredQuantity,
  measuredQuantityShape,
  needOf,
  quantityNameOf,
  unitOf,
} from './measured-quantity.ts';
import { joinWeighed, type Weighed, weighed } from './weighed-values.ts';

export interface HistogramOptions extends MeasuredQuantity {
  bins: number;
}

const p = phrasesOf<HistogramOptions>();
const USUAL = 40;

/** How much volume, area or length has values within each of so many even stretches of the range; of points how many. */
export const histogram: Measure<HistogramOptions, Weighed & { dimension: number }> = {
  id: 'histogram',
  name: 'Histogram',
  purpose: 'how much has which values',
  schema: z.object({ ...measuredQuantityShape, bins: z.number().int().min(1).max(10_000).default(USUAL) }),
  phrase: p.row(p.text('histogram of '), measuredQuantity(), p.text(' over ')),
  clauses: p.unless('bins', USUAL, p.text(' in '), p.number('bins'), p.text(' bins')),
  asks: 'something',
  givesCurve: true,
  example: (s) => exampleOf('histogram', s),
  needs: needOf,
  ofPart(input, o) {
    const found = weighed(input, o);
    return 'lacking' in found ? found : { ...found, dimension: input.dimension };
  },
  join: (a, b) => ({ ...joinWeighed(a, b), dimension: Math.max(a.dimension, b.dimension) }),
  answer({ values, weights }, { bins }) {
    if (values.length === 0) return { lacking: 'value anywhere' };
    let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
    for (const v of values) [low, high] = [Math.min(low, v), Math.max(high, v)];
    const width = (high - low) / bins || 1;
    const heights = new Array<number>(bins).fill(0);
    let size = 0;
    for (const [i, v] of values.entries()) {
      heights[Math.min(bins - 1, Math.floor((v - low) / width))] += weights[i];
      size += weights[i];
    }
    const x = Array.from({ length: bins + 1 }, (_, i) => low + i * width);
    // The last one ends where the range does.
    return { value: size, curve: { x, y: [...heights, heights[bins - 1]], bars: true } };
  },
  unit: (_, s, { dimension }) => (dimension === 0 ? '' : unitProduct([s.lengthUnit, dimension])),
  axes: (o, s) => ({
    along: { name: quantityNameOf(o, s), unit: unitOf(o, s) },
    up: { name: `how much has which ${quantityNameOf(o, s)}`, unit: null },
  }),
};
