import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { basename } from 'node:path';
import { Readable } from 'node:stream';
import { filmWriters } from '#stage/films/registry.ts';
import { answer, NotFound } from '#web/server/answer.ts';
import { filmPath } from '#web/server/make-film.ts';

/** A film of work that is done. */
export const GET = answer(async ({ params }) => {
  const { id = '', film = '' } = params;
  const isNamed = /^[0-9a-f-]{36}$/.test(id) && /^\d{1,2}$/.test(film);
  const path = isNamed ? await filmPath(id, Number(film)) : null;
  if (!path) throw new NotFound('There is no such film, or it is not made yet.');
  const name = basename(path);
  const writer = filmWriters.find((w) => w.id === name.split('.')[1])!;
  return new Response(Readable.toWeb(createReadStream(path)) as ReadableStream, {
    headers: {
      'Content-Type': writer.type,
      'Content-Length': String((await stat(path)).size),
      'Content-Disposition': `inline; filename="${name.split('.')[0]}.${writer.ending}"`,
    },
  });
});
