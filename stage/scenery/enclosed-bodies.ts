import { LRUCache } from 'lru-cache';
import type { BodyFile, BodyPicture } from '#core/model/body.ts';
import type { Enclosure } from '#core/scene/enclosure.ts';
import { bringEnclosed } from '#engine/enclosed.ts';
import { WorkerPool, type WorkerPort } from '#engine/worker-pool.ts';

/** A file of bodies, ready for the stage. */
export interface LoadedBodies extends BodyFile {
  /** Its pictures unpacked; null for one that is damaged. */
  images: (ImageBitmap | null)[];
}

/** How many files are kept unpacked. */
const KEPT = 64;

/** Longest side of a picture on a body, in pixels; larger ones are made smaller. */
const LARGEST_PICTURE = 2048;

/** How long a file that could not be had is not asked for again, in milliseconds. */
const RETRY = 30_000;

const loaded = new LRUCache<string, LoadedBodies>({ max: KEPT });
const coming = new Map<string, Promise<LoadedBodies>>();
let pool: WorkerPool | null = null;

/** What is known of a file of bodies; null until it was loaded, and where it cannot be. */
export const bodiesOf = (enclosure: Enclosure): LoadedBodies | null =>
  loaded.get(enclosure.bytes.hash) ?? null;

/**
 * Brings files of bodies and reads them.
 *
 * @returns what could not be had, in words
 */
export async function loadBodies(enclosures: readonly Enclosure[]): Promise<string[]> {
  const missing = await Promise.all(
    enclosures
      .filter((enclosure) => !bodiesOf(enclosure))
      .map((enclosure) =>
        known(enclosure).then(
          () => null,
          (error: Error) => error.message,
        ),
      ),
  );
  return [...new Set(missing.filter((m) => m !== null))];
}

function known({ name, bytes }: Enclosure): Promise<LoadedBodies> {
  let one = coming.get(bytes.hash);
  if (!one) {
    one = bringEnclosed({ name, bytes }).then((content) => readBodyFile(content, name));
    coming.set(bytes.hash, one);
    one.then(
      (file) => {
        loaded.set(bytes.hash, file);
        coming.delete(bytes.hash);
      },
      // Whoever asks again may have more luck; but not with every picture that is drawn.
      () => setTimeout(() => coming.delete(bytes.hash), RETRY),
    );
  }
  return one;
}

/**
 * Reads a file of bodies, away from the page.
 *
 * @throws Error when it is damaged or of another kind
 */
export async function readBodyFile(
  bytes: Uint8Array<ArrayBuffer>,
  name: string,
  signal?: AbortSignal,
): Promise<LoadedBodies> {
  pool ??= new WorkerPool(
    () =>
      new Worker(new URL('./read-bodies-worker.ts', import.meta.url), {
        type: 'module',
      }) as unknown as WorkerPort,
    1,
  );
  const file = await pool.run<BodyFile>({ bytes, name }, { signal });
  const notes = [...file.notes];
  const images = await Promise.all(file.pictures.map((picture) => unpacked(picture, notes)));
  return { ...file, pictures: [], notes, images };
}

async function unpacked({ type, bytes }: BodyPicture, notes: string[]): Promise<ImageBitmap | null> {
  try {
    const whole = await createImageBitmap(new Blob([bytes], { type }), { premultiplyAlpha: 'none' });
    const longest = Math.max(whole.width, whole.height);
    if (longest <= LARGEST_PICTURE) return whole;
    notes.push(
      `a picture of ${whole.width} by ${whole.height} pixels is shown with ${LARGEST_PICTURE} along its longer side`,
    );
    const [resizeWidth, resizeHeight] = [whole.width, whole.height].map((n) =>
      Math.max(1, Math.round((n * LARGEST_PICTURE) / longest)),
    );
    const smaller = await createImageBitmap(whole, {
      resizeWidth,
      resizeHeight,
      resizeQuality: 'high',
      premultiplyAlpha: 'none',
    });
    whole.close();
    return smaller;
  } catch {
    notes.push('a picture is damaged and left out');
    return null;
  }
}
