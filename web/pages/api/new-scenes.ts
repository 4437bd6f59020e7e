import { z } from '#core/model/schema.ts';
import { answer, readBody } from '#web/server/answer.ts';
import { lookOfNewScenes, setLookOfNewScenes } from '#web/server/styles.ts';

const body = z.object({ look: z.string().min(1).max(200) });

/** How new scenes look: a look that ships or is kept, by its id. */
export const GET = answer(async () => ({ look: await lookOfNewScenes() }));

export const PUT = answer(async ({ request }) => {
  await setLookOfNewScenes((await readBody(request, body)).look);
});
