import { randomUUID } from 'node:crypto';
import { rename, rm, writeFile } from 'node:fs/promises';
import { dirname } from 'node:path';
import { StoreError } from '#core/model/store-error.ts';

const reasons: Record<string, string> = {
  ENOSPC: 'the disk is full',
  EDQUOT: 'the disk space allowed to you is used up',
  EACCES: 'the folder may not be written',
  EPERM: 'the folder may not be written',
  EROFS: 'the folder may not be written',
  EISDIR: 'a folder of that name is there',
  ENOTDIR: 'a file stands where the folder should be',
};

/**
 * Writes a file that is there whole or not at all: aside, and renamed.
 *
 * @throws StoreError naming the folder: no file that was read is to blame
 */
export async function writeWhole(path: string, bytes: Uint8Array | AsyncIterable<Uint8Array>): Promise<void> {
  const aside = `${path}.${randomUUID()}.part`;
  await inFolder(dirname(path), async () => {
    try {
      await writeFile(aside, bytes);
      await rename(aside, path);
    } catch (error) {
      await rm(aside, { force: true }).catch(() => undefined);
      throw error;
    }
  });
}

/** Does something in a folder that is written to; its failures are told as that folder's. */
export async function inFolder<T>(folder: string, work: () => Promise<T>): Promise<T> {
  try {
    return await work();
  } catch (error) {
    const { code, message } = error as { code?: string; message: string };
    throw new StoreError(
      reasons[code ?? ''] ?? `it cannot be written: ${message}`,
      folder,
      'Free some space there or give another folder with --out; what was written before is whole.',
    );
  }
}
