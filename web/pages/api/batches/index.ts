import { answer, readBody } from '#web/server/answer.ts';
import { batchWish, checkPlan, planWish } from '#web/server/batch-order.ts';
import { batchesOfSet } from '#web/server/batches-of-set.ts';
import { batchJob } from '#web/server/jobs/batch.ts';
import { jobs } from '#web/server/jobs/registry.ts';

/** The batches of a set; see `BatchAtWork`. */
export const GET = answer(async ({ url }) => ({
  batches: await batchesOfSet(url.searchParams.get('set') ?? ''),
}));

/** Begins a batch. */
export const POST = answer(async ({ request }) => {
  const planned = await planWish(await readBody(request, batchWish));
  checkPlan(planned);
  return { job: await jobs.start(batchJob, planned.order) };
});
