import { answer, NotFound } from '#web/server/answer.ts';
import { cancelJob, jobState } from '#web/server/jobs.ts';

export const GET = answer(async ({ params }) => {
  const state = jobState(params.id!);
  if (!state) throw new NotFound('This work is no longer known.');
  return state;
});

export const DELETE = answer(async ({ params }) => ({ cancelled: cancelJob(params.id!) }));
