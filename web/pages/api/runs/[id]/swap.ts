import { z } from '#core/model/schema.ts';
import { answer, readBody } from '#web/server/answer.ts';
import { formerOf, swapRun } from '#web/server/swap-run.ts';

const names = z.record(z.string().max(400), z.string().max(400));

const body = z.object({
  content: z.string().max(200),
  renames: z.object({ fields: names, parts: names }).default({ fields: {}, parts: {} }),
});

/** What the run was before its files were swapped last, or null. */
export const GET = answer(async ({ params }) => ({ former: await formerOf(params.id!) }));

/** Puts what was read in the place of what the run holds; the same with its former content undoes it. */
export const POST = answer(async ({ params, request }) => {
  const { content, renames } = await readBody(request, body);
  await swapRun(params.id!, content, renames);
});
