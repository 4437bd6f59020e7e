import { describedBy, type PictureAbout, packetOf } from './about.ts';

/** Puts what is said of a picture into the bytes of its file; those it does not understand stay as they are. */
export type EmbedAbout = (bytes: Uint8Array, about: PictureAbout) => Uint8Array;

const encoder = new TextEncoder();

function joined(...parts: readonly Uint8Array[]): Uint8Array {
  const out = new Uint8Array(parts.reduce((sum, p) => sum + p.length, 0));
  let at = 0;
  for (const part of parts) {
    out.set(part, at);
    at += part.length;
  }
  return out;
}

function number(value: number, bytes: number, littleEndian: boolean): Uint8Array {
  const out = new Uint8Array(bytes);
  for (let i = 0; i < bytes; i++) out[littleEndian ? i : bytes - 1 - i] = (value >>> (8 * i)) & 255;
  return out;
}

let table: Uint32Array | null = null;

/** The check of a chunk (ISO 3309, as PNG asks for it), by a table of what each byte does to it. */
function crc(bytes: Uint8Array): number {
  table ??= Uint32Array.from({ length: 256 }, (_, byte) => {
    let rest = byte;
    for (let k = 0; k < 8; k++) rest = rest & 1 ? 0xedb88320 ^ (rest >>> 1) : rest >>> 1;
    return rest;
  });
  let rest = 0xffffffff;
  for (const byte of bytes) rest = table[(rest ^ byte) & 255] ^ (rest >>> 8);
  return (rest ^ 0xffffffff) >>> 0;
}

/** A chunk of a PNG file: its length, its name of four letters, what it holds, and the check of these. */
export function pngChunk(name: string, holds: Uint8Array): Uint8Array {
  const content = joined(encoder.encode(name), holds);
  return joined(number(holds.length, 4, false), content, number(crc(content), 4, false));
}

/** Length of the signature of a PNG file and its first chunk. */
const PNG_HEAD = 33;

/** Title, description, program, and the packet as texts of a PNG file (PNG, third edition, 11.3.3). */
export function pngTexts(about: PictureAbout): Uint8Array {
  const text = (keyword: string, value: string): Uint8Array =>
    // No packing, no language.
    pngChunk('iTXt', joined(encoder.encode(keyword), new Uint8Array(5), encoder.encode(value)));
  return joined(
    text('Title', about.scene.name),
    text('Description', describedBy(about)),
    text('Software', 'Dresser'),
    text('Creation Time', about.made.toISOString()),
    text('XML:com.adobe.xmp', packetOf(about)),
  );
}

/** As texts behind the head of a PNG file. */
export const intoPng: EmbedAbout = (bytes, about) =>
  joined(bytes.subarray(0, PNG_HEAD), pngTexts(about), bytes.subarray(PNG_HEAD));

/** Longest that a segment of a JPEG file is. */
const LONGEST_SEGMENT = 65_533;

/** As a segment behind the begin of a JPEG file (ISO 16684-3). What is longer than a segment is left out. */
export const intoJpeg: EmbedAbout = (bytes, about) => {
  const content = encoder.encode(`http://ns.adobe.com/xap/1.0/\0${packetOf(about)}`);
  if (content.length > LONGEST_SEGMENT || bytes[0] !== 0xff || bytes[1] !== 0xd8) return bytes;
  const head = Uint8Array.of(0xff, 0xe1);
  return joined(bytes.subarray(0, 2), head, number(content.length + 2, 2, false), content, bytes.subarray(2));
};

const HAS_OPACITY = 0x10;
const HAS_PACKET = 0x04;

/** As the last chunk of a WebP file, whose head then says what chunks there are (RFC 9649). */
export const intoWebp: EmbedAbout = (bytes, about) => {
  const name = (at: number): string => String.fromCharCode(...bytes.subarray(at, at + 4));
  if (name(0) !== 'RIFF' || name(8) !== 'WEBP') return bytes;
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const packet = encoder.encode(packetOf(about));
  const last = joined(
    encoder.encode('XMP '),
    number(packet.length, 4, true),
    packet,
    new Uint8Array(packet.length % 2),
  );
  const kind = name(12);
  let head: Uint8Array;
  let rest = bytes.subarray(12);
  if (kind === 'VP8X') {
    head = bytes.slice(12, 30);
    head[8] |= HAS_PACKET;
    rest = bytes.subarray(30);
  } else {
    const lossless = kind === 'VP8L';
    const bits = view.getUint32(lossless ? 21 : 26, true);
    const [width, height] = lossless
      ? [(bits & 0x3fff) + 1, ((bits >>> 14) & 0x3fff) + 1]
      : [bits & 0x3fff, (bits >>> 16) & 0x3fff];
    const flags = HAS_PACKET | (lossless && (bits >>> 28) & 1 ? HAS_OPACITY : 0);
    head = joined(
      encoder.encode('VP8X'),
      number(10, 4, true),
      number(flags, 4, true),
      number(width - 1, 3, true),
      number(height - 1, 3, true),
    );
  }
  const body = joined(encoder.encode('WEBP'), head, rest, last);
  return joined(encoder.encode('RIFF'), number(body.length, 4, true), body);
};

/** What a box holds that holds such a packet (ISO 16684-3, of files of the MPEG-4 family). */
const PACKET_BOX = [
  0xbe, 0x7a, 0xcf, 0xcb, 0x97, 0xa9, 0x42, 0xe8, 0x9c, 0x71, 0x99, 0x94, 0x91, 0xe3, 0xaf, 0xac,
];

/** As the last box of an AVIF file: nothing before it moves. */
export const intoAvif: EmbedAbout = (bytes, about) => {
  if (String.fromCharCode(...bytes.subarray(4, 8)) !== 'ftyp') return bytes;
  const content = joined(
    encoder.encode('uuid'),
    Uint8Array.from(PACKET_BOX),
    encoder.encode(packetOf(about)),
  );
  return joined(bytes, number(content.length + 4, 4, false), content);
};

/** First number of an OpenEXR file, and rows in a block of it by the number of its compression ("OpenEXR File Layout"). */
const EXR_MAGIC = 20000630;
const ROWS_OF_BLOCK = [1, 1, 1, 16, 32, 16, 32, 32, 32, 256];

/** As attributes of the head of an OpenEXR file of rows: what it shows, when it was made, and the packet. */
export const intoExr: EmbedAbout = (bytes, about) => {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 16 || view.getUint32(0, true) !== EXR_MAGIC) return bytes;
  const text = (from: number): string => String.fromCharCode(...bytes.subarray(from, bytes.indexOf(0, from)));
  let at = 8;
  let rows = 0;
  let block = 1;
  while (bytes[at] !== 0) {
    const name = text(at);
    const kind = text(at + name.length + 1);
    const value = at + name.length + kind.length + 6;
    if (name === 'compression') block = ROWS_OF_BLOCK[bytes[value]];
    if (name === 'dataWindow') rows = view.getInt32(value + 12, true) - view.getInt32(value + 4, true) + 1;
    at = value + view.getInt32(value - 4, true);
  }
  const attribute = (name: string, value: string): Uint8Array => {
    const content = encoder.encode(value);
    return joined(encoder.encode(`${name}\0string\0`), number(content.length, 4, true), content);
  };
  const made = about.made.toISOString().slice(0, 19).replace('T', ' ').replaceAll('-', ':');
  const added = joined(
    attribute('comments', `${about.scene.name}; ${describedBy(about)}`),
    attribute('capDate', made),
    attribute('xmp', packetOf(about)),
  );
  const out = joined(bytes.subarray(0, at), added, bytes.subarray(at));
  // Behind the head stands where each block begins, from the begin of the file.
  const places = new DataView(out.buffer, at + added.length + 1);
  for (let i = 0; i < Math.ceil(rows / block); i++)
    places.setBigUint64(8 * i, places.getBigUint64(8 * i, true) + BigInt(added.length), true);
  return out;
};
