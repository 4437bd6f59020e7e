import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { answer, NotFound } from '#web/server/answer.ts';
import { folderOfSheet } from '#web/server/batch-work.ts';

/** Of a run, then of a shot with its step and size: nothing that could lead elsewhere. */
const PICTURE = /^[\w-]{1,80}\/[\w-]{1,120}\.png$/;

/** A picture of a contact sheet, by what it shows. Whoever asks says its stamp, so that it stays what it is. */
export const GET = answer(async ({ params }) => {
  const { id = '', path = '' } = params;
  const file = PICTURE.test(path) ? join(folderOfSheet(id), path) : null;
  const there = file ? await stat(file).catch(() => null) : null;
  if (!there?.isFile()) throw new NotFound('There is no such picture.');
  return new Response(Readable.toWeb(createReadStream(file!)) as ReadableStream, {
    headers: {
      'Content-Type': 'image/png',
      'Content-Length': String(there.size),
      'Cache-Control': 'max-age=86400',
    },
  });
});
