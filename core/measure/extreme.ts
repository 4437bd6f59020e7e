import { ownName } from '../fields/quantity-sources.ts';
import { phrasesOf } from '../language/phrase.ts';
import { z } from '../model/schema.ts';
import type { Measure } from './measure.ts';
import {
  exampleOf,
  type MeasuredQuantity,
  measuredAt,
  measuredQuantity,
  measuredQuantityShape,
  needOf,
  unitOf,
} from './measured-quantity.ts';

export interface ExtremeOptions extends MeasuredQuantity {
  which: 'maximum' | 'minimum';
}

/** Null where nothing has a value. */
interface Found {
  best: { value: number; place: number[] } | null;
}

const p = phrasesOf<ExtremeOptions>();

/** The largest or smallest value, of vectors by their length, at points or cells as the field stands, and where it is. */
export const extreme: Measure<ExtremeOptions, Found> = {
  id: 'extreme',
  name: 'Extreme',
  purpose: 'the largest or smallest value, and where it is',
  schema: z.object({ ...measuredQuantityShape, which: z.enum(['maximum', 'minimum']) }),
  phrase: p.row(
    p.choice('which', [
      { text: 'maximum', value: 'maximum' },
      { text: 'minimum', value: 'minimum' },
      { text: 'highest', value: 'maximum' },
      { text: 'largest', value: 'maximum' },
      { text: 'lowest', value: 'minimum' },
      { text: 'smallest', value: 'minimum' },
    ]),
    p.text(' of '),
    measuredQuantity(),
    p.text(' over '),
  ),
  asks: 'something',
  example: (s) => exampleOf('maximum', s),
  needs: needOf,
  ofPart(input, o) {
    const field = input.field({ field: o.field });
    if (!field) return { lacking: ownName(o.field) };
    const { points, offsets, connectivity } = input.mesh;
    const sign = o.which === 'maximum' ? 1 : -1;
    const value = new Float64Array(1);
    const quantity = { ...o, whole: false };
    let [best, at] = [Number.NaN, -1];
    const look = (index: number): void => {
      measuredAt(quantity, field, index, value);
      if (Number.isNaN(value[0]) || (at >= 0 && sign * value[0] <= sign * best)) return;
      [best, at] = [value[0], index];
    };
    // Points that no cell uses are not there.
    if (field.location === 'cell') for (let c = 0; c + 1 < offsets.length; c++) look(c);
    else for (const node of connectivity) look(node);
    if (at < 0) return { best: null };
    const nodes = field.location === 'cell' ? connectivity.subarray(offsets[at], offsets[at + 1]) : [at];
    const place = [0, 1, 2].map(
      (k) =>
        Array.from(nodes).reduce((sum, n) => sum + points[3 * n + k], 0) / nodes.length + input.origin[k],
    );
    return { best: { value: best, place } };
  },
  join(a, b, { which }) {
    if (!a.best || !b.best) return a.best ? a : b;
    return a.best.value >= b.best.value === (which === 'maximum') ? a : b;
  },
  answer: ({ best }) => best ?? { lacking: 'value anywhere' },
  unit: unitOf,
};
