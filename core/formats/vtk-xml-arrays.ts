import { ReadError } from '../model/read-error.ts';
import { readAsciiNumbers } from './ascii-numbers.ts';
import { withoutWhiteSpace } from './base64.ts';
import type { NumberArray, ReadTools } from './format.ts';

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

const elementBytes: Record<string, number> = {
  Int8: 1,
  UInt8: 1,
  Int16: 2,
  UInt16: 2,
  Int32: 4,
  UInt32: 4,
  Int64: 8,
  UInt64: 8,
  Float32: 4,
  Float64: 8,
};

/** Deflate cannot shrink data by more than 1032 to 1; a larger claim is a trap or damage. */
const LARGEST_RATIO = 1040;

const cutOff = 'The file may be cut off; copy or write it again.';

/**
 * Reads one array of a VTK XML file: ascii, base64 in place, or appended raw or base64; with or without zlib blocks.
 *
 * @param count how many numbers the file's structure asks for; null takes what is there
 * @throws ReadError when the announced and the real length differ; memory is only taken after that check
 */
export function readDataArray(
  bytes: Uint8Array,
  tag: ArrayTag,
  encoding: FileEncoding,
  appended: AppendedBlock | null,
  count: number | null,
  tools: ReadTools,
): NumberArray {
  const size = elementBytes[tag.type];
  if (!size) {
    throw new ReadError(
      `arrays of type "${tag.type}" are not read`,
      tag.where,
      'Write numbers as Int, UInt or Float of 8 to 64 bits.',
    );
  }
  if (tag.format === 'ascii') return readAscii(bytes, tag, count);
  const data = readBinary(bytes, tag, encoding, appended, tools);
  if (count !== null && data.length !== count * size) {
    throw new ReadError(
      `the array should hold ${count} numbers (${count * size} bytes) but holds ${data.length} bytes`,
      tag.where,
      'The counts in the file do not fit its content; write it again from the solver.',
    );
  }
  if (data.length % size !== 0) {
    throw new ReadError(`${data.length} bytes are no whole number of ${tag.type} values`, tag.where, cutOff);
  }
  return typed(data, tag.type, size, encoding.littleEndian, tag.where);
}

function readAscii(bytes: Uint8Array, tag: ArrayTag, count: number | null): NumberArray {
  const text = tag.text ? bytes.subarray(tag.text[0], tag.text[1]) : new Uint8Array(0);
  if (count !== null && count > text.length / 2 + 1) {
    throw new ReadError(
      `the array should hold ${count} numbers but its text has ${text.length} letters`,
      tag.where,
      cutOff,
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
  bytes: Uint8Array,
  tag: ArrayTag,
  encoding: FileEncoding,
  appended: AppendedBlock | null,
  tools: ReadTools,
): Uint8Array {
  if (tag.format === 'appended') {
    if (!appended || tag.offset === null) {
      throw new ReadError('the array points to appended data that is not there', tag.where, cutOff);
    }
    const start = appended.start + tag.offset;
    if (!(start >= 0 && start < bytes.length)) {
      throw new ReadError(`offset ${tag.offset} lies outside the file`, tag.where, cutOff);
    }
    const source = bytes.subarray(start);
    return appended.encoding === 'raw'
      ? takeArray(new RawSource(source, tag.where), encoding, tag.where, tools)
      : takeArray(new Base64Source(source, tag.where, tools), encoding, tag.where, tools);
  }
  if (tag.format === 'binary') {
    const text = withoutWhiteSpace(
      tag.text ? bytes.subarray(tag.text[0], tag.text[1]) : new Uint8Array(0),
      tools.find,
    );
    return takeArray(new Base64Source(text, tag.where, tools), encoding, tag.where, tools);
  }
  throw new ReadError(
    `array format "${tag.format}" is not known`,
    tag.where,
    'Use ascii, binary or appended.',
  );
}

/** A place bytes are taken from in order: headers and bodies are separate base64 groups where compressed. */
interface ByteSource {
  /** The first `n` bytes from the current place, without moving on. */
  peek(n: number): Uint8Array;
  /** Moves behind a header of `n` bytes that was encoded on its own. */
  skipHeader(n: number): void;
  /** `n` bytes that follow a header of `behind` bytes in the same group. */
  body(n: number, behind: number): Uint8Array;
}

class RawSource implements ByteSource {
  private at = 0;
  constructor(
    private readonly bytes: Uint8Array,
    private readonly where: string,
  ) {}
  peek(n: number): Uint8Array {
    if (this.at + n > this.bytes.length) {
      throw new ReadError(
        `the array needs ${n} bytes but ${this.bytes.length - this.at} are left`,
        this.where,
        cutOff,
      );
    }
    return this.bytes.subarray(this.at, this.at + n);
  }
  skipHeader(n: number): void {
    this.at += n;
  }
  body(n: number, behind: number): Uint8Array {
    this.at += behind;
    return this.peek(n);
  }
}

class Base64Source implements ByteSource {
  private at = 0;
  constructor(
    private readonly text: Uint8Array,
    private readonly where: string,
    private readonly tools: ReadTools,
  ) {}
  peek(n: number): Uint8Array {
    const letters = 4 * Math.ceil(n / 3);
    if (this.at + letters > this.text.length) {
      throw new ReadError(
        `the array needs ${letters} base64 letters but ${this.text.length - this.at} are left`,
        this.where,
        cutOff,
      );
    }
    const decoded = this.tools.decodeBase64(this.text.subarray(this.at, this.at + letters));
    if (decoded.length < n)
      throw new ReadError('the base64 text of the array is damaged', this.where, cutOff);
    return decoded.subarray(0, n);
  }
  skipHeader(n: number): void {
    this.at += 4 * Math.ceil(n / 3);
  }
  body(n: number, behind: number): Uint8Array {
    return this.peek(n + behind).subarray(behind);
  }
}

function takeArray(source: ByteSource, encoding: FileEncoding, where: string, tools: ReadTools): Uint8Array {
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
  const out = new Uint8Array(total);
  let from = 0;
  for (let b = 0; b < blocks; b++) {
    const size = b === blocks - 1 && lastSize ? lastSize : blockSize;
    let block: Uint8Array;
    try {
      block = tools.inflate(body.subarray(from, from + sizes[b]), size);
    } catch {
      throw new ReadError(`compressed block ${b + 1} of ${blocks} is damaged`, where, cutOff);
    }
    if (block.length !== size) {
      throw new ReadError(
        `compressed block ${b + 1} of ${blocks} has ${block.length} bytes, not ${size}`,
        where,
        cutOff,
      );
    }
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

function typed(
  data: Uint8Array,
  type: string,
  size: number,
  littleEndian: boolean,
  where: string,
): NumberArray {
  // A copy made by the constructor: the bytes may be a view into a larger buffer of a host's own kind.
  const aligned = data.byteOffset % size === 0 && littleEndian ? data : new Uint8Array(data);
  if (!littleEndian && size > 1) swapBytes(aligned, size);
  const { buffer, byteOffset } = aligned;
  const n = data.length / size;
  switch (type) {
    case 'Int8':
      return new Int8Array(buffer, byteOffset, n);
    case 'UInt8':
      return new Uint8Array(buffer, byteOffset, n);
    case 'Int16':
      return new Int16Array(buffer, byteOffset, n);
    case 'UInt16':
      return new Uint16Array(buffer, byteOffset, n);
    case 'Int32':
      return new Int32Array(buffer, byteOffset, n);
    case 'UInt32':
      return new Uint32Array(buffer, byteOffset, n);
    case 'Float32':
      return new Float32Array(buffer, byteOffset, n);
    case 'Float64':
      return new Float64Array(buffer, byteOffset, n);
    default:
      return narrowed(new BigInt64Array(buffer, byteOffset, n), type === 'UInt64', where);
  }
}

/** 64-bit integers as Float64, which holds whole numbers up to 2^53 exactly. */
function narrowed(values: BigInt64Array, unsigned: boolean, where: string): Float64Array {
  const words = new Int32Array(values.buffer, values.byteOffset, values.length * 2);
  const out = new Float64Array(values.length);
  for (let i = 0; i < out.length; i++) {
    const high = unsigned ? words[2 * i + 1] >>> 0 : words[2 * i + 1];
    out[i] = high * 4294967296 + (words[2 * i] >>> 0);
    if (out[i] > 2 ** 53 || out[i] < -(2 ** 53)) {
      throw new ReadError(
        `the whole number ${out[i]} is too large to be kept exactly`,
        `${where}, entry ${i}`,
        'The header width or byte order may not fit, or the file is damaged; write it again.',
      );
    }
  }
  return out;
}

function swapBytes(data: Uint8Array, size: number): void {
  for (let i = 0; i < data.length; i += size) {
    for (let a = i, b = i + size - 1; a < b; a++, b--) {
      const t = data[a];
      data[a] = data[b];
      data[b] = t;
    }
  }
}
