import { ReadError } from '../model/read-error.ts';
import type { NumberArray } from './format.ts';

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
  const aligned = data.byteOffset % size === 0 && (littleEndian || size === 1) ? data : new Uint8Array(data);
  if (!littleEndian && size > 1) swapBytes(aligned, size);
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

function swapBytes(data: Uint8Array, size: number): void {
  if (size === 4 && data.byteOffset % 4 === 0) {
    const words = new Uint32Array(data.buffer, data.byteOffset, Math.floor(data.length / 4));
    for (let i = 0; i < words.length; i++) {
      const v = words[i];
      words[i] = (v << 24) | ((v & 0xff00) << 8) | ((v >>> 8) & 0xff00) | (v >>> 24);
    }
    return;
  }
  if (size === 8 && data.byteOffset % 4 === 0) {
    const words = new Uint32Array(data.buffer, data.byteOffset, 2 * Math.floor(data.length / 8));
    for (let i = 0; i < words.length; i += 2) {
      const a = words[i];
      const b = words[i + 1];
      words[i] = (b << 24) | ((b & 0xff00) << 8) | ((b >>> 8) & 0xff00) | (b >>> 24);
      words[i + 1] = (a << 24) | ((a & 0xff00) << 8) | ((a >>> 8) & 0xff00) | (a >>> 24);
    }
    return;
  }
  for (let i = 0; i + size <= data.length; i += size) {
    for (let a = i, b = i + size - 1; a < b; a++, b--) {
      const t = data[a];
      data[a] = data[b];
      data[b] = t;
    }
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
  return Uint32Array.from(values);
}

export const asFloats = (values: NumberArray): Float32Array | Float64Array =>
  values instanceof Float32Array || values instanceof Float64Array ? values : Float64Array.from(values);
