import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { answer, NotFound } from '#web/server/answer.ts';
import { filesOfBatch } from '#web/server/batches-of-set.ts';

/** Media types by the ids of formats; others are bytes. */
const types: Record<string, string> = {
  png: 'image/png',
  png16: 'image/png',
  jpeg: 'image/jpeg',
  webp: 'image/webp',
  avif: 'image/avif',
};

/** One file of a batch, by its path: none but those of the batch can be named. */
export const GET = answer(async ({ params, url }) => {
  const { folder, entries } = await filesOfBatch(params.id!);
  const entry = entries.find(({ path }) => path === url.searchParams.get('path'));
  const file = entry && join(folder, entry.path);
  const there = file ? await stat(file).catch(() => null) : null;
  if (!there?.isFile()) throw new NotFound('There is no such file in this batch.');
  return new Response(Readable.toWeb(createReadStream(file!)) as ReadableStream, {
    headers: {
      'Content-Type': types[entry!.format] ?? 'application/octet-stream',
      'Content-Length': String(there.size),
      'Cache-Control': 'no-cache',
    },
  });
});
