import type { RunDescription } from '../model/run.ts';
import { secondsIn } from '../model/units.ts';

type Steps = Pick<RunDescription, 'steps' | 'timeUnit'>;

/**
 * The step of another run that is nearest in time to one of this; of steps without a time that of the same place in order.
 *
 * @returns null where this run has one state only, which says nothing of the time
 */
export function likeStep(from: Steps, step: number, to: Steps): number | null {
  if (from.steps.length <= 1) return null;
  const last = to.steps.length - 1;
  const timed = [from.steps[step], ...to.steps].every((s) => s?.kind === 'time');
  if (!timed) return Math.min(step, last);
  const time = from.steps[step].time * (secondsOf(from) / secondsOf(to) || 1);
  let best = 0;
  for (let i = 1; i <= last; i++)
    if (Math.abs(to.steps[i].time - time) < Math.abs(to.steps[best].time - time)) best = i;
  return best;
}

/** Times in no unit are taken for those of the other run. */
const secondsOf = ({ timeUnit }: Steps): number => (timeUnit !== null && secondsIn[timeUnit]) || Number.NaN;
