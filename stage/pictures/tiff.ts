import { zlibSync } from 'fflate';
import { packetOf } from './about.ts';
import { deepRows, nextTurn } from './picture-rows.ts';
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
    const strips: Uint8Array[] = [];
    let length = 1024;
    for (let row = 0; row < height; row += ROWS) {
      const part = deepRows(picture, row, Math.min(ROWS, height - row));
      const strip = zlibSync(new Uint8Array(part.buffer), { level: 6 });
      length += strip.length + 16;
      if (length > LARGEST) throw tooLarge(picture, 'for a TIFF file');
      strips.push(strip);
      await nextTurn();
    }
    const parts = tiffParts(width, height, strips, about ? packetOf(about) : '');
    return new Blob(parts as Uint8Array<ArrayBuffer>[], { type: 'image/tiff' });
  },
};

/**
 * The bytes of a file of one picture, part by part.
 *
 * @param packet of XMP, or nothing
 * @param strips of `ROWS` rows each, 16 bits a channel, little-endian, packed by zlib
 */
function tiffParts(
  width: number,
  height: number,
  strips: readonly Uint8Array[],
  packet: string,
): Uint8Array[] {
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
  const begin = new DataView(new ArrayBuffer(head));
  begin.setUint16(0, 0x4949);
  begin.setUint16(2, 42, true);
  begin.setUint32(4, directory, true);
  // Places in the directory are counted from the begin of the file.
  let beyond = 2 + 12 * entries.length + 4;
  const out = new Uint8Array(beyond + entries.map(outside).reduce((a, b) => a + b, 0));
  const view = new DataView(out.buffer);
  view.setUint16(0, entries.length, true);
  for (const [i, entry] of entries.entries()) {
    const [tag, kind, values] = entry;
    const at = 2 + 12 * i;
    view.setUint16(at, tag, true);
    view.setUint16(at + 2, kind, true);
    view.setUint32(at + 4, kind === RATIONAL ? values.length / 2 : values.length, true);
    const length = outside(entry);
    const place = length > 0 ? beyond : at + 8;
    if (length > 0) view.setUint32(at + 8, directory + beyond, true);
    for (const [n, value] of values.entries())
      if (kind === BYTE) out[place + n] = value;
      else if (kind === SHORT) view.setUint16(place + 2 * n, value, true);
      else view.setUint32(place + 4 * n, value, true);
    beyond += length;
  }
  const even = strips.flatMap((s) => (s.length % 2 ? [s, new Uint8Array(1)] : [s]));
  return [new Uint8Array(begin.buffer), ...even, out];
}
