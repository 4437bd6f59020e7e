import { z } from '#core/model/schema.ts';
import { answer, NotFound, readBody } from '#web/server/answer.ts';
import { saveThumbnail, thumbnailOf } from '#web/server/scenes.ts';
import { thumbnailSchema } from '#web/server/thumbnail.ts';

const body = z.object({ thumbnail: thumbnailSchema });

/** The small picture of a scene as a file. */
export const GET = answer(async ({ params }) => {
  const address = await thumbnailOf(params.id!);
  const [, type, base64] = /^data:([^;]+);base64,(.*)$/s.exec(address ?? '') ?? [];
  if (!type) throw new NotFound('This scene has no small picture yet.');
  return new Response(Buffer.from(base64, 'base64'), {
    headers: { 'Content-Type': type, 'Cache-Control': 'no-cache' },
  });
});

export const PUT = answer(async ({ params, request }) => {
  await saveThumbnail(params.id!, (await readBody(request, body)).thumbnail);
});
