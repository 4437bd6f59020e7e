import { realpath } from 'node:fs/promises';
import { isAbsolute, join, relative, resolve, sep } from 'node:path';

/** Where everything this installation keeps lives. */
export const dataFolder = resolve(process.env.DRESSER_DATA ?? 'data');
export const arraysFolder = join(dataFolder, 'arrays');
export const uploadsFolder = join(dataFolder, 'uploads');
/** Where pictures of batches go, unless it is told otherwise by `DRESSER_OUT`. */
export const outFolder = resolve(process.env.DRESSER_OUT ?? join(dataFolder, 'out'));
export const databaseFolder = join(dataFolder, 'database');

/** Folders the server may read results from, by `DRESSER_FOLDERS` (separated like PATH); the demo is always there. */
export function readableFolders(): string[] {
  const asked = (process.env.DRESSER_FOLDERS ?? '')
    .split(process.platform === 'win32' ? ';' : ':')
    .filter(Boolean);
  return [...new Set([...asked.map((f) => resolve(f)), join(dataFolder, 'demo')])];
}

/** The readable folders with links followed; those that are not there are left out. */
export async function realReadableFolders(): Promise<string[]> {
  const found = await Promise.all(readableFolders().map((f) => realpath(f).catch(() => null)));
  return found.filter((f) => f !== null);
}

/** Real paths of everything a reader may open: the readable folders and the copies of dropped files. */
export async function readingRoots(): Promise<string[]> {
  const own = await realpath(uploadsFolder).catch(() => null);
  return [...(await realReadableFolders()), ...(own ? [own] : [])];
}

/** Whether `path` is `folder` or lies below it. */
export function isWithin(folder: string, path: string): boolean {
  const way = relative(folder, path);
  return way === '' || (!way.startsWith(`..${sep}`) && way !== '..' && !isAbsolute(way));
}

export class NotAllowed extends Error {}

/**
 * The real path behind a path someone asked for, with links followed.
 *
 * @throws NotAllowed when it leaves every readable folder
 */
export async function allowedPath(asked: string): Promise<string> {
  let real: string;
  try {
    real = await realpath(resolve(asked));
  } catch {
    throw new NotAllowed(`"${asked}" is not there. Choose a file or folder that exists.`);
  }
  for (const folder of readableFolders()) {
    const base = await realpath(folder).catch(() => null);
    if (base && isWithin(base, real)) return real;
  }
  throw new NotAllowed(
    `"${asked}" is outside the folders this server may read. Start it with DRESSER_FOLDERS set to the folder of your results, or drop the files.`,
  );
}
