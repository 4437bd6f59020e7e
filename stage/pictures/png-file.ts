import type { PictureSize } from '../stage.ts';
import { pngChunk } from './embed-about.ts';
import { nextTurn } from './picture-rows.ts';

const SIGNATURE = Uint8Array.of(137, 80, 78, 71, 13, 10, 26, 10);
/** Rows packed before the page may do something else. */
const ROWS_AT_ONCE = 64;
/** Colours with opacity. */
const COLOURS_WITH_OPACITY = 6;
/** Each row is told by what differs from the one above. */
const UP = 2;

/**
 * A file of Portable Network Graphics (third edition) with 16 bits a channel, made row by row, so that only what is
 * packed is held.
 *
 * @param rows so many of them from one on: red, green, blue, straight opacity
 * @param texts chunks that come before the picture
 */
export async function pngFile(
  { width, height }: PictureSize,
  rows: (from: number, count: number) => Uint16Array,
  texts: Uint8Array,
): Promise<Blob> {
  const head = new DataView(new ArrayBuffer(13));
  head.setUint32(0, width);
  head.setUint32(4, height);
  head.setUint8(8, 16);
  head.setUint8(9, COLOURS_WITH_OPACITY);
  const parts: Uint8Array[] = [SIGNATURE, pngChunk('IHDR', new Uint8Array(head.buffer)), texts];
  // The stream of zlib that the format asks for (RFC 1950).
  const packing = new CompressionStream('deflate');
  const packs = (async () => {
    const reader = packing.readable.getReader();
    for (let read = await reader.read(); !read.done; read = await reader.read())
      parts.push(pngChunk('IDAT', read.value));
  })();
  const writer = packing.writable.getWriter();
  let above = new Uint8Array(8 * width);
  for (let from = 0; from < height; from += ROWS_AT_ONCE) {
    const count = Math.min(ROWS_AT_ONCE, height - from);
    const deep = rows(from, count);
    const out = new Uint8Array(count * (8 * width + 1));
    for (let row = 0; row < count; row++) {
      const own = bigEndian(deep.subarray(4 * row * width, 4 * (row + 1) * width));
      const begin = row * (own.length + 1);
      out[begin] = UP;
      for (let i = 0; i < own.length; i++) out[begin + 1 + i] = own[i] - above[i];
      above = own;
    }
    await writer.write(out);
    await nextTurn();
  }
  await writer.close();
  await packs;
  parts.push(pngChunk('IEND', new Uint8Array(0)));
  return new Blob(parts as Uint8Array<ArrayBuffer>[], { type: 'image/png' });
}

function bigEndian(numbers: Uint16Array): Uint8Array<ArrayBuffer> {
  const out = new Uint8Array(2 * numbers.length);
  for (let i = 0; i < numbers.length; i++) {
    out[2 * i] = numbers[i] >> 8;
    out[2 * i + 1] = numbers[i] & 255;
  }
  return out;
}
