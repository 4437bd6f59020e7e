import { closeSync, openSync, readFileSync, readSync, statSync } from 'node:fs';
import { inflateSync } from 'node:zlib';
import type { ByteSource } from '#core/formats/bytes/byte-source.ts';
import type { ReadTools } from '#core/formats/format.ts';
import { ReadError } from '#core/model/read-error.ts';
import { signBytes } from './reading-signs.ts';

/** Files up to this size are read at once; larger ones by ranges. */
const READ_AT_ONCE = 2 ** 20;

/** The bytes of a file on disk. Each range is read into memory of its own, so that arrays lie well in it. */
export function fileSource(path: string): ByteSource {
  const { size } = statSync(path);
  const whole = size <= READ_AT_ONCE ? plainBytes(readFileSync(path)) : null;
  if (whole) signBytes(path, size, size);
  if (whole) return { length: whole.length, path, read: (from, to) => whole.subarray(from, to) };
  return {
    length: size,
    path,
    read(from, to) {
      const bytes = readRange(path, from, Math.min(to, size));
      signBytes(path, size, bytes.length);
      return bytes;
    },
  };
}

function readRange(path: string, from: number, to: number): Uint8Array {
  const length = Math.max(0, to - from);
  if (length > 2 ** 32) {
    throw new ReadError(
      `an array of ${(length / 2 ** 30).toFixed(1)} GiB is too large to be read`,
      `byte ${from}`,
      'Write the results in several pieces.',
    );
  }
  const out = new Uint8Array(length);
  const file = openSync(path, 'r');
  try {
    let at = 0;
    while (at < length) {
      const n = readSync(file, out, at, Math.min(length - at, 2 ** 30), from + at);
      if (n === 0) break;
      at += n;
    }
    return at === length ? out : out.subarray(0, at);
  } finally {
    closeSync(file);
  }
}

/** Without Node's own kind of array, whose methods differ. */
const plainBytes = (b: Buffer): Uint8Array => new Uint8Array(b.buffer, b.byteOffset, b.length);

/** Node's own inflate, base64 and search, which are much faster than portable code. */
export const fastTools: Pick<ReadTools, 'inflate' | 'decodeBase64' | 'find'> = {
  // One piece of output of the right size: nothing is put together or copied afterwards.
  inflate: (data, size) =>
    plainBytes(inflateSync(data, { maxOutputLength: Math.max(1, size), chunkSize: Math.max(64, size) })),
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
    return plainBytes(bytes);
  },
  find: (bytes, byte, from) => Buffer.from(bytes.buffer, bytes.byteOffset, bytes.length).indexOf(byte, from),
};
