import { atMoment, type Moment } from '../model/moment.ts';
import type { RunDescription, StepKind } from '../model/run.ts';

/** Where the steps of a run are, one number a step, rising. */
export interface StepPlaces {
  /** Their times; the numbers of what is no time, from 1. */
  values: number[];
  /** Of times, where the run states it. */
  unit: string | null;
  ofTime: boolean;
  /** Whether there is something between two steps: what goes on in time, but no mode and no load case. */
  blends: boolean;
}

/** What goes on from one step to the next. Frames are so many pictures of something that moves. */
const GOING_ON: ReadonlySet<StepKind> = new Set(['time', 'frame']);

/** The places along which a film plays the steps of a run. */
export function placesOf({ steps, timeUnit }: Pick<RunDescription, 'steps' | 'timeUnit'>): StepPlaces {
  const ofTime = steps.every((s) => s.kind === 'time');
  return {
    values: ofTime ? steps.map((s) => s.time) : steps.map((_, i) => i + 1),
    unit: ofTime ? timeUnit : null,
    ofTime,
    blends: steps.every((s) => GOING_ON.has(s.kind)),
  };
}

/** Nearer than this to a step, as a share of the way to the next, it is that step. */
const ON_STEP = 1e-9;

/**
 * The state of a run at a place along its steps; before the first and behind the last it stays there.
 *
 * @param between what is shown between two steps
 */
export function stateAt(
  { values, blends }: Pick<StepPlaces, 'values' | 'blends'>,
  place: number,
  between: 'made' | 'held',
): Moment {
  let low = 0;
  let high = values.length - 1;
  if (!(place > values[low])) return { step: low, onward: 0 };
  if (place >= values[high]) return { step: high, onward: 0 };
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (values[middle] <= place) low = middle;
    else high = middle;
  }
  const share = (place - values[low]) / (values[high] - values[low]);
  if (share > 1 - ON_STEP) return { step: high, onward: 0 };
  return { step: low, onward: share < ON_STEP || !blends || between === 'held' ? 0 : share };
}

/** Where along the steps of a run a state is. */
export const placeOf = ({ values }: Pick<StepPlaces, 'values'>, moment: Moment): number =>
  atMoment(values, moment);
