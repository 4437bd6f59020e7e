import { z } from '#core/model/schema.ts';
import { answer, readBody } from '#web/server/answer.ts';
import { addServerPath } from '#web/server/intake.ts';

const body = z.object({ path: z.string().min(1) });

export const POST = answer(async ({ params, request }) => {
  await addServerPath(params.id!, (await readBody(request, body)).path);
});
