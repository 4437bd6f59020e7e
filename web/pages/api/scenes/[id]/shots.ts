import { z } from '#core/model/schema.ts';
import { sceneSchema } from '#core/scene/document.ts';
import { answer, readBody } from '#web/server/answer.ts';
import { keepShot } from '#web/server/scenes.ts';
import { thumbnailSchema } from '#web/server/thumbnail.ts';

const body = z.object({
  name: z.string().min(1).max(200),
  document: sceneSchema,
  thumbnail: thumbnailSchema,
});

export const POST = answer(async ({ params, request }) =>
  keepShot(params.id!, await readBody(request, body)),
);
