import { eq } from 'drizzle-orm';
import { z } from '#core/model/schema.ts';
import { answer, NotFound, readBody } from '#web/server/answer.ts';
import { database, scenes } from '#web/server/database.ts';
import { saveChanges } from '#web/server/scenes.ts';

const change = z.object({
  at: z.array(z.string().max(400)).min(1).max(3),
  was: z.unknown().optional(),
  now: z.unknown().optional(),
  after: z.string().max(400).nullable().optional(),
});

const body = z.object({
  revision: z.number().int().min(0),
  changes: z.array(change).min(1).max(5000),
});

export const GET = answer(async ({ params }) => {
  const db = await database();
  const [row] = await db.select().from(scenes).where(eq(scenes.id, params.id!));
  if (!row) throw new NotFound('There is no such scene.');
  return row;
});

/** Saves changes; what others changed meanwhile stays, or is told of with 409. */
export const PUT = answer(async ({ params, request }) => {
  const { revision, changes } = await readBody(request, body);
  return saveChanges(params.id!, revision, changes);
});

export const DELETE = answer(async ({ params }) => {
  const db = await database();
  const [row] = await db.delete(scenes).where(eq(scenes.id, params.id!)).returning({ id: scenes.id });
  if (!row) throw new NotFound('There is no such scene.');
});
