import { stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { fileName } from '#core/language/file-name.ts';
import { answer, NotFound } from '#web/server/answer.ts';
import { attachment } from '#web/server/attachment.ts';
import { filesOfBatch } from '#web/server/batches-of-set.ts';
import { zipOfFiles } from '#web/server/zip-pictures.ts';

/** All files of a batch that are there, in one zip. */
export const GET = answer(async ({ params }) => {
  const { name, folder, entries } = await filesOfBatch(params.id!);
  const there = await Promise.all(
    entries.map(async ({ path }) => {
      const file = join(folder, path);
      return (await stat(file).catch(() => null))?.isFile() ? [{ path: file, as: path }] : [];
    }),
  );
  const files = there.flat();
  if (files.length === 0) throw new NotFound('No file of this batch is there.');
  const zip = Readable.toWeb(zipOfFiles(files)) as ReadableStream;
  return attachment(`${fileName(name, 'batch')}.zip`, 'application/zip', zip);
});
