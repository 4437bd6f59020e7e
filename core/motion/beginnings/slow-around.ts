import { phrasesOf } from '../../language/phrase.ts';
import { boundedNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import { type Ease, even } from '../../scene/reel/ease.ts';
import type { Key } from '../../scene/reel/lane.ts';
import { TIME } from '../keyed-values.ts';
import { placeOf } from '../time-map.ts';
import { type Beginning, settingOfBeginning } from './beginning.ts';
import { ONE_STEP, stretchOfRun } from './play-results.ts';

interface SlowAround {
  /** The middle of what is slow, as a place along the steps. */
  event: number;
  /** How long it is slow, on both sides together, in the same. */
  width: number;
  /** How many times slower. */
  times: number;
}

const p = phrasesOf<SlowAround>();
const unitOf = (_: unknown, setting: object): string | null => settingOfBeginning(setting).places.unit;

/** The results once, with the time around an event stretched; the speed goes over without a jerk. */
export const slowAround: Beginning<SlowAround> = {
  id: 'slow around',
  name: 'Slow around an event',
  purpose: 'the results once, with one moment stretched',
  schema: z.object({
    event: boundedNumber(),
    width: boundedNumber().positive(),
    times: boundedNumber().min(1).max(1000),
  }),
  defaults(setting) {
    const { places, scene } = setting;
    if (places.values.length < 2) return ONE_STEP;
    const [first, last] = stretchOfRun(setting);
    const now = Math.min(last, Math.max(first, placeOf(places, scene)));
    const atEnd = now <= first || now >= last;
    return {
      event: atEnd ? (first + last) / 2 : now,
      width: Number(((last - first) / 8).toPrecision(3)),
      times: 5,
    };
  },
  phrase: p.row(
    p.text('slow around '),
    p.number('event', unitOf),
    p.text(' for '),
    p.number('width', unitOf),
    p.text(', '),
    p.number('times'),
    p.text(' times slower'),
  ),
  controls: (setting) => [
    { kind: 'number', key: 'event', label: 'Around', range: () => stretchOfRun(setting) },
    { kind: 'number', key: 'width', label: 'For' },
    { kind: 'number', key: 'times', label: 'Times slower', range: () => [1, 20] },
  ],
  ease: even,
  begin({ event, width, times }, { from, to }, setting) {
    const [first, last] = stretchOfRun(setting);
    const low = Math.max(first, event - width / 2);
    const high = Math.min(last, event + width / 2);
    const slow = Math.max(0, high - low);
    // Both paces together take the time there is.
    const pace = (last - first + slow * (times - 1)) / (to - from);
    const began = from + (low - first) / pace;
    const ended = began + (slow * times) / pace;
    const keys: Key[] = [
      { at: from, value: first, ease: between(1, joined(times)) },
      { at: began, value: low, ease: between(joined(times) * times, joined(times) * times) },
      { at: ended, value: high, ease: between(joined(times), 1) },
      { at: to, value: last, ease: even },
    ];
    return { lanes: [{ of: TIME, keys }] };
  },
};

/**
 * The speed where both meet, as a share of the faster one: the mean of both, but no more than twice the slower one, or the
 * curve between would turn back (Fritsch and Carlson, "Monotone piecewise cubic interpolation", 1980; from memory).
 */
const joined = (times: number): number => Math.min((1 + 1 / times) / 2, 2 / times);

/** A curve that begins and ends at speeds, as shares of that between its ends. */
const between = (begins: number, ends: number): Ease => ({
  kind: 'curve',
  handles: [1 / 3, Math.min(3, begins / 3), 2 / 3, Math.max(-2, 1 - ends / 3)],
});
