import { answer, NotFound } from '#web/server/answer.ts';
import { jobs } from '#web/server/jobs/registry.ts';

const unknown = new NotFound('This work is no longer known.');

export const GET = answer(async ({ params }) => {
  const state = await jobs.state(params.id!);
  if (!state) throw unknown;
  return state;
});

/** Begins work anew that has failed or was cancelled. */
export const POST = answer(async ({ params }) => {
  if (!(await jobs.retry(params.id!))) throw unknown;
});

export const DELETE = answer(async ({ params }) => ({ cancelled: await jobs.cancel(params.id!) }));
