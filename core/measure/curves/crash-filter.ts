import { phrasesOf } from '../../language/phrase.ts';
import { z } from '../../model/schema.ts';
import { secondsIn } from '../../model/units.ts';
import type { CurveWork } from './curve-work.ts';
import { evenPlaces, sayEven } from './even-places.ts';
import { filteredBothWays, type Section } from './recursive-filter.ts';

const classes = [60, 180, 600, 1000] as const;

export interface CrashFilterOptions {
  class: (typeof classes)[number];
}

const p = phrasesOf<CrashFilterOptions>();

/**
 * The section of a channel frequency class for samples so many seconds apart; it is gone through forward and backward
 * (SAE J211-1, appendix C; from memory).
 */
export function channelSection(channel: number, seconds: number): Section {
  const w = Math.tan(Math.PI * channel * 2.0775 * seconds);
  const norm = 1 + Math.SQRT2 * w + w * w;
  const a0 = (w * w) / norm;
  return {
    b: [a0, 2 * a0, a0],
    a: [(2 * (w * w - 1)) / norm, (1 - Math.SQRT2 * w + w * w) / norm],
  };
}

/** The filters by which impact tests are told: of a channel frequency class, without delay. */
export const crashFilter: CurveWork<CrashFilterOptions> = {
  id: 'channel class',
  name: 'Channel class',
  purpose: 'CFC 60 to 1000 of SAE J211, for impacts',
  schema: z.object({ class: z.union([z.literal(60), z.literal(180), z.literal(600), z.literal(1000)]) }),
  defaults: () => ({ class: 180 }),
  phrase: p.choice(
    'class',
    classes.map((value) => ({ text: `CFC ${value}`, value })),
  ),
  controls: [
    {
      kind: 'choice',
      key: 'class',
      label: 'Class',
      choices: classes.map((value) => ({ value: value as unknown as string, label: `CFC ${value}` })),
    },
  ],
  apply(curve, { class: channel }) {
    const even = evenPlaces(curve);
    const seconds = secondsIn[curve.along.unit ?? 's'];
    if (seconds === undefined)
      throw new Error('A channel class is for curves over time. Choose a filter with a cut-off.');
    // The sampling has to be ten times as fast as the class.
    const step = even.step * seconds;
    if (channel * 2.0775 * step >= 0.5)
      throw new Error(
        `Its places are too far apart for CFC ${channel}: ${Number((1 / step).toPrecision(3))} a second. Choose a lower class.`,
      );
    return {
      ...curve,
      x: even.x,
      y: filteredBothWays(even.y, [channelSection(channel, step)]),
      notes: [...(curve.notes ?? []), ...sayEven(even)],
    };
  },
};
