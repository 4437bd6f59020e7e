import { fieldUnit, phrasesOf } from '../language/phrase.ts';
import { boundedNumber, wholeNumber } from '../model/bounded-number.ts';
import { z } from '../model/schema.ts';
import type { Operation } from './chain/operation.ts';
import { cutAtValues } from './isosurface.ts';

export interface ContourOptions {
  field: string;
  component: number | 'magnitude';
  /** The boundaries of the colour scale, `count` even values between low and high without these, or a list. */
  mode: 'scale' | 'count' | 'list';
  count: number;
  low: number;
  high: number;
  values: number[];
  labels: boolean;
}

const p = phrasesOf<ContourOptions>();

/** Lines of equal value on a surface; of a body, on its outer faces. */
export const contourLines: Operation<ContourOptions> = {
  id: 'contour-lines',
  name: 'Contour lines',
  purpose: 'lines of equal value on a surface',
  opening: 'Contour lines on ',
  joining: ', its contour lines',
  schema: z.object({
    field: z.string(),
    component: z.union([wholeNumber(), z.literal('magnitude')]),
    mode: z.enum(['scale', 'count', 'list']).default('count'),
    count: wholeNumber().min(1).max(100).default(10),
    low: boundedNumber().default(0),
    high: boundedNumber().default(1),
    values: z.array(boundedNumber()).max(200).default([]),
    labels: z.boolean().default(false),
  }),
  defaults: ({ preferred }) => ({
    field: preferred?.field ?? '',
    component: preferred?.component ?? 0,
    mode: 'count',
    count: 10,
    low: preferred?.low ?? 0,
    high: preferred?.high ?? 1,
    values: [],
    labels: false,
  }),
  phrase: p.row(
    p.text(' of '),
    p.quantity('field', 'component'),
    p.text(' at '),
    p.oneOf(
      p.row(p.fixed('mode', 'scale'), p.text('the levels of its colours')),
      p.row(
        p.fixed('mode', 'count'),
        p.number('count'),
        p.text(' levels from '),
        p.number('low', fieldUnit),
        p.text(' to '),
        p.number('high', fieldUnit),
      ),
      p.row(p.fixed('mode', 'list'), p.numbers('values', fieldUnit)),
    ),
    p.flag('labels', ' with their values'),
  ),
  controls: [
    { kind: 'quantity', key: 'field', component: 'component', label: 'Of' },
    {
      kind: 'choice',
      key: 'mode',
      label: 'At',
      choices: [
        { value: 'count', label: 'even levels' },
        { value: 'scale', label: 'levels of its colours' },
        { value: 'list', label: 'single values' },
      ],
    },
    {
      kind: 'number',
      key: 'count',
      label: 'How many',
      whole: true,
      range: () => [1, 40],
      when: (o) => o.mode === 'count',
    },
    { kind: 'span', key: 'low', high: 'high', label: 'Between', when: (o) => o.mode === 'count' },
    { kind: 'numbers', key: 'values', label: 'Values', when: (o) => o.mode === 'list' },
    { kind: 'tick', key: 'labels', label: 'Values written on the lines' },
  ],
  gives: (dimension) => Math.max(0, Math.min(2, dimension) - 1),
  fits: ({ quantities }) => quantities.length > 0,
  needs: ({ field }) => [{ field }],
  settle: (o, { levels }) => (o.mode === 'scale' ? { ...o, values: [...levels] } : o),
  // Of a body the lines lie on its outer faces.
  on: 'faces',
  run(input, options) {
    const { mode, count, low, high, values } = options;
    const even = Array.from({ length: count }, (_, k) => low + ((k + 1) * (high - low)) / (count + 1));
    return cutAtValues(input, options, mode === 'count' ? even : values, options.labels);
  },
};
