import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { sceneSchema } from '#core/scene/document.ts';
import { answer, NotFound, readBody } from '#web/server/answer.ts';
import { database, shots } from '#web/server/database.ts';

const body = z.object({
  name: z.string().min(1).max(200).optional(),
  caption: z.string().max(4000).nullable().optional(),
  document: sceneSchema.optional(),
  thumbnail: z.string().startsWith('data:image/').optional(),
});

export const PUT = answer(async ({ params, request }) => {
  const change = await readBody(request, body);
  const db = await database();
  const [row] = await db.update(shots).set(change).where(eq(shots.id, params.id!)).returning();
  if (!row) throw new NotFound('There is no such shot.');
  return row;
});

export const DELETE = answer(async ({ params }) => {
  const db = await database();
  await db.delete(shots).where(eq(shots.id, params.id!));
});
