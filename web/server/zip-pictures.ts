import { createWriteStream } from 'node:fs';
import { readdir, stat } from 'node:fs/promises';
import { extname, join } from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { ZipFile } from 'yazl';
import { numberedName } from '#web/desks/give-out/numbered-name.ts';
import { HALF } from './render-pictures.ts';
import { inStore } from './store-trouble.ts';

/** Files in one zip as it comes, stored as they are and however large they are together. */
export function zipOfFiles(files: readonly { path: string; as: string }[]): Readable {
  const zip = new ZipFile();
  const stored = zip.outputStream as Readable;
  // What is ended goes on reading for a moment: nobody hears of that any more.
  stored.on('error', () => undefined);
  zip.on('error', (error) => stored.destroy(error));
  for (const { path, as } of files) zip.addFile(path, as, { compress: false });
  zip.end();
  return stored;
}

interface Zipping {
  /** The folder of the pictures, each named by its number from 0. */
  from: string;
  count: number;
  /** The file that is written. */
  to: string;
  /** How much of it is there, from 0 to 1. */
  progress(done: number): void;
  signal: AbortSignal;
}

/**
 * The pictures of a film in one zip, stored as they are and however large they are together.
 *
 * @throws StoreError where the disk is full; Error where a picture is lacking
 */
export async function zipPictures({ from, count, to, progress, signal }: Zipping): Promise<void> {
  signal.throwIfAborted();
  const names = await readdir(from);
  const pictures = Array.from({ length: count }, (_, n) => {
    const name = names.find((found) => found.startsWith(`${n}.`) && !found.endsWith(HALF));
    if (!name) throw new Error(`Picture ${n + 1} of the film is lacking.`);
    return { path: join(from, name), as: `${numberedName(n)}${extname(name)}` };
  });
  const sizes = await Promise.all(pictures.map(async ({ path }) => (await stat(path)).size));
  const total = sizes.reduce((a, b) => a + b, 0);
  const stored = zipOfFiles(pictures);
  let written = 0;
  const counted = async function* (pieces: AsyncIterable<Buffer>) {
    for await (const piece of pieces) {
      written += piece.length;
      progress(Math.min(1, written / total));
      yield piece;
    }
  };
  await inStore(() => pipeline(stored, counted, createWriteStream(to), { signal }));
}
