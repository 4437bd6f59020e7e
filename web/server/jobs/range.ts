import { z } from '#core/model/schema.ts';
import type { RunQuestion } from '#engine/run-ranges.ts';
import { computeAnswer, holdQuestion } from '../ranges.ts';
import type { JobKind } from './job-kind.ts';

/** Computes the range of a quantity, or its quantiles, over a whole run, and keeps it with the run. */
export const rangeJob: JobKind<{ run: string; question: RunQuestion }> = {
  kind: 'range',
  payload: z.object({
    run: z.string(),
    question: z.custom<RunQuestion>((q) => typeof (q as RunQuestion | null)?.key === 'string'),
  }),
  // It depends on the run alone, and changes nothing else.
  retries: 2,
  hold: ({ run, question }) => holdQuestion(run, question),
  work: ({ run, question }, at) => computeAnswer(run, question, at),
};
