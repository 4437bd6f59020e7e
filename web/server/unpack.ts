import { createReadStream, createWriteStream } from 'node:fs';
import { mkdir, open, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { Readable, Transform } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { createGunzip } from 'node:zlib';
import yauzl from 'yauzl';
import { cleanName } from '#core/model/clean-text.ts';
import { type FileProblem, problemOf, ReadError } from '#core/model/read-error.ts';
import { allowedFile } from './allowed-files.ts';
import type { NamedFile } from './named-file.ts';
import { signFile, signWork } from './reading-signs.ts';
import { freeBytes, storeTrouble } from './store-trouble.ts';

/** Most files of one archive, and most entries that are looked at. */
const MOST_FILES = 20_000;
const MOST_ENTRIES = 100_000;
/** Part of the free disk that unpacking may fill. */
const SHARE_OF_DISK = 0.8;

/** Most bytes one drop may unfold to; `DRESSER_UNPACK_MAX` in MiB, 64 GiB where nothing is said. */
export function mostUnpacked(): number {
  const asked = Number(process.env.DRESSER_UNPACK_MAX);
  return asked > 0 ? asked * 2 ** 20 : 64 * 2 ** 30;
}

/** What is left of the bytes that may be unpacked, over all archives of a drop. */
interface Allowance {
  left: number;
  /** What it was limited by, for the person. */
  reason: string;
}

/** Files with zip and gzip archives replaced by what they hold, written below `scratch`. */
export async function unpack(
  files: NamedFile[],
  scratch: string,
  problems: FileProblem[],
  roots: readonly string[] | null = null,
): Promise<NamedFile[]> {
  const out: NamedFile[] = [];
  let allowance: Allowance | null = null;
  for (const [i, file] of files.entries()) {
    signFile(file.name);
    let folder: string | null = null;
    try {
      const real = allowedFile(file.path, file.name, roots);
      const kind = await archiveKind(real);
      if (!kind) {
        out.push({ ...file, path: real });
        continue;
      }
      folder = join(scratch, `archive-${i}`);
      await mkdir(folder, { recursive: true });
      allowance ??= await allowanceFor(scratch);
      const archive = { name: file.name, path: real };
      out.push(
        ...(kind === 'gzip'
          ? [await gunzip(archive, folder, allowance)]
          : await unzip(archive, folder, allowance)),
      );
    } catch (error) {
      // What was written of an archive that is not taken gives its room back.
      if (folder) await rm(folder, { recursive: true, force: true });
      const trouble = storeTrouble(error);
      if (trouble && folder) throw trouble;
      problems.push(problemOf(file.name, error instanceof ReadError ? error : damaged(file.name)));
    }
  }
  return out;
}

async function allowanceFor(scratch: string): Promise<Allowance> {
  const most = mostUnpacked();
  const free = SHARE_OF_DISK * (await freeBytes(scratch));
  const size = (bytes: number): string => `${Math.max(1, Math.round(bytes / 2 ** 20))} MB`;
  return most <= free
    ? { left: most, reason: `the ${size(most)} that one drop may unfold to` }
    : { left: free, reason: `the ${size(free)} of free disk that may be filled` };
}

const damaged = (name: string): ReadError =>
  new ReadError('the archive is damaged', name, 'Copy or pack it again.');

const tooLarge = (name: string, { reason }: Allowance): ReadError =>
  new ReadError(
    `what the archive unfolds to is more than ${reason}`,
    name,
    'Free some disk, start Dresser with a larger DRESSER_UNPACK_MAX (MiB), or unpack it yourself and open the folder.',
  );

async function archiveKind(path: string): Promise<'gzip' | 'zip' | null> {
  const file = await open(path, 'r');
  try {
    const head = new Uint8Array(4);
    await file.read(head, 0, 4, 0);
    if (head[0] === 0x1f && head[1] === 0x8b) return 'gzip';
    return head[0] === 0x50 && head[1] === 0x4b && head[2] === 3 && head[3] === 4 ? 'zip' : null;
  } finally {
    await file.close();
  }
}

/** Writes a stream to a file, taking what it holds from the allowance; the disk sets the pace. */
async function write(
  from: Readable,
  through: Transform[],
  path: string,
  name: string,
  allowance: Allowance,
): Promise<void> {
  const counted = async function* (source: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
    for await (const chunk of source) {
      allowance.left -= chunk.length;
      if (allowance.left < 0) throw tooLarge(name, allowance);
      signWork(chunk.length);
      yield chunk;
    }
  };
  await pipeline([from, ...through, counted, createWriteStream(path)] as never);
}

async function gunzip(file: NamedFile, folder: string, allowance: Allowance): Promise<NamedFile> {
  const path = join(folder, 'content');
  await write(createReadStream(file.path), [createGunzip()], path, file.name, allowance);
  return { name: file.name.replace(/\.gz$/i, '') || 'content', path };
}

/** The name of an entry, however it tries to climb: it is only shown, and tells which entries belong together. */
function nameOf(entry: yauzl.Entry): string {
  const raw = entry.fileNameRaw ?? (entry.fileName as unknown as Buffer);
  const name = yauzl.getFileNameLowLevel(entry.generalPurposeBitFlag, raw, entry.extraFields, false);
  const folder = name.endsWith('/') ? '/' : '';
  return (
    name
      .split('/')
      .filter((part) => part !== '' && part !== '.' && part !== '..')
      .map((part) => cleanName(part))
      .join('/') + folder
  );
}

async function unzip(file: NamedFile, folder: string, allowance: Allowance): Promise<NamedFile[]> {
  const archive = await yauzl.openPromise(file.path, { decodeStrings: false });
  const out: NamedFile[] = [];
  const base = file.name.replace(/\.zip$/i, '');
  let entries = 0;
  try {
    for await (const entry of archive.eachEntry()) {
      if (++entries > MOST_ENTRIES || out.length >= MOST_FILES)
        throw new ReadError(
          `the archive holds more than ${out.length >= MOST_FILES ? MOST_FILES : MOST_ENTRIES} files`,
          file.name,
          'Pack fewer files at once, or unpack it yourself and open the folder.',
        );
      const name = nameOf(entry);
      if (name.endsWith('/') || /(^|\/)(\.[^/]*$|__MACOSX\/)/.test(name)) continue;
      if (entry.isEncrypted())
        throw new ReadError(
          'the archive is locked with a password',
          file.name,
          'Pack it without a password.',
        );
      if (entry.uncompressedSize > allowance.left) throw tooLarge(file.name, allowance);
      // Files are numbered on disk: a name in an archive never chooses a place.
      const path = join(folder, String(out.length));
      await write(await archive.openReadStreamPromise(entry), [], path, file.name, allowance);
      out.push({ name: `${base}/${name}`, path });
    }
  } finally {
    archive.close();
  }
  return out;
}
