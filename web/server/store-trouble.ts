import { statfs } from 'node:fs/promises';
import { isStoreError, StoreError } from '#core/model/store-error.ts';
import { dataFolder } from './paths.ts';

/** Always kept free, so that scenes and shots can still be saved when an import has filled the rest. */
const RESERVE = 48 * 2 ** 20;
/** Less than this and not even a scene is safe: the database writes each change twice. */
const LEAST = 24 * 2 ** 20;

const mebibytes = (bytes: number): number => Math.max(1, Math.ceil(bytes / 2 ** 20));

const full = (needed: number): StoreError =>
  new StoreError(
    `the disk is full: free ${mebibytes(needed)} MB under ${dataFolder}`,
    'data folder',
    'Free that much and try again. Nothing half was kept.',
  );

/** Bytes free for us on the disk of a folder; infinite where the system does not say. */
export async function freeBytes(folder: string): Promise<number> {
  const found = await statfs(folder).catch(() => null);
  return found && found.blocks > 0 ? found.bavail * found.bsize : Number.POSITIVE_INFINITY;
}

/**
 * Makes sure that so much can be written before it is begun.
 *
 * @throws StoreError saying how much to free
 */
export async function ensureSpace(bytes: number, reserve = RESERVE): Promise<void> {
  const free = await freeBytes(dataFolder);
  if (free < bytes + reserve) throw full(bytes + reserve - free);
}

/** Makes sure that a change of a document can be kept. */
export const ensureRoomToSave = (): Promise<void> => ensureSpace(0, LEAST);

const reasons: Record<string, string> = {
  EIO: 'the disk does not answer as it should',
  EACCES: 'the data folder may not be written',
  EPERM: 'the data folder may not be written',
  EROFS: 'the data folder may not be written',
  EMFILE: 'too many files are open at the same time',
  ENFILE: 'too many files are open at the same time',
};

/** The trouble of the own store behind an error, or null when it is of another kind. */
export function storeTrouble(error: unknown, needed = RESERVE): StoreError | null {
  if (isStoreError(error)) return error;
  const known = error as { code?: string; message?: string; cause?: unknown } | null;
  const code = known?.code ?? '';
  // The database tells of a full disk in its own code (53100) or in words.
  if (
    code === 'ENOSPC' ||
    code === 'EDQUOT' ||
    code === '53100' ||
    /no space left/i.test(known?.message ?? '')
  )
    return full(needed);
  if (reasons[code])
    return new StoreError(
      reasons[code],
      'data folder',
      'Look at the disk and at the rights of the data folder of Dresser, then try again; nothing half was kept.',
    );
  return known?.cause && known.cause !== error ? storeTrouble(known.cause, needed) : null;
}

/** Does something with the own store; its failures are named as such. */
export async function inStore<T>(work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    throw storeTrouble(error) ?? error;
  }
}
