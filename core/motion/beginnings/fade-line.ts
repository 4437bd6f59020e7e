import { phrasesOf } from '../../language/phrase.ts';
import { z } from '../../model/schema.ts';
import { bothEnds, even } from '../../scene/reel/ease.ts';
import type { Key } from '../../scene/reel/lane.ts';
import { type Beginning, lineByName } from './beginning.ts';

interface FadeLine {
  /** Id of the line. */
  line: string;
  way: 'in' | 'out' | 'in and out';
}

const p = phrasesOf<FadeLine>();

/** How much of its time a line takes to come, and to go, where it does both. */
const RISE = 0.25;

/** A line comes out of nothing, goes into it, or both. */
export const fadeLine: Beginning<FadeLine> = {
  id: 'fade',
  name: 'Fade a line',
  purpose: 'in, out, or in and out again',
  schema: z.object({ line: z.string(), way: z.enum(['in', 'out', 'in and out']) }),
  defaults: ({ lines }) =>
    lines.length > 0 ? { line: lines[0].value, way: 'in' } : 'There is no line to fade. Add one first.',
  phrase: p.row(
    p.text('fade '),
    lineByName('line'),
    p.text(' '),
    // The longer one first, or "in" would be read of it.
    p.choice('way', [
      { text: 'in and out', value: 'in and out' },
      { text: 'in', value: 'in' },
      { text: 'out', value: 'out' },
    ]),
  ),
  controls: ({ lines }) => [
    {
      kind: 'choice',
      key: 'line',
      label: 'What',
      choices: lines.map(({ text, value }) => ({ value, label: text })),
    },
    {
      kind: 'choice',
      key: 'way',
      label: 'Fades',
      choices: ['in', 'out', 'in and out'].map((value) => ({ value, label: value })),
    },
  ],
  ease: bothEnds,
  begin({ line, way }, { from, to, ease }, { scene }) {
    const opacity = scene.layers.find((l) => l.id === line)?.opacity;
    if (opacity === undefined) return { lanes: [] };
    const rise = RISE * (to - from);
    const keys: Record<FadeLine['way'], Key[]> = {
      in: [
        { at: from, value: 0, ease },
        { at: to, value: opacity, ease: even },
      ],
      out: [
        { at: from, value: opacity, ease },
        { at: to, value: 0, ease: even },
      ],
      'in and out': [
        { at: from, value: 0, ease },
        { at: from + rise, value: opacity, ease: even },
        { at: to - rise, value: opacity, ease },
        { at: to, value: 0, ease: even },
      ],
    };
    return { lanes: [{ of: ['layers', line, 'opacity'], keys: keys[way] }] };
  },
};
