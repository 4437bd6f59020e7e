import { eq } from 'drizzle-orm';
import { answer, NotFound, readBody } from '#web/server/answer.ts';
import { database, scenes } from '#web/server/database.ts';
import { savedChanges } from '#web/server/saved-documents.ts';
import { saveChanges } from '#web/server/scenes.ts';

export const GET = answer(async ({ params }) => {
  const db = await database();
  const [row] = await db.select().from(scenes).where(eq(scenes.id, params.id!));
  if (!row) throw new NotFound('There is no such scene.');
  return row;
});

/** Saves changes; what others changed meanwhile stays, or is told of with 409. */
export const PUT = answer(async ({ params, request }) => {
  const { revision, changes } = await readBody(request, savedChanges);
  return saveChanges(params.id!, revision, changes);
});

export const DELETE = answer(async ({ params }) => {
  const db = await database();
  const [row] = await db.delete(scenes).where(eq(scenes.id, params.id!)).returning({ id: scenes.id });
  if (!row) throw new NotFound('There is no such scene.');
});
