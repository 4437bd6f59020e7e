import { z } from 'zod';
import { answer, readJson } from '#web/server/answer.ts';
import { addServerPath } from '#web/server/intake.ts';

const body = z.object({ path: z.string().min(1) });

export const POST = answer(async ({ params, request }) => {
  await addServerPath(params.id!, body.parse(await readJson(request)).path);
});
