import { z } from '#core/model/schema.ts';
import { answer, NotFound, readBody } from '#web/server/answer.ts';
import { saveThumbnail, thumbnailOf } from '#web/server/scenes.ts';
import { pictureOfAddress, thumbnailSchema } from '#web/server/thumbnail.ts';

const body = z.object({ thumbnail: thumbnailSchema });

/** The small picture of a scene as a file. */
export const GET = answer(async ({ params }) => {
  const address = await thumbnailOf(params.id!);
  if (address === null) throw new NotFound('This scene has no small picture yet.');
  return pictureOfAddress(address);
});

export const PUT = answer(async ({ params, request }) => {
  await saveThumbnail(params.id!, (await readBody(request, body)).thumbnail);
});
