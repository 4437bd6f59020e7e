import { answer, readBody } from '#web/server/answer.ts';
import { batchWish, planWish } from '#web/server/batch-order.ts';
import { lackingInRuns } from '#web/server/batch-preview.ts';

/** What shots ask for that runs lack, with what may be meant. */
export const POST = answer(async ({ request }) =>
  lackingInRuns(await planWish(await readBody(request, batchWish))),
);
