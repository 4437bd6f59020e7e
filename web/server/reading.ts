import { open, readFile, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { inflateSync } from 'node:zlib';
import type { OpenedCollection, OpenedMesh, ReadTools } from '#core/formats/format.ts';
import { detectFormat, openFile } from '#core/formats/registry.ts';
import { planRuns, type RunPlan } from '#core/formats/series.ts';
import { type FileProblem, problemOf, ReadError } from '#core/model/read-error.ts';

/** Node's own inflate, base64 and search, which are much faster than portable code. */
export const nodeTools: ReadTools = {
  inflate: (data, size) => inflateSync(data, { maxOutputLength: Math.max(1, size) }),
  decodeBase64(text) {
    const letters = Buffer.from(text.buffer, text.byteOffset, text.length).toString('latin1');
    const bytes = Buffer.from(letters, 'base64');
    const padding = letters.endsWith('==') ? 2 : letters.endsWith('=') ? 1 : 0;
    // The lenient decoder skips letters it does not know; a shorter result tells of damage.
    if (bytes.length < Math.floor(((letters.length - padding) * 3) / 4)) {
      throw new ReadError(
        'the base64 text of an array is damaged',
        'within the array',
        'Write the file again.',
      );
    }
    return new Uint8Array(bytes.buffer, bytes.byteOffset, bytes.length);
  },
  find: (bytes, byte, from) => Buffer.from(bytes.buffer, bytes.byteOffset, bytes.length).indexOf(byte, from),
};

const LARGEST_FILE = 2 ** 31 - 1;

/** Reads and opens one file by its content. */
export async function openPath(path: string): Promise<OpenedMesh | OpenedCollection> {
  const { size } = await stat(path);
  if (size > LARGEST_FILE) {
    throw new ReadError(
      `the file has ${(size / 2 ** 30).toFixed(1)} GiB; up to 2 GiB are read in one piece`,
      'whole file',
      'Write it in several pieces or with fewer fields.',
    );
  }
  return openFile(await readFile(path), nodeTools);
}

export async function openMesh(path: string): Promise<OpenedMesh> {
  const opened = await openPath(path);
  if (opened.kind === 'mesh') return opened;
  throw new ReadError(
    'a collection is listed inside a collection',
    'whole file',
    'List the result files themselves.',
  );
}

/** Why a mesh file cannot be read, or null when it can. */
export async function whyUnreadable(path: string): Promise<unknown> {
  try {
    (await openMesh(path)).readMesh();
    return null;
  } catch (error) {
    return error;
  }
}

/** A file under the name it is shown by and the path it is read from. */
export interface NamedFile {
  name: string;
  path: string;
}

export interface Understanding {
  plans: RunPlan[];
  /** Where each named file is read from. */
  paths: Record<string, string>;
  problems: FileProblem[];
}

/**
 * Finds out what a set of files is: which are meshes, which are collections, and which runs they make.
 * Files named by a collection but not among the given are looked for beside it when `lookBeside` is set.
 */
export async function understandFiles(files: NamedFile[], lookBeside: boolean): Promise<Understanding> {
  const paths = Object.fromEntries(files.map((f) => [f.name, f.path]));
  const meshes: string[] = [];
  const collections = new Map<string, OpenedCollection>();
  const problems: FileProblem[] = [];
  for (const { name, path } of files) {
    try {
      const head = await readHead(path);
      if (head.length === 0) throw new ReadError('the file is empty', 'byte 0', 'Copy or write it again.');
      const format = detectFormat(head);
      if (format?.id === 'pvd') {
        const opened = await openPath(path);
        if (opened.kind === 'collection') collections.set(name, opened);
      } else if (format) meshes.push(name);
      else await openPath(path);
    } catch (error) {
      problems.push(problemOf(name, error));
    }
  }
  if (lookBeside) await addListedFiles(collections, paths, meshes);
  return { plans: planRuns(meshes, collections).filter((p) => p.steps.length > 0), paths, problems };
}

async function addListedFiles(
  collections: Map<string, OpenedCollection>,
  paths: Record<string, string>,
  meshes: string[],
): Promise<void> {
  for (const [name, collection] of collections) {
    for (const { file } of collection.entries) {
      const listed = join(dirname(name), file);
      if (paths[listed]) continue;
      const path = join(dirname(paths[name]), file);
      if (!(await stat(path).catch(() => null))?.isFile()) continue;
      paths[listed] = path;
      meshes.push(listed);
    }
  }
}

async function readHead(path: string): Promise<Uint8Array> {
  const file = await open(path, 'r');
  try {
    const head = new Uint8Array(4096);
    const { bytesRead } = await file.read(head, 0, head.length, 0);
    return head.subarray(0, bytesRead);
  } finally {
    await file.close();
  }
}
