import { createReadStream, createWriteStream } from 'node:fs';
import { mkdir, open } from 'node:fs/promises';
import { join } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { createGunzip } from 'node:zlib';
import { Unzip, UnzipInflate } from 'fflate';
import { type FileProblem, problemOf, ReadError } from '#core/model/read-error.ts';
import type { NamedFile } from './named-file.ts';

/** The most that is unpacked from one archive, and the most files. */
const MOST_BYTES = 64 * 2 ** 30;
const MOST_FILES = 20_000;
/** Deflate cannot shrink data by more than this; more is a trap. */
const LARGEST_RATIO = 1100;

/** Files with zip and gzip archives replaced by what they hold, written below `scratch`. */
export async function unpack(
  files: NamedFile[],
  scratch: string,
  problems: FileProblem[],
): Promise<NamedFile[]> {
  const out: NamedFile[] = [];
  for (const [i, file] of files.entries()) {
    const kind = await archiveKind(file.path);
    if (!kind) {
      out.push(file);
      continue;
    }
    const folder = join(scratch, `archive-${i}`);
    await mkdir(folder, { recursive: true });
    try {
      out.push(...(kind === 'gzip' ? [await gunzip(file, folder)] : await unzip(file, folder)));
    } catch (error) {
      const told = error instanceof ReadError ? error : damaged(file.name, error);
      problems.push(problemOf(file.name, told));
    }
  }
  return out;
}

const damaged = (name: string, error: unknown): ReadError =>
  new ReadError(`the archive is damaged: ${(error as Error).message}`, name, 'Copy or pack it again.');

async function archiveKind(path: string): Promise<'gzip' | 'zip' | null> {
  const file = await open(path, 'r').catch(() => null);
  if (!file) return null;
  try {
    const head = new Uint8Array(4);
    await file.read(head, 0, 4, 0);
    if (head[0] === 0x1f && head[1] === 0x8b) return 'gzip';
    return head[0] === 0x50 && head[1] === 0x4b && head[2] === 3 && head[3] === 4 ? 'zip' : null;
  } finally {
    await file.close();
  }
}

async function gunzip(file: NamedFile, folder: string): Promise<NamedFile> {
  const path = join(folder, 'content');
  let received = 0;
  const limited = async function* (source: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
    for await (const chunk of source) {
      received += chunk.length;
      if (received > MOST_BYTES) throw tooLarge(file.name);
      yield chunk;
    }
  };
  await pipeline(createReadStream(file.path), createGunzip(), limited, createWriteStream(path));
  return { name: file.name.replace(/\.gz$/i, '') || 'content', path };
}

const tooLarge = (name: string): ReadError =>
  new ReadError(
    'the archive holds more than is unpacked here',
    name,
    'Unpack it first and bring in the folder.',
  );

async function unzip(file: NamedFile, folder: string): Promise<NamedFile[]> {
  const out: NamedFile[] = [];
  const base = file.name.replace(/\.zip$/i, '');
  const writers: Promise<void>[] = [];
  let failure: unknown = null;
  let unpacked = 0;
  let read = 0;
  const archive = new Unzip((entry) => {
    if (entry.name.endsWith('/') || /(^|\/)(\.[^/]*$|__MACOSX\/)/.test(entry.name)) return;
    if (out.length >= MOST_FILES) {
      failure ??= tooLarge(file.name);
      return;
    }
    // Files are numbered on disk: a name in an archive never chooses a place.
    const path = join(folder, String(out.length));
    const stream = createWriteStream(path);
    writers.push(new Promise((resolve, reject) => stream.on('finish', resolve).on('error', reject)));
    out.push({ name: `${base}/${entry.name}`, path });
    entry.ondata = (error, chunk, final) => {
      if (error) failure ??= error;
      unpacked += chunk?.length ?? 0;
      if (unpacked > MOST_BYTES || unpacked > read * LARGEST_RATIO + 2 ** 20) failure ??= tooLarge(file.name);
      if (chunk && !failure) stream.write(chunk);
      if (final || failure) stream.end();
    };
    entry.start();
  });
  archive.register(UnzipInflate);
  for await (const chunk of createReadStream(file.path, { highWaterMark: 2 ** 20 })) {
    const bytes = new Uint8Array(chunk as Buffer);
    read += bytes.length;
    archive.push(bytes, false);
    if (failure) break;
  }
  if (!failure) archive.push(new Uint8Array(0), true);
  if (failure) throw failure;
  await Promise.all(writers);
  return out;
}
