import { phrasesOf } from '../../language/phrase.ts';
import { nearestPlace } from '../../model/along-steps.ts';
import { wholeNumber } from '../../model/bounded-number.ts';
import { z } from '../../model/schema.ts';
import type { SceneThing } from './declaration.ts';

/** The stretch of the steps that is looked at: it plays, films take it, and curves over the steps show it. */
export interface Stretch {
  /** The number of its first step, from 1. */
  from: number;
  /** That of its last one; null for the last there is. */
  to: number | null;
}

const p = phrasesOf<Stretch>();
const plain: Stretch = { from: 1, to: null };

export const stretch: SceneThing<Stretch, 'stretch'> = {
  id: 'stretch',
  name: 'the stretch of the steps',
  line: null,
  schema: z.object({ from: wholeNumber().min(1), to: wholeNumber().min(1).nullable() }),
  plain,
  defaults: () => plain,
  opening: 'Steps ',
  phrase: p.row(
    p.text('from '),
    p.number('from'),
    p.text(' to '),
    p.oneOf(p.row(p.text('the last'), p.fixed('to', null)), p.number('to')),
  ),
  silent: ({ from, to }) => from === 1 && to === null,
  controls: [
    {
      kind: 'number',
      key: 'from',
      label: 'From step',
      called: 'first step',
      whole: true,
      range: ({ to }, { times }) => [1, to ?? Math.max(1, times.length)],
    },
    {
      kind: 'number',
      key: 'to',
      label: 'To step',
      called: 'last step',
      whole: true,
      none: 'the last',
      range: ({ from }, { times }) => [from, Math.max(from, times.length)],
    },
  ],
};

/** The indices of the first and the last step of it among so many: the whole where it lies beyond them. */
export function stepsOfStretch({ from, to }: Stretch, count: number): { first: number; last: number } {
  const last = Math.min(to ?? count, count) - 1;
  return from - 1 <= last ? { first: from - 1, last } : { first: 0, last: count - 1 };
}

/** Such a stretch; at its ends it goes on with the run, however long that is. */
export const stretchOfSteps = (first: number, last: number, count: number): Stretch => ({
  from: first + 1,
  to: last >= count - 1 ? null : last + 1,
});

/**
 * A stretch drawn in or out around a place, as far as there are steps.
 *
 * @param places where the steps are, rising
 * @param factor of its length
 */
export function stretchAround(
  now: Stretch,
  places: readonly number[],
  around: number,
  factor: number,
): Stretch {
  const count = places.length;
  const { first, last } = stepsOfStretch(now, count);
  const moved = (end: number): number => around + (places[end] - around) * factor;
  let [a, b] = [nearestPlace(places, moved(first)), nearestPlace(places, moved(last))];
  // It changes by one step at least, and no stretch is shorter than two.
  if (factor > 1) [a, b] = [Math.min(a, Math.max(0, first - 1)), Math.max(b, Math.min(count - 1, last + 1))];
  else if (a === first && b === last) {
    if (around - places[a] > places[b] - around) a++;
    else b--;
  }
  if (a >= b) return now;
  return stretchOfSteps(a, b, count);
}
