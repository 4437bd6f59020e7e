import { phrasesOf } from '../../language/phrase.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import type { Declaration } from '../things/declaration.ts';

/** How a chart is drawn, beside its curves. */
export interface ChartLook {
  /** Own title, or null to be called by its curves. */
  title: string | null;
  /** All curves in one plot, or each in its own. */
  arrange: 'together' | 'stacked' | 'side by side';
  logAlong: boolean;
  logUp: boolean;
  /** The stretch it shows of what its curves run along; null to show all of it. */
  from: number | null;
  to: number | null;
  legend: boolean;
  /** Where a curve over steps is at the step on show. */
  now: boolean;
}

const p = phrasesOf<ChartLook>();
const end = boundedNumber().nullable();

/** A chart of any number of curves. */
export const chart: Declaration<ChartLook> = {
  id: 'chart',
  name: 'the chart',
  schema: z.object({
    title: z.string().max(300).nullable(),
    arrange: z.enum(['together', 'stacked', 'side by side']),
    logAlong: z.boolean(),
    logUp: z.boolean(),
    from: end,
    to: end,
    legend: z.boolean(),
    now: z.boolean(),
  }),
  plain: {
    title: null,
    arrange: 'together',
    logAlong: false,
    logUp: false,
    from: null,
    to: null,
    legend: true,
    now: true,
  },
  opening: 'Chart',
  phrase: p.row(
    p.unless('title', null, p.text(' '), p.quoted('title')),
    p.suffixes(
      {
        usual: { arrange: 'together' },
        phrase: p.choice('arrange', [
          { text: 'stacked', value: 'stacked' },
          { text: 'side by side', value: 'side by side' },
        ]),
      },
      { usual: { logAlong: false }, phrase: p.row(p.text('logarithmic along'), p.fixed('logAlong', true)) },
      { usual: { logUp: false }, phrase: p.row(p.text('logarithmic up'), p.fixed('logUp', true)) },
      { usual: { from: null }, phrase: p.row(p.text('from '), p.number('from')) },
      { usual: { to: null }, phrase: p.row(p.text('to '), p.number('to')) },
      { usual: { legend: true }, phrase: p.row(p.text('without legend'), p.fixed('legend', false)) },
      { usual: { now: true }, phrase: p.row(p.text('without the present'), p.fixed('now', false)) },
    ),
  ),
  controls: [
    {
      kind: 'choice',
      key: 'arrange',
      label: 'Curves',
      choices: [
        { value: 'together', label: 'in one plot' },
        { value: 'stacked', label: 'one above the other' },
        { value: 'side by side', label: 'side by side' },
      ],
    },
    { kind: 'words', key: 'title', label: 'Title', hint: 'named by its curves' },
    { kind: 'tick', key: 'logUp', label: 'Logarithmic up' },
    { kind: 'tick', key: 'logAlong', label: 'Logarithmic along' },
    { kind: 'number', key: 'from', label: 'From', none: 'the beginning' },
    { kind: 'number', key: 'to', label: 'To', none: 'the end' },
    { kind: 'tick', key: 'legend', label: 'Legend' },
    { kind: 'tick', key: 'now', label: 'Mark the step on show' },
  ],
};
