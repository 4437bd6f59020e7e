import { createReadStream } from 'node:fs';
import { basename } from 'node:path';
import { Readable } from 'node:stream';
import { answer, NotFound } from '#web/server/answer.ts';
import { picturePath } from '#web/server/render-pictures.ts';

/** A picture of work under way or done, as soon as it is whole. */
export const GET = answer(async ({ params }) => {
  const { id = '', picture = '' } = params;
  const isNamed = /^[0-9a-f-]{36}$/.test(id) && /^\d{1,6}$/.test(picture);
  const path = isNamed ? await picturePath(id, Number(picture)) : null;
  if (!path) throw new NotFound('There is no such picture, or it is not drawn yet.');
  return new Response(Readable.toWeb(createReadStream(path)) as ReadableStream, {
    headers: {
      'Content-Type': path.endsWith('.png') ? 'image/png' : 'application/octet-stream',
      'Content-Disposition': `inline; filename="${basename(path)}"`,
    },
  });
});
