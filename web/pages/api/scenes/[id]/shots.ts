import { randomUUID } from 'node:crypto';
import { eq, max } from 'drizzle-orm';
import { z } from 'zod';
import { sceneSchema } from '#core/scene/document.ts';
import { answer, readBody } from '#web/server/answer.ts';
import { database, shots } from '#web/server/database.ts';

const body = z.object({
  name: z.string().min(1).max(200),
  document: sceneSchema,
  thumbnail: z.string().startsWith('data:image/'),
});

export const POST = answer(async ({ params, request }) => {
  const shot = await readBody(request, body);
  const db = await database();
  const [last] = await db
    .select({ position: max(shots.position) })
    .from(shots)
    .where(eq(shots.scene, params.id!));
  const [row] = await db
    .insert(shots)
    .values({
      id: randomUUID(),
      scene: params.id!,
      caption: null,
      position: (last?.position ?? -1) + 1,
      ...shot,
    })
    .returning();
  return row;
});
