import type { NumberArray } from '../../model/arrays.ts';
import { ReadError } from '../../model/read-error.ts';

/** Number types of binary files; 64-bit integers are narrowed to Float64 on the way in. */
export type NumberType = 'i8' | 'u8' | 'i16' | 'u16' | 'i32' | 'u32' | 'i64' | 'u64' | 'f32' | 'f64';

export const numberBytes: Record<NumberType, number> = {
  i8: 1,
  u8: 1,
  i16: 2,
  u16: 2,
  i32: 4,
  u32: 4,
  i64: 8,
  u64: 8,
  f32: 4,
  f64: 8,
};

/**
 * Looks at bytes as numbers. Bytes that lie well are used as they stand; others are copied first.
 *
 * @param where place in the file, for messages
 * @throws ReadError when a 64-bit integer is too large for a Float64
 */
export function numbersOf(
  data: Uint8Array,
  type: NumberType,
  littleEndian: boolean,
  where: string,
): NumberArray {
  const size = numberBytes[type];
  // A copy made by the constructor: the bytes may be a view into a larger buffer of a host's own kind.
  const well = data.byteOffset % size === 0;
  const aligned =
    size === 1 || (well && littleEndian) ? data : littleEndian ? new Uint8Array(data) : swapped(data, size);
  const { buffer, byteOffset } = aligned;
  const n = Math.floor(data.length / size);
  switch (type) {
    case 'i8':
      return new Int8Array(buffer, byteOffset, n);
    case 'u8':
      return new Uint8Array(buffer, byteOffset, n);
    case 'i16':
      return new Int16Array(buffer, byteOffset, n);
    case 'u16':
      return new Uint16Array(buffer, byteOffset, n);
    case 'i32':
      return new Int32Array(buffer, byteOffset, n);
    case 'u32':
      return new Uint32Array(buffer, byteOffset, n);
    case 'f32':
      return new Float32Array(buffer, byteOffset, n);
    case 'f64':
      return new Float64Array(buffer, byteOffset, n);
    default:
      return narrowed(new BigInt64Array(buffer, byteOffset, n), type === 'u64', where);
  }
}

/** 64-bit integers as Float64, which holds whole numbers up to 2^53 exactly. */
export function narrowed(
  values: BigInt64Array | BigUint64Array,
  unsigned: boolean,
  where: string,
): Float64Array {
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

/** The bytes of each number the other way round, in memory of their own. */
function swapped(data: Uint8Array, size: number): Uint8Array {
  const source = data.byteOffset % 4 === 0 ? data : new Uint8Array(data);
  const out = new Uint8Array(data.length);
  const count = Math.floor(data.length / 4);
  if (size === 4)
    swapWords(new Uint32Array(source.buffer, source.byteOffset, count), new Uint32Array(out.buffer), 0);
  else if (size === 8)
    swapWords(
      new Uint32Array(source.buffer, source.byteOffset, count & ~1),
      new Uint32Array(out.buffer, 0, count & ~1),
      1,
    );
  else
    for (let i = 0; i + 1 < data.length; i += 2) {
      out[i] = data[i + 1];
      out[i + 1] = data[i];
    }
  return out;
}

/** Turns each word around; with `other` 1 the two words of a double change places as well. */
function swapWords(from: Uint32Array, to: Uint32Array, other: 0 | 1): void {
  for (let i = 0; i < from.length; i++) {
    const v = from[i];
    const pairs = ((v & 0x00ff00ff) << 8) | ((v >>> 8) & 0x00ff00ff);
    to[i ^ other] = (pairs << 16) | (pairs >>> 16);
  }
}

/** Puts arrays behind each other; the first array itself when there is only one. */
export function joinArrays(parts: NumberArray[]): NumberArray {
  if (parts.length === 1) return parts[0];
  const length = parts.reduce((n, p) => n + p.length, 0);
  if (parts.length === 0) return new Float32Array(0);
  const Maker = parts[0].constructor as new (length: number) => NumberArray;
  const same = parts.every((p) => p.constructor === parts[0].constructor);
  const out = same ? new Maker(length) : new Float64Array(length);
  let at = 0;
  for (const p of parts) {
    out.set(p, at);
    at += p.length;
  }
  return out;
}

/** The same numbers as unsigned 32-bit integers; the array itself where it has that width already. */
export function asUint32(values: NumberArray): Uint32Array {
  if (values instanceof Uint32Array) return values;
  if (values instanceof Int32Array) return new Uint32Array(values.buffer, values.byteOffset, values.length);
  return new Uint32Array(values);
}

export const asFloats = (values: NumberArray): Float32Array | Float64Array =>
  values instanceof Float32Array || values instanceof Float64Array ? values : new Float64Array(values);
