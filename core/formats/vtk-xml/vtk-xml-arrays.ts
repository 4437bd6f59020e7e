import type { NumberArray } from '../../model/arrays.ts';
import { byName } from '../../model/by-name.ts';
import { CutOffError, ReadError } from '../../model/read-error.ts';
import { readAsciiNumbers } from '../bytes/ascii-numbers.ts';
import { withoutWhiteSpace } from '../bytes/base64.ts';
import { type NumberType, numberBytes, numbersOf } from '../bytes/binary-numbers.ts';
import { type ByteSource, memorySource } from '../bytes/byte-source.ts';
import type { ReadTools } from '../format.ts';

/** What the root tag says about every array of the file. */
export interface FileEncoding {
  littleEndian: boolean;
  headerBytes: 4 | 8;
  compressed: boolean;
}

/** An array as its tag announces it; `text` or `offset` says where the numbers are. */
export interface ArrayTag {
  name: string;
  /** Place in the file, for messages, such as `PointData / T`. */
  where: string;
  type: string;
  components: number;
  format: string;
  unit: string | null;
  offset: number | null;
  /** Byte range of the inline text. */
  text: [number, number] | null;
}

export interface AppendedBlock {
  encoding: 'raw' | 'base64';
  start: number;
}

const numberTypes: Record<string, NumberType> = byName({
  Int8: 'i8',
  UInt8: 'u8',
  Int16: 'i16',
  UInt16: 'u16',
  Int32: 'i32',
  UInt32: 'u32',
  Int64: 'i64',
  UInt64: 'u64',
  Float32: 'f32',
  Float64: 'f64',
});

/** Deflate cannot shrink data by more than 1032 to 1; a larger claim is a trap or damage. */
const LARGEST_RATIO = 1040;

/**
 * Reads one array of a VTK XML file: ascii, base64 in place, or appended raw or base64; with or without zlib blocks.
 *
 * @param count how many numbers the file's structure asks for; null takes what is there
 * @throws ReadError when the announced and the real length differ; memory is only taken after that check
 */
export function readDataArray(
  source: ByteSource,
  tag: ArrayTag,
  encoding: FileEncoding,
  appended: AppendedBlock | null,
  count: number | null,
  tools: ReadTools,
): NumberArray {
  const size = numberBytes[numberTypes[tag.type]];
  if (!size) {
    throw new ReadError(
      `arrays of type "${tag.type}" are not read`,
      tag.where,
      'Write numbers as Int, UInt or Float of 8 to 64 bits.',
    );
  }
  if (tag.format === 'ascii') return readAscii(source, tag, count);
  const data = readBinary(source, tag, encoding, appended, tools);
  if (count !== null && data.length !== count * size) {
    throw new ReadError(
      `the array should hold ${count} numbers (${count * size} bytes) but holds ${data.length} bytes`,
      tag.where,
      'The counts in the file do not fit its content; write it again from the solver.',
    );
  }
  if (data.length % size !== 0) {
    throw new CutOffError(`${data.length} bytes are no whole number of ${tag.type} values`, tag.where);
  }
  return numbersOf(data, numberTypes[tag.type], encoding.littleEndian, tag.where);
}

function readAscii(source: ByteSource, tag: ArrayTag, count: number | null): NumberArray {
  const text = tag.text ? source.read(tag.text[0], tag.text[1]) : new Uint8Array(0);
  if (count !== null && count > text.length / 2 + 1) {
    throw new CutOffError(
      `the array should hold ${count} numbers but its text has ${text.length} letters`,
      tag.where,
    );
  }
  const n = count ?? countWords(text);
  const makers: Record<string, new (length: number) => NumberArray> = {
    Int8: Int8Array,
    UInt8: Uint8Array,
    Int16: Int16Array,
    UInt16: Uint16Array,
    Int32: Int32Array,
    UInt32: Uint32Array,
    Float32: Float32Array,
  };
  const out = new (makers[tag.type] ?? Float64Array)(n);
  readAsciiNumbers(text, out, tag.where);
  return out;
}

function countWords(text: Uint8Array): number {
  let n = 0;
  for (let i = 0; i < text.length; i++) if (text[i] > 32 && (i === 0 || text[i - 1] <= 32)) n++;
  return n;
}

function readBinary(
  source: ByteSource,
  tag: ArrayTag,
  encoding: FileEncoding,
  appended: AppendedBlock | null,
  tools: ReadTools,
): Uint8Array {
  if (tag.format === 'appended') {
    if (!appended || tag.offset === null) {
      throw new CutOffError('the array points to appended data that is not there', tag.where);
    }
    const start = appended.start + tag.offset;
    if (!(start >= 0 && start < source.length)) {
      throw new CutOffError(`offset ${tag.offset} lies outside the file`, tag.where);
    }
    return appended.encoding === 'raw'
      ? takeArray(new RawBytes(source, start, tag.where), encoding, tag.where, tools)
      : takeArray(new Base64Text(source, start, tag.where, tools), encoding, tag.where, tools);
  }
  if (tag.format === 'binary') {
    const text = withoutWhiteSpace(
      tag.text ? source.read(tag.text[0], tag.text[1]) : new Uint8Array(0),
      tools.find,
    );
    return takeArray(new Base64Text(memorySource(text), 0, tag.where, tools), encoding, tag.where, tools);
  }
  throw new ReadError(
    `array format "${tag.format}" is not known`,
    tag.where,
    'Use ascii, binary or appended.',
  );
}

/** A place bytes are taken from in order: headers and bodies are separate base64 groups where compressed. */
interface ArrayBytes {
  /** The first `n` bytes from the current place, without moving on. */
  peek(n: number): Uint8Array;
  /** Moves behind a header of `n` bytes that was encoded on its own. */
  skipHeader(n: number): void;
  /** `n` bytes that follow a header of `behind` bytes in the same group. */
  body(n: number, behind: number): Uint8Array;
}

class RawBytes implements ArrayBytes {
  constructor(
    private readonly source: ByteSource,
    private at: number,
    private readonly where: string,
  ) {}
  peek(n: number): Uint8Array {
    if (this.at + n > this.source.length) {
      throw new CutOffError(
        `the array needs ${n} bytes but ${this.source.length - this.at} are left`,
        this.where,
      );
    }
    return this.source.read(this.at, this.at + n);
  }
  skipHeader(n: number): void {
    this.at += n;
  }
  body(n: number, behind: number): Uint8Array {
    this.at += behind;
    return this.peek(n);
  }
}

class Base64Text implements ArrayBytes {
  constructor(
    private readonly source: ByteSource,
    private at: number,
    private readonly where: string,
    private readonly tools: ReadTools,
  ) {}
  peek(n: number): Uint8Array {
    const letters = 4 * Math.ceil(n / 3);
    if (this.at + letters > this.source.length) {
      throw new CutOffError(
        `the array needs ${letters} base64 letters but ${this.source.length - this.at} are left`,
        this.where,
      );
    }
    const decoded = this.tools.decodeBase64(this.source.read(this.at, this.at + letters));
    if (decoded.length < n) throw new CutOffError('the base64 text of the array is damaged', this.where);
    return decoded.subarray(0, n);
  }
  skipHeader(n: number): void {
    this.at += 4 * Math.ceil(n / 3);
  }
  body(n: number, behind: number): Uint8Array {
    return this.peek(n + behind).subarray(behind);
  }
}

function takeArray(source: ArrayBytes, encoding: FileEncoding, where: string, tools: ReadTools): Uint8Array {
  const h = encoding.headerBytes;
  if (!encoding.compressed) {
    const [length] = readHeader(source.peek(h), encoding, where);
    return source.body(length, h);
  }
  const [blocks] = readHeader(source.peek(h), encoding, where);
  if (blocks === 0) return new Uint8Array(0);
  const headerLength = h * (3 + blocks);
  const header = readHeader(source.peek(headerLength), encoding, where);
  const [, blockSize, lastSize, ...sizes] = header;
  const stored = sizes.reduce((a, b) => a + b, 0);
  const total = (blocks - (lastSize ? 1 : 0)) * blockSize + lastSize;
  if (total > stored * LARGEST_RATIO + 1024) {
    throw new ReadError(
      `the array claims ${total} bytes out of ${stored} compressed bytes, more than zlib can hold`,
      where,
      'The file is damaged or was made to do harm; do not use it.',
    );
  }
  source.skipHeader(headerLength);
  const body = source.body(stored, 0);
  const out = new Uint8Array(blocks === 1 ? 0 : total);
  let from = 0;
  for (let b = 0; b < blocks; b++) {
    const size = b === blocks - 1 && lastSize ? lastSize : blockSize;
    let block: Uint8Array;
    try {
      block = tools.inflate(body.subarray(from, from + sizes[b]), size);
    } catch {
      throw new CutOffError(`compressed block ${b + 1} of ${blocks} is damaged`, where);
    }
    if (block.length !== size) {
      throw new CutOffError(
        `compressed block ${b + 1} of ${blocks} has ${block.length} bytes, not ${size}`,
        where,
      );
    }
    if (blocks === 1) return block;
    out.set(block, b * blockSize);
    from += sizes[b];
  }
  return out;
}

function readHeader(bytes: Uint8Array, encoding: FileEncoding, where: string): number[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const out: number[] = [];
  for (let i = 0; i < bytes.length; i += encoding.headerBytes) {
    const v =
      encoding.headerBytes === 4
        ? view.getUint32(i, encoding.littleEndian)
        : Number(view.getBigUint64(i, encoding.littleEndian));
    if (v > 2 ** 40) {
      throw new ReadError(
        `the array announces a length of ${v} bytes`,
        where,
        'The header width or byte order does not fit, or the file is damaged; write it again.',
      );
    }
    out.push(v);
  }
  return out;
}
