import { z } from '#core/model/schema.ts';
import { answer, readBody } from '#web/server/answer.ts';
import { removables, setRemoved } from '#web/server/removed.ts';

const body = z.object({ kind: z.enum(removables), id: z.string().max(200), removed: z.boolean() });

/** Takes a run, a scene or a shot away so that it can be brought back, or brings it back. */
export const PUT = answer(async ({ request }) => {
  const { kind, id, removed } = await readBody(request, body);
  await setRemoved(kind, id, removed);
});
