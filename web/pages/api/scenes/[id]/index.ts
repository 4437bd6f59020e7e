import { eq } from 'drizzle-orm';
import { z } from 'zod';
import { sceneSchema } from '#core/scene/document.ts';
import { answer, NotFound, readBody } from '#web/server/answer.ts';
import { database, scenes } from '#web/server/database.ts';

const body = z.object({
  document: sceneSchema,
  thumbnail: z.string().startsWith('data:image/').nullable().optional(),
});

export const GET = answer(async ({ params }) => {
  const db = await database();
  const [row] = await db.select().from(scenes).where(eq(scenes.id, params.id!));
  if (!row) throw new NotFound('There is no such scene.');
  return row;
});

export const PUT = answer(async ({ params, request }) => {
  const { document, thumbnail } = await readBody(request, body);
  const db = await database();
  const [row] = await db
    .update(scenes)
    .set({
      document,
      name: document.name,
      changed: new Date(),
      ...(thumbnail === undefined ? {} : { thumbnail }),
    })
    .where(eq(scenes.id, params.id!))
    .returning({ id: scenes.id });
  if (!row) throw new NotFound('There is no such scene.');
});

export const DELETE = answer(async ({ params }) => {
  const db = await database();
  await db.delete(scenes).where(eq(scenes.id, params.id!));
});
