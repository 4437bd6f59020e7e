import { z } from '#core/model/schema.ts';
import { answer, readBody } from '#web/server/answer.ts';
import { jobs } from '#web/server/jobs/queue.ts';
import { rangeJob } from '#web/server/jobs/range.ts';
import { answerAbout } from '#web/server/ranges.ts';

/** Sentences say the rules of part sets, which may list cells. */
const key = z.string().max(100_000);

const body = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('range'), key }),
  z.object({
    kind: z.literal('shares'),
    key,
    component: z.union([z.number().int().min(0).max(1000), z.literal('magnitude')]),
  }),
  z.object({ kind: z.literal('number'), key }),
  z.object({ kind: z.literal('run'), key: z.string().max(500) }),
]);

/** The range of a quantity that no file states, its quantiles, or a number at every step; or the job that computes them. */
export const POST = answer(async ({ params, request }) =>
  answerAbout(params.id!, await readBody(request, body), (order) => jobs.start(rangeJob, order)),
);
