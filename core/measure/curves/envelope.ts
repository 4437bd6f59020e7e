import { phrasesOf } from '../../language/phrase.ts';
import { wholeNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import type { CurveWork } from './curve-work.ts';

export interface EnvelopeOptions {
  side: 'upper' | 'lower';
  /** How many places on each side are looked at. */
  reach: number;
}

const p = phrasesOf<EnvelopeOptions>();

/** What a waving curve stays below, or above: its highest or lowest value within reach, run straight from peak to peak. */
export const envelope: CurveWork<EnvelopeOptions> = {
  id: 'envelope',
  name: 'Envelope',
  purpose: 'what it stays below, or above',
  schema: z.object({ side: z.enum(['upper', 'lower']), reach: wholeNumber().min(1).max(100_000) }),
  defaults: (curve) => ({ side: 'upper', reach: Math.max(1, Math.round((curve?.x.length ?? 100) / 20)) }),
  phrase: p.row(
    p.choice('side', [
      { text: 'upper envelope', value: 'upper' },
      { text: 'lower envelope', value: 'lower' },
    ]),
    p.text(' within '),
    p.number('reach'),
    p.text(' places'),
  ),
  controls: [
    {
      kind: 'choice',
      key: 'side',
      label: 'Side',
      choices: [
        { value: 'upper', label: 'upper' },
        { value: 'lower', label: 'lower' },
      ],
    },
    { kind: 'number', key: 'reach', label: 'Places on each side', whole: true, range: () => [1, 100] },
  ],
  apply(curve, { side, reach }) {
    const sign = side === 'upper' ? 1 : -1;
    const { x, y } = curve;
    const peaks: number[] = [];
    for (let i = 0; i < y.length; i++) {
      if (Number.isNaN(y[i])) continue;
      let best = true;
      for (let j = Math.max(0, i - reach); best && j <= Math.min(y.length - 1, i + reach); j++)
        best = !(sign * y[j] > sign * y[i]);
      if (best) peaks.push(i);
    }
    if (peaks.length === 0) return curve;
    let after = 0;
    return {
      ...curve,
      y: y.map((_, i) => {
        while (after < peaks.length && peaks[after] < i) after++;
        const [a, b] = [peaks[Math.max(0, after - 1)], peaks[Math.min(after, peaks.length - 1)]];
        if (a === b || i <= a) return y[i <= a ? a : b];
        return i >= b ? y[b] : y[a] + ((x[i] - x[a]) / (x[b] - x[a])) * (y[b] - y[a]);
      }),
    };
  },
};
