import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { basename, extname } from 'node:path';
import { Readable } from 'node:stream';
import { answer, NotFound } from '#web/server/answer.ts';
import { filmPath } from '#web/server/make-film.ts';

/** Media types of films by the ending of their files; others are bytes. */
const types: Record<string, string> = {
  '.mp4': 'video/mp4',
  '.webm': 'video/webm',
  '.gif': 'image/gif',
  '.png': 'image/apng',
  '.zip': 'application/zip',
};

/** A film of work that is done. */
export const GET = answer(async ({ params }) => {
  const { id = '', film = '' } = params;
  const isNamed = /^[0-9a-f-]{36}$/.test(id) && /^\d{1,2}$/.test(film);
  const path = isNamed ? await filmPath(id, Number(film)) : null;
  if (!path) throw new NotFound('There is no such film, or it is not made yet.');
  return new Response(Readable.toWeb(createReadStream(path)) as ReadableStream, {
    headers: {
      'Content-Type': types[extname(path)] ?? 'application/octet-stream',
      'Content-Length': String((await stat(path)).size),
      'Content-Disposition': `inline; filename="${basename(path)}"`,
    },
  });
});
