import type { RunDescription } from '#core/model/run.ts';
import type { ArraySource } from './array-source.ts';
import { measureNumber } from './measured-numbers.ts';
import { answerRange, type Progress, type RunAnswer, type RunQuestion } from './run-ranges.ts';

/** Answers a question about a run as a whole. */
export const answerQuestion = (
  run: RunDescription,
  question: RunQuestion,
  arrays: ArraySource,
  progress?: Progress,
): Promise<RunAnswer> =>
  question.kind === 'number'
    ? measureNumber(run, question.key, arrays, progress)
    : answerRange(run, question, arrays, progress);
