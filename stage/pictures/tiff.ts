import { zlibSync } from 'fflate';
import { packetOf } from './about.ts';
import { deepPixels } from './whole-picture.ts';
import { type PictureWriter, tooLarge } from './writer.ts';

/** Rows packed together. */
const ROWS = 32;
/** Places in a file are 32 bits. */
const LARGEST = 2 ** 32 - 1;

/** Kinds of numbers in the directory of a file. */
const BYTE = 1;
const SHORT = 3;
const LONG = 4;
const RATIONAL = 5;

type Entry = [tag: number, kind: number, values: readonly number[]];

/** Tagged Image File Format (TIFF 6.0): 16 bits a channel of sRGB with straight opacity, packed without loss. */
export const tiff: PictureWriter = {
  id: 'tiff',
  name: 'TIFF, 16 bit',
  purpose: 'without loss, for print',
  ending: 'tif',
  opacity: true,
  async write(picture, about) {
    const { width, height } = picture;
    const pixels = await deepPixels(picture);
    const strips: Uint8Array[] = [];
    for (let row = 0; row < height; row += ROWS) {
      const part = pixels.subarray(4 * row * width, 4 * Math.min(height, row + ROWS) * width);
      strips.push(zlibSync(new Uint8Array(part.buffer, part.byteOffset, part.byteLength), { level: 6 }));
      await new Promise((resolve) => setTimeout(resolve, 0));
    }
    if (strips.reduce((sum, s) => sum + s.length + 16, 1024) > LARGEST)
      throw tooLarge(picture, 'for a TIFF file');
    return new Blob(
      [tiffFile(width, height, strips, about ? packetOf(about) : '') as Uint8Array<ArrayBuffer>],
      { type: 'image/tiff' },
    );
  },
};

/**
 * The bytes of a file of one picture.
 *
 * @param packet of XMP, or nothing
 * @param strips of `ROWS` rows each, 16 bits a channel, little-endian, packed by zlib
 */
export function tiffFile(
  width: number,
  height: number,
  strips: readonly Uint8Array[],
  packet: string,
): Uint8Array {
  const head = 8;
  const lengths = strips.map((s) => s.length + (s.length % 2));
  const body = lengths.reduce((a, b) => a + b, 0);
  let offset = head;
  const offsets = lengths.map((length) => {
    offset += length;
    return offset - length;
  });
  // By their numbers, as the format wants them.
  const entries: Entry[] = [
    [256, LONG, [width]],
    [257, LONG, [height]],
    [258, SHORT, [16, 16, 16, 16]],
    // Packed by zlib (Technical Note 2 of TIFF 6.0, 2002).
    [259, SHORT, [8]],
    [262, SHORT, [2]],
    [273, LONG, offsets],
    [274, SHORT, [1]],
    [277, SHORT, [4]],
    [278, LONG, [ROWS]],
    [279, LONG, strips.map((s) => s.length)],
    [282, RATIONAL, [300, 1]],
    [283, RATIONAL, [300, 1]],
    [284, SHORT, [1]],
    [296, SHORT, [2]],
    // Straight opacity.
    [338, SHORT, [2]],
    ...(packet === '' ? [] : [[700, BYTE, [...new TextEncoder().encode(packet)]] as Entry]),
  ];
  const size = (kind: number): number => (kind === BYTE ? 1 : kind === SHORT ? 2 : 4);
  const outside = ([, kind, values]: Entry): number => {
    const bytes = size(kind) * values.length;
    return bytes > 4 ? bytes + (bytes % 2) : 0;
  };
  const directory = head + body;
  let beyond = directory + 2 + 12 * entries.length + 4;
  const out = new Uint8Array(beyond + entries.map(outside).reduce((a, b) => a + b, 0));
  const view = new DataView(out.buffer);
  view.setUint16(0, 0x4949);
  view.setUint16(2, 42, true);
  view.setUint32(4, directory, true);
  for (const [i, strip] of strips.entries()) out.set(strip, offsets[i]);
  view.setUint16(directory, entries.length, true);
  for (const [i, entry] of entries.entries()) {
    const [tag, kind, values] = entry;
    const at = directory + 2 + 12 * i;
    view.setUint16(at, tag, true);
    view.setUint16(at + 2, kind, true);
    view.setUint32(at + 4, kind === RATIONAL ? values.length / 2 : values.length, true);
    const length = outside(entry);
    const place = length > 0 ? beyond : at + 8;
    if (length > 0) view.setUint32(at + 8, beyond, true);
    for (const [n, value] of values.entries())
      if (kind === BYTE) out[place + n] = value;
      else if (kind === SHORT) view.setUint16(place + 2 * n, value, true);
      else view.setUint32(place + 4 * n, value, true);
    beyond += length;
  }
  return out;
}
