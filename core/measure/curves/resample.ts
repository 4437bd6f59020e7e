import { phrasesOf } from '../../language/phrase.ts';
import { wholeNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { type CurveData, curveAt } from './curve-data.ts';
import type { CurveWork } from './curve-work.ts';
import { splineAt, splineThrough } from './spline.ts';

export interface ResampleOptions {
  count: number;
  /** How it runs between its own places. */
  between: 'line' | 'spline';
}

const p = phrasesOf<ResampleOptions>();

/** At so many places, all as far apart; between its own it runs straight, or as a spline. */
export const resampling: CurveWork<ResampleOptions> = {
  id: 'resample',
  name: 'Resample',
  purpose: 'at even places, more or fewer',
  schema: z.object({
    count: wholeNumber().min(2).max(1_000_000),
    between: z.enum(['line', 'spline']).default('line'),
  }),
  defaults: (curve) => ({ count: Math.max(2, curve?.x.length ?? 100), between: 'line' }),
  phrase: p.row(
    p.text('at '),
    p.number('count'),
    p.text(' even places'),
    p.flag('between', ' of a spline', 'spline', 'line'),
  ),
  controls: [
    { kind: 'number', key: 'count', label: 'Places', whole: true, range: () => [2, 2000] },
    {
      kind: 'choice',
      key: 'between',
      label: 'Between its own places',
      choices: [
        { value: 'line', label: 'straight' },
        { value: 'spline', label: 'a spline' },
      ],
    },
  ],
  apply(curve, { count, between }) {
    const [first, last] = [curve.x[0], curve.x.at(-1)!];
    const x = Float64Array.from({ length: count }, (_, i) =>
      i === count - 1 ? last : first + (i * (last - first)) / (count - 1),
    );
    if (between === 'line') return { ...curve, x, y: x.map((at) => curveAt(curve, at)) };
    const own = smoothPlaces(curve);
    if (own.x.length < 2) throw new Error('A spline needs two places with values, at least.');
    const spline = splineThrough(own.x, own.y);
    return { ...curve, x, y: x.map((at) => splineAt(spline, at)) };
  },
};

/** Places with values, each once. */
function smoothPlaces({ x, y }: CurveData): { x: number[]; y: number[] } {
  const out = { x: [] as number[], y: [] as number[] };
  for (const [i, at] of x.entries()) {
    if (Number.isNaN(y[i]) || at === out.x.at(-1)) continue;
    out.x.push(at);
    out.y.push(y[i]);
  }
  return out;
}
