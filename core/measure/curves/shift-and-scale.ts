import { phrasesOf } from '../../language/phrase.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import type { CurveWork } from './curve-work.ts';

export interface ShiftOptions {
  along: number;
  up: number;
}

const s = phrasesOf<ShiftOptions>();

/** Moved along what it runs over, and up or down. */
export const shifting: CurveWork<ShiftOptions> = {
  id: 'shift',
  name: 'Shift',
  purpose: 'earlier or later, up or down',
  schema: z.object({ along: boundedNumber(), up: boundedNumber() }),
  defaults: () => ({ along: 0, up: 0 }),
  phrase: s.row(
    s.text('shifted by '),
    s.number('along'),
    s.text(' along and '),
    s.number('up'),
    s.text(' up'),
  ),
  controls: [
    { kind: 'number', key: 'along', label: 'Along' },
    { kind: 'number', key: 'up', label: 'Up' },
  ],
  apply: (curve, { along, up }) => ({
    ...curve,
    x: curve.x.map((v) => v + along),
    y: curve.y.map((v) => v + up),
  }),
};

export interface ScaleOptions {
  along: number;
  up: number;
}

const t = phrasesOf<ScaleOptions>();

/** Times a number, for units and signs. */
export const scaling: CurveWork<ScaleOptions> = {
  id: 'scale',
  name: 'Scale',
  purpose: 'times a number, for units and signs',
  schema: z.object({ along: boundedNumber(), up: boundedNumber() }),
  defaults: () => ({ along: 1, up: 1 }),
  phrase: t.row(
    t.text('times '),
    t.number('up'),
    t.unless('along', 1, t.text(' and '), t.number('along'), t.text(' along')),
  ),
  controls: [
    { kind: 'number', key: 'up', label: 'Values times' },
    { kind: 'number', key: 'along', label: 'Places times' },
  ],
  apply(curve, { along, up }) {
    if (along === 0) throw new Error('All places would be one. Choose another number than 0.');
    const [x, y] = [curve.x.map((v) => v * along), curve.y.map((v) => v * up)];
    return { ...curve, ...(along < 0 ? { x: x.reverse(), y: y.reverse() } : { x, y }) };
  },
};
