import { z } from '#core/model/schema.ts';
import { readNewSteps } from '../run-changes.ts';
import type { JobKind } from './job-kind.ts';

/** Reads the steps that came after the import and puts them behind the others. */
export const newStepsJob: JobKind<{ run: string }> = {
  kind: 'new steps',
  payload: z.object({ run: z.string() }),
  retries: 0,
  work: ({ run }, at) => readNewSteps(run, at),
};
