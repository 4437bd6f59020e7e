import { z } from '#core/model/schema.ts';
import { answer, readBody } from '#web/server/answer.ts';
import { rangeOf } from '#web/server/ranges.ts';

const body = z.object({ key: z.string().max(500) });

/** The range of a quantity that no file states, or the job that computes it. */
export const POST = answer(async ({ params, request }) => {
  const { key } = await readBody(request, body);
  return rangeOf(params.id!, key);
});
