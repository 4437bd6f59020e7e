import { z } from '#core/model/schema.ts';
import { answer, readBody } from '#web/server/answer.ts';
import { saveThumbnail } from '#web/server/scenes.ts';
import { thumbnailSchema } from '#web/server/thumbnail.ts';

const body = z.object({ thumbnail: thumbnailSchema });

export const PUT = answer(async ({ params, request }) => {
  await saveThumbnail(params.id!, (await readBody(request, body)).thumbnail);
});
