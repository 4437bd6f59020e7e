import { phrasesOf } from '../../language/phrase.ts';
import { wholeNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import type { CurveWork } from './curve-work.ts';

export interface SmoothingOptions {
  /** How many places each mean is taken over. */
  places: number;
}

const p = phrasesOf<SmoothingOptions>();

/** Each value the mean of itself and its neighbours on both sides; towards the ends of fewer, so that nothing is late. */
export const smoothing: CurveWork<SmoothingOptions> = {
  id: 'smoothing',
  name: 'Moving average',
  purpose: 'the mean over neighbours',
  schema: z.object({ places: wholeNumber().min(1).max(100_001) }),
  defaults: () => ({ places: 5 }),
  phrase: p.row(p.text('moving average over '), p.number('places'), p.text(' places')),
  controls: [{ kind: 'number', key: 'places', label: 'Places', whole: true, range: () => [1, 51] }],
  apply(curve, { places }) {
    const { y } = curve;
    const half = Math.floor(places / 2);
    const sums = new Float64Array(y.length + 1);
    const counts = new Uint32Array(y.length + 1);
    for (let i = 0; i < y.length; i++) {
      const gap = Number.isNaN(y[i]);
      sums[i + 1] = sums[i] + (gap ? 0 : y[i]);
      counts[i + 1] = counts[i] + (gap ? 0 : 1);
    }
    return {
      ...curve,
      y: y.map((_, i) => {
        const reach = Math.min(half, i, y.length - 1 - i);
        const [from, to] = [i - reach, i + reach + 1];
        return (sums[to] - sums[from]) / (counts[to] - counts[from]);
      }),
    };
  },
};
