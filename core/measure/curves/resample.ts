import { phrasesOf } from '../../language/phrase.ts';
import { wholeNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { curveAt } from './curve-data.ts';
import type { CurveWork } from './curve-work.ts';

export interface ResampleOptions {
  count: number;
}

const p = phrasesOf<ResampleOptions>();

/** At so many places, all as far apart; between its own it runs straight. */
export const resampling: CurveWork<ResampleOptions> = {
  id: 'resample',
  name: 'Resample',
  purpose: 'at even places, more or fewer',
  schema: z.object({ count: wholeNumber().min(2).max(1_000_000) }),
  defaults: (curve) => ({ count: Math.max(2, curve?.x.length ?? 100) }),
  phrase: p.row(p.text('at '), p.number('count'), p.text(' even places')),
  controls: [{ kind: 'number', key: 'count', label: 'Places', whole: true, range: () => [2, 2000] }],
  apply(curve, { count }) {
    const [first, last] = [curve.x[0], curve.x.at(-1)!];
    const x = Float64Array.from({ length: count }, (_, i) =>
      i === count - 1 ? last : first + (i * (last - first)) / (count - 1),
    );
    return { ...curve, x, y: x.map((at) => curveAt(curve, at)) };
  },
};
