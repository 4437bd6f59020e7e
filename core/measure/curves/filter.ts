import { phrasesOf } from '../../language/phrase.ts';
import { boundedNumber, wholeNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import type { CurveWork } from './curve-work.ts';
import { evenPlaces, sayEven } from './even-places.ts';
import { filtered, filteredBothWays, filterSections } from './recursive-filter.ts';

export interface FilterOptions {
  kind: 'butterworth' | 'chebyshev';
  pass: 'low' | 'high';
  order: number;
  /** In waves to one of what the curve runs along: hertz for seconds. */
  cutoff: number;
  ripple: number;
  phaseFree: boolean;
}

const p = phrasesOf<FilterOptions>();

/** A recursive filter of a curve; see `recursive-filter.ts`. */
export const filter: CurveWork<FilterOptions> = {
  id: 'filter',
  name: 'Filter',
  purpose: 'takes fast or slow waves out',
  schema: z.object({
    kind: z.enum(['butterworth', 'chebyshev']),
    pass: z.enum(['low', 'high']),
    order: wholeNumber().min(1).max(12),
    cutoff: boundedNumber().min(1e-30),
    ripple: boundedNumber().min(0.001).max(12),
    phaseFree: z.boolean(),
  }),
  defaults(curve) {
    const span = curve && curve.x.length > 1 ? curve.x.at(-1)! - curve.x[0] : 1;
    const rate = curve && span > 0 ? (curve.x.length - 1) / span : 1;
    return {
      kind: 'butterworth',
      pass: 'low',
      order: 4,
      cutoff: Number((rate / 10).toPrecision(2)),
      ripple: 0.5,
      phaseFree: true,
    };
  },
  phrase: p.row(
    p.choice('kind', [
      { text: 'Butterworth', value: 'butterworth' },
      { text: 'Chebyshev', value: 'chebyshev' },
    ]),
    p.text(' '),
    p.choice('pass', [
      { text: 'low pass', value: 'low' },
      { text: 'high pass', value: 'high' },
    ]),
    p.text(' of order '),
    p.number('order'),
    p.text(' at '),
    p.number('cutoff'),
    p.unless('ripple', 0.5, p.text(' with '), p.number('ripple'), p.text(' dB ripple')),
    p.oneOf(
      p.row(p.text(' without delay'), p.fixed('phaseFree', true)),
      p.row(p.text(' with delay'), p.fixed('phaseFree', false)),
    ),
  ),
  controls: [
    {
      kind: 'choice',
      key: 'kind',
      label: 'Kind',
      choices: [
        { value: 'butterworth', label: 'Butterworth, flat where it passes' },
        { value: 'chebyshev', label: 'Chebyshev, steeper, with ripple' },
      ],
    },
    {
      kind: 'choice',
      key: 'pass',
      label: 'Lets through',
      choices: [
        { value: 'low', label: 'slow waves' },
        { value: 'high', label: 'fast waves' },
      ],
    },
    { kind: 'number', key: 'cutoff', label: 'Cut-off' },
    { kind: 'number', key: 'order', label: 'Order', whole: true, range: () => [1, 8] },
    {
      kind: 'number',
      key: 'ripple',
      label: 'Ripple, dB',
      range: () => [0.1, 3],
      when: ({ kind }) => kind === 'chebyshev',
    },
    { kind: 'tick', key: 'phaseFree', label: 'Without delay (forward and backward)' },
  ],
  apply(curve, { phaseFree, cutoff, ...design }) {
    const even = evenPlaces(curve);
    const share = cutoff * even.step;
    if (!(share < 0.5))
      throw new Error(
        `The cut-off of ${cutoff} is beyond half of its ${Number((1 / even.step).toPrecision(4))} places to one ${curve.along.unit ?? ''}. Choose a lower one.`,
      );
    const sections = filterSections({ ...design, cutoff: share });
    const y = phaseFree ? filteredBothWays(even.y, sections) : filtered(even.y, sections);
    return { ...curve, x: even.x, y, notes: [...(curve.notes ?? []), ...sayEven(even)] };
  },
};
