import { ownName } from '../fields/quantity-sources.ts';
import { phrasesOf } from '../language/phrase.ts';
import { z } from '../model/schema.ts';
import type { Measure } from './measure.ts';
import {
  type MeasuredQuantity,
  measuredQuantity,
  measuredQuantityShape,
  quantityNameOf,
  unitOf,
} from './measured-quantity.ts';

export interface ScatterOptions extends MeasuredQuantity {
  /** What it is drawn over. */
  over: MeasuredQuantity;
}

interface Pairs {
  /** How many there are; only so many of them are kept. */
  count: number;
  x: number[];
  y: number[];
}

const p = phrasesOf<ScatterOptions>();

/** More dots than this are one blot; of more, evenly chosen ones are kept. */
const MOST = 8000;

const over = measuredQuantity<MeasuredQuantity>();

function thinned({ count, x, y }: Pairs): Pairs {
  if (x.length <= MOST) return { count, x, y };
  const every = x.length / MOST;
  const kept = (list: number[]): number[] =>
    Array.from({ length: MOST }, (_, i) => list[Math.floor(i * every)]);
  return { count, x: kept(x), y: kept(y) };
}

/** One quantity over another, a dot for each point. */
export const scatter: Measure<ScatterOptions, Pairs> = {
  id: 'scatter',
  name: 'Scatter',
  purpose: 'one quantity over another, point by point',
  schema: z.object({ ...measuredQuantityShape, over: z.object(measuredQuantityShape) }),
  phrase: p.row(
    p.text('scatter of '),
    measuredQuantity(),
    p.text(' against '),
    {
      say: (o, s) => over.say(o.over, s),
      read(r, into, s) {
        const found: Partial<MeasuredQuantity> = {};
        if (!over.read(r, found, s)) return false;
        into.over = found as MeasuredQuantity;
        return true;
      },
    },
    p.text(' over '),
  ),
  asks: 'something',
  givesCurve: true,
  example({ preferred, quantities }) {
    const other = quantities.find((q) => q.field !== preferred?.field && q.location === preferred?.location);
    return preferred && other ? `scatter of ${preferred.name} against ${other.name} over everything` : null;
  },
  needs: (o) => [{ field: o.field }, { field: o.over.field }],
  ofPart(input, o) {
    const of = ({ field, component }: MeasuredQuantity): ArrayLike<number> | null =>
      input.scalar({ field }, component);
    const [y, x] = [of(o), of(o.over)];
    if (!y || !x) return { lacking: ownName(y ? o.over.field : o.field) };
    const out: Pairs = { count: 0, x: [], y: [] };
    // Points that no cell uses are not there.
    for (const node of new Set(input.mesh.connectivity)) {
      if (Number.isNaN(x[node]) || Number.isNaN(y[node])) continue;
      out.count++;
      out.x.push(x[node]);
      out.y.push(y[node]);
    }
    return thinned(out);
  },
  join: (a, b) => thinned({ count: a.count + b.count, x: [...a.x, ...b.x], y: [...a.y, ...b.y] }),
  answer: ({ count, x, y }) =>
    count > 0 ? { value: count, curve: { x, y, scattered: true } } : { lacking: 'point with both' },
  unit: () => '',
  axes: (o, s) => ({
    along: { name: quantityNameOf(o.over, s), unit: unitOf(o.over, s) },
    up: { name: quantityNameOf(o, s), unit: unitOf(o, s) },
  }),
};
