import { ReadError } from '#core/model/read-error.ts';
import { type Enclosure, LARGEST_ENCLOSURE } from '#core/scene/enclosure.ts';
import { ArrayStore, refOf } from './array-store.ts';
import { arraysFolder } from './paths.ts';

/** Files that were just sent are kept although no scene that is saved refers to them yet, in milliseconds. */
const UNTIL_SAVED = 60 * 60_000;

/** When files were sent, by the names of their contents. */
const sent = new Map<string, number>();

/** What no saved scene refers to yet, and may be about to. */
export function freshEnclosures(now = Date.now()): string[] {
  for (const [hash, when] of sent) if (now - when > UNTIL_SAVED) sent.delete(hash);
  return [...sent.keys()];
}

/**
 * Keeps a file that is to go with a scene.
 *
 * @throws ReadError when it is empty or too large
 */
export async function keepEnclosure(name: string, chunks: AsyncIterable<Uint8Array>): Promise<Enclosure> {
  const parts: Uint8Array[] = [];
  let length = 0;
  for await (const chunk of chunks) {
    length += chunk.length;
    if (length > LARGEST_ENCLOSURE)
      throw new ReadError(
        `the file is larger than ${LARGEST_ENCLOSURE / 2 ** 20} MB`,
        name,
        'Make it smaller: a panorama needs no more than 4096 pixels across.',
      );
    parts.push(chunk);
  }
  if (length === 0) throw new ReadError('the file is empty', name, 'Choose another file.');
  const bytes = new Uint8Array(length);
  let at = 0;
  for (const part of parts) {
    bytes.set(part, at);
    at += part.length;
  }
  // First, so that no sweep meanwhile takes it away.
  const { hash } = refOf(bytes);
  sent.set(hash, Date.now());
  await new ArrayStore(arraysFolder).put(bytes);
  return { name, bytes: { hash, type: 'u8', length } };
}
