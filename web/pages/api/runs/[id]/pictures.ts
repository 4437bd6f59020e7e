import { answer, readBody } from '#web/server/answer.ts';
import { picturesJob, picturesOrder } from '#web/server/jobs/pictures.ts';
import { jobs } from '#web/server/jobs/queue.ts';
import { runById } from '#web/server/run-changes.ts';

/** Starts drawing pictures of a scene of the run. */
export const POST = answer(async ({ params, request }) => {
  const run = params.id!;
  await runById(run);
  const order = await readBody(request, picturesOrder);
  return { job: await jobs.start(picturesJob, { ...order, run }) };
});
