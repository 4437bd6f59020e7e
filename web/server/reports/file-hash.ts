import { createHash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { stat } from 'node:fs/promises';
import { basename } from 'node:path';
import { pipeline } from 'node:stream/promises';
import { LRUCache } from 'lru-cache';
import type { RunDescription } from '#core/model/run.ts';
import type { FactOrigin } from '#core/report/facts.ts';

/** Of files that have not changed since. */
const known = new LRUCache<string, string>({ max: 2000 });

/** The files of a run with their sizes and SHA-256; of those that are gone only their names. */
export async function filesOfRun(run: RunDescription, signal: AbortSignal): Promise<FactOrigin['files']> {
  const files: FactOrigin['files'] = [];
  // One after the other: a run may have thousands.
  for (const source of run.sources) {
    const path = run.source?.paths[source];
    const about = path && (await stat(path).catch(() => null));
    const stamp = about && `${path} ${about.size} ${about.mtimeMs}`;
    files.push({
      // Where it lies is nobody's business.
      name: basename(source),
      bytes: about ? about.size : null,
      sha256: path && stamp ? await hashOf(path, stamp, signal) : null,
    });
  }
  return files;
}

async function hashOf(path: string, stamp: string, signal: AbortSignal): Promise<string | null> {
  const kept = known.get(stamp);
  if (kept) return kept;
  const hash = createHash('sha256');
  try {
    await pipeline(createReadStream(path), hash, { signal });
  } catch (error) {
    signal.throwIfAborted();
    // It may be gone, or be closed to this server.
    if ((error as NodeJS.ErrnoException).code) return null;
    throw error;
  }
  const found = hash.digest('hex');
  known.set(stamp, found);
  return found;
}
