import { createHash, randomUUID } from 'node:crypto';
import { existsSync } from 'node:fs';
import { mkdir, readdir, readFile, rename, rm, unlink, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import type { NumberArray } from '#core/model/arrays.ts';
import { type ArrayRef, arrayTypeOf } from '#core/model/run.ts';
import { StoreError } from '#core/model/store-error.ts';
import type { ArraySink } from '#engine/read-step.ts';
import { signWork } from './reading-signs.ts';
import { ensureSpace, inStore } from './store-trouble.ts';

/** Arrays above this size ask for room on the disk before they are written, in bytes. */
const CHECKED_SIZE = 2 ** 20;

/**
 * Arrays as little-endian files named by their content (SHA-256). A file appears under its name only when whole:
 * it is written aside and renamed.
 */
export class ArrayStore implements ArraySink {
  constructor(private readonly folder: string) {}

  pathOf(hash: string): string {
    return join(this.folder, hash.slice(0, 2), `${hash}.bin`);
  }

  /** @throws StoreError when it cannot be read */
  async load({ hash }: Pick<ArrayRef, 'hash'>): Promise<ArrayBuffer> {
    const bytes = await inStore(() => readFile(this.pathOf(hash))).catch((error: { code?: string }) => {
      if (error.code !== 'ENOENT') throw error;
      throw new StoreError('a stored array is missing', 'data folder', 'Import the run again.');
    });
    signWork(bytes.byteLength);
    // Small files come out of a pool and may begin anywhere in its memory.
    return bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength) as ArrayBuffer;
  }

  /** @throws StoreError when it cannot be kept */
  async put(data: NumberArray): Promise<ArrayRef> {
    const ref = refOf(data);
    const path = this.pathOf(ref.hash);
    if (existsSync(path)) return ref;
    const aside = `${path}.${randomUUID()}`;
    await inStore(async () => {
      await mkdir(join(this.folder, ref.hash.slice(0, 2)), { recursive: true });
      // Small arrays are let through: asking the disk each time would take longer than writing them.
      if (data.byteLength > CHECKED_SIZE) await ensureSpace(data.byteLength);
      try {
        await writeFile(aside, new Uint8Array(data.buffer, data.byteOffset, data.byteLength));
        await rename(aside, path);
      } catch (error) {
        await rm(aside, { force: true }).catch(() => undefined);
        throw error;
      }
    });
    signWork(data.byteLength);
    return ref;
  }

  /** Removes every array nothing refers to, and what was left aside by an interruption. */
  async sweep(inUse: Set<string>): Promise<number> {
    let removed = 0;
    for (const sub of await readdir(this.folder).catch(() => [] as string[])) {
      for (const name of await readdir(join(this.folder, sub)).catch(() => [] as string[])) {
        if (name.endsWith('.bin') && inUse.has(name.slice(0, -4))) continue;
        await unlink(join(this.folder, sub, name)).catch(() => undefined);
        removed++;
      }
    }
    return removed;
  }
}

/** The name an array would have in the store. */
export function refOf(data: NumberArray): ArrayRef {
  const bytes = new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
  const type = arrayTypeOf(data);
  // The type is part of the name: the same bytes read as other numbers are another array.
  const hash = createHash('sha256').update(type).update(bytes).digest('hex');
  return { hash, type, length: data.length };
}
