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
  unitOf,
} from './measured-quantity.ts';
import { joinWeighed, type Weighed, weighed } from './weighed-values.ts';

export interface DeviationOptions extends MeasuredQuantity {
  what: 'deviation' | 'variance';
}

const d = phrasesOf<DeviationOptions>();

/** How far values lie from their mean, weighed by the size they stand for: the variance, or its root. */
export const deviation: Measure<DeviationOptions, Weighed> = {
  id: 'deviation',
  name: 'Deviation',
  purpose: 'how far values lie from their mean',
  schema: z.object({ ...measuredQuantityShape, what: z.enum(['deviation', 'variance']) }),
  phrase: d.row(
    d.oneOf(
      d.row(d.text('deviation of '), d.fixed('what', 'deviation')),
      d.row(d.text('standard deviation of '), d.fixed('what', 'deviation')),
      d.row(d.text('variance of '), d.fixed('what', 'variance')),
    ),
    measuredQuantity(),
    d.text(' over '),
  ),
  asks: 'something',
  example: (s) => exampleOf('deviation', s),
  needs: needOf,
  ofPart: weighed,
  join: joinWeighed,
  answer({ values, weights }, { what }) {
    const size = weights.reduce((a, b) => a + b, 0);
    if (!(size > 0)) return { lacking: 'value anywhere' };
    const mean = values.reduce((sum, v, i) => sum + weights[i] * v, 0) / size;
    const variance = values.reduce((sum, v, i) => sum + weights[i] * (v - mean) ** 2, 0) / size;
    return { value: what === 'variance' ? variance : Math.sqrt(variance) };
  },
  unit: (o, s) => (o.what === 'variance' ? unitProduct([unitOf(o, s), 2]) : unitOf(o, s)),
};

export interface PercentileOptions extends MeasuredQuantity {
  percent: number;
}

const q = phrasesOf<PercentileOptions>();

/** The value below which a share of the volume, area, length or number lies. */
export const percentile: Measure<PercentileOptions, Weighed> = {
  id: 'percentile',
  name: 'Percentile',
  purpose: 'the value below which a share lies',
  schema: z.object({
    ...measuredQuantityShape,
    percent: z.number().refine((v) => v >= 0 && v <= 100, 'a percentile lies between 0 and 100'),
  }),
  phrase: q.row(
    q.oneOf(
      q.row(q.text('median of '), q.fixed('percent', 50)),
      q.row(q.text('percentile '), q.number('percent'), q.text(' of ')),
      ...['th', 'st', 'nd', 'rd'].map((end) => q.row(q.number('percent'), q.text(`${end} percentile of `))),
    ),
    measuredQuantity(),
    q.text(' over '),
  ),
  asks: 'something',
  example: (s) => exampleOf('median', s),
  needs: needOf,
  ofPart: weighed,
  join: joinWeighed,
  answer({ values, weights }, { percent }) {
    if (values.length === 0) return { lacking: 'value anywhere' };
    const order = values.map((_, i) => i).sort((a, b) => values[a] - values[b]);
    const size = weights.reduce((a, b) => a + b, 0);
    // Each value stands in the middle of the share that is its own; between two it runs straight (Hazen 1914, definition 5 of
    // Hyndman, Fan: Sample quantiles in statistical packages, Am. Stat. 50 (1996) 361; from memory).
    const wanted = (percent / 100) * size;
    let before = 0;
    let [lastAt, lastValue] = [Number.NEGATIVE_INFINITY, values[order[0]]];
    for (const i of order) {
      const at = before + weights[i] / 2;
      if (at >= wanted) {
        const share = lastAt === Number.NEGATIVE_INFINITY ? 1 : (wanted - lastAt) / (at - lastAt);
        return { value: lastValue + share * (values[i] - lastValue) };
      }
      before += weights[i];
      [lastAt, lastValue] = [at, values[i]];
    }
    return { value: lastValue };
  },
  unit: unitOf,
};
