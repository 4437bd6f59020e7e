import { z } from '#core/model/schema.ts';
import { holdIntake, previewIntake } from '../intake.ts';
import type { JobKind } from './job-kind.ts';

/** Reads enough of dropped files to say what they are; nothing is stored. The drop is known to this process alone. */
export const previewJob: JobKind<{ intake: string; everyStep: boolean }> = {
  kind: 'preview',
  payload: z.object({ intake: z.string(), everyStep: z.boolean() }),
  retries: 0,
  hold: ({ intake }) => holdIntake(intake),
  work: ({ intake, everyStep }, at) => previewIntake(intake, everyStep, at),
};
