import { randomUUID } from 'node:crypto';
import { eq } from 'drizzle-orm';
import { cleanName, storable } from '#core/model/clean-text.ts';
import { ReadError } from '#core/model/read-error.ts';
import { migratedRun } from '#core/model/run-migrations.ts';
import { z } from '#core/model/schema.ts';
import { repairScene } from '#core/scene/repair-scene.ts';
import { answer, NotFound, readBody } from '#web/server/answer.ts';
import { database, runs, scenes } from '#web/server/database.ts';
import { openingOf } from '#web/server/opening.ts';
import { savedScenes } from '#web/server/saved-scenes.ts';
import { ensureRoomToSave, inStore } from '#web/server/store-trouble.ts';

const body = z.object({
  run: z.string(),
  name: z.string().max(200).optional(),
  document: z.unknown().optional(),
});

/** All scenes, as the list of scenes shows them. */
export const GET = answer(savedScenes);

/** Makes a scene of a run: the one it would open with, or a given document. */
export const POST = answer(async ({ request }) => {
  const asked = await readBody(request, body);
  const db = await database();
  const [run] = await db.select().from(runs).where(eq(runs.id, asked.run));
  if (!run) throw new NotFound('There is no such run.');
  const id = randomUUID();
  const { scene, repairs } = asked.document
    ? sceneOf(asked.document)
    : { scene: (await openingOf(migratedRun(run.description))).scene, repairs: [] };
  const document = storable({ ...scene, name: cleanName(asked.name ?? '', scene.name) });
  await ensureRoomToSave();
  await inStore(() => db.insert(scenes).values({ id, run: run.id, name: document.name, document }));
  return { id, repairs };
});

function sceneOf(document: unknown) {
  try {
    return repairScene(document);
  } catch (error) {
    throw new ReadError((error as Error).message, 'scene', 'Choose another scene file.');
  }
}
