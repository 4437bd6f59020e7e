import { eq } from 'drizzle-orm';
import { z } from '#core/model/schema.ts';
import { sceneSchema } from '#core/scene/document.ts';
import { shotKinds } from '#core/scene/shot-groups.ts';
import { answer, NotFound, readBody } from '#web/server/answer.ts';
import { database, shots } from '#web/server/database.ts';
import { changeShot } from '#web/server/scenes.ts';
import { thumbnailSchema } from '#web/server/thumbnail.ts';

const body = z.object({
  name: z.string().min(1).max(200).optional(),
  caption: z.string().max(4000).nullable().optional(),
  document: sceneSchema.optional(),
  thumbnail: thumbnailSchema.optional(),
  kind: z.enum(shotKinds).optional(),
  filmTime: z.number().min(0).nullable().optional(),
  folder: z.string().min(1).max(200).nullable().optional(),
  tags: z.array(z.string().min(1).max(100)).max(50).optional(),
  notes: z.string().max(20_000).optional(),
});

export const PUT = answer(async ({ params, request }) =>
  changeShot(params.id!, await readBody(request, body)),
);

export const DELETE = answer(async ({ params }) => {
  const db = await database();
  const [row] = await db.delete(shots).where(eq(shots.id, params.id!)).returning({ id: shots.id });
  if (!row) throw new NotFound('There is no such shot.');
});
