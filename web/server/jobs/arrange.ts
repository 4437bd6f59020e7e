import { z } from '#core/model/schema.ts';
import { arrangeIntake, holdIntake } from '../intake.ts';
import type { ArrangeWish } from '../reading-jobs.ts';
import type { JobKind } from './job-kind.ts';

/** Puts the files of some proposed runs together in another way. */
export const arrangeJob: JobKind<{ intake: string; plans: number[]; wish: ArrangeWish }> = {
  kind: 'arrange',
  payload: z.object({
    intake: z.string(),
    plans: z.array(z.number()),
    wish: z.custom<ArrangeWish>(isRecord),
  }),
  retries: 0,
  hold: ({ intake }) => holdIntake(intake),
  work: ({ intake, plans, wish }, at) => arrangeIntake(intake, plans, wish, at),
};

function isRecord(value: unknown): boolean {
  return typeof value === 'object' && value !== null;
}
