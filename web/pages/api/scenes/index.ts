import { randomUUID } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { ReadError } from '#core/model/read-error.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import { readScene } from '#core/scene/document.ts';
import { answer, NotFound, readBody } from '#web/server/answer.ts';
import { database, runs, scenes } from '#web/server/database.ts';

const body = z.object({
  run: z.string(),
  name: z.string().max(200).optional(),
  document: z.unknown().optional(),
});

/** Makes a scene of a run: the one it would open with, or a given document. */
export const POST = answer(async ({ request }) => {
  const asked = await readBody(request, body);
  const db = await database();
  const [run] = await db.select().from(runs).where(eq(runs.id, asked.run));
  if (!run) throw new NotFound('There is no such run.');
  const id = randomUUID();
  const document = asked.document ? sceneOf(asked.document) : defaultScene(run.description);
  const name = asked.name?.trim() || document.name;
  await db.insert(scenes).values({ id, run: run.id, name, document: { ...document, name } });
  return { id };
});

function sceneOf(document: unknown) {
  try {
    return readScene(document);
  } catch (error) {
    throw new ReadError((error as Error).message, 'scene', 'Choose another scene file.');
  }
}
