import type { NumberArray } from '../../model/arrays.ts';
import { byName } from '../../model/by-name.ts';
import { CutOffError, ReadError } from '../../model/read-error.ts';
import { readAsciiNumbers } from '../bytes/ascii-numbers.ts';
import { type NumberType, numberBytes, numbersOf } from '../bytes/binary-numbers.ts';
import { type ByteSource, SlidingWindow, WINDOW } from '../bytes/byte-source.ts';
import { fittingCount } from '../bytes/counts.ts';

const types: Record<string, NumberType> = byName({
  bit: 'u8',
  char: 'i8',
  signed_char: 'i8',
  unsigned_char: 'u8',
  short: 'i16',
  unsigned_short: 'u16',
  int: 'i32',
  unsigned_int: 'u32',
  long: 'i64',
  unsigned_long: 'u64',
  float: 'f32',
  double: 'f64',
  vtkidtype: 'i32',
  vtktypeint64: 'i64',
  vtktypeuint64: 'u64',
  vtktypeint32: 'i32',
  vtktypeuint32: 'u32',
  vtktypeint8: 'i8',
  vtktypeuint8: 'u8',
});

const arrays = {
  i8: Int8Array,
  u8: Uint8Array,
  i16: Int16Array,
  u16: Uint16Array,
  i32: Int32Array,
  u32: Uint32Array,
  i64: Float64Array,
  u64: Float64Array,
  f32: Float32Array,
  f64: Float64Array,
};

/** Walks through a legacy VTK file: lines of words, and arrays that are passed over and read later. */
export class LegacyCursor {
  readonly version: number;
  readonly binary: boolean;
  /** Place of the line read last. */
  lineStart = 0;
  private at = 0;
  private readonly window: SlidingWindow;

  constructor(private readonly source: ByteSource) {
    this.window = new SlidingWindow(source);
    const head = this.rawLine() ?? '';
    this.version = Number(/version\s+([\d.]+)/i.exec(head)?.[1] ?? 3);
    this.rawLine();
    const kind = (this.rawLine() ?? '').trim().toUpperCase();
    if (kind !== 'ASCII' && kind !== 'BINARY')
      throw new CutOffError(`the third line says "${kind.slice(0, 20)}", not ASCII or BINARY`, 'line 3');
    this.binary = kind === 'BINARY';
  }

  /** The words of the next line that is not blank; null at the end. */
  line(): string[] | null {
    for (;;) {
      const text = this.rawLine();
      if (text === null) return null;
      const words = text.trim().split(/\s+/);
      if (words[0] !== '') return words;
    }
  }

  /** Passes over the next line when it begins with a word. */
  skipLine(word: string): void {
    const at = this.at;
    if (!this.rawLine()?.trim().toUpperCase().startsWith(word)) this.at = at;
  }

  skipToBlankLine(): void {
    for (let text = this.rawLine(); text !== null && text.trim() !== ''; text = this.rawLine());
  }

  count(text: string | undefined, where: string): number {
    const n = Number(text ?? Number.NaN);
    if (Number.isInteger(n) && n >= 0 && n <= this.source.length * 8 + 1024) return n;
    throw new ReadError(
      `"${text ?? ''}" is not a count that fits the file`,
      where,
      'The file is damaged; write it again from the solver.',
    );
  }

  counts(words: string[], size: number, where: string): number[] {
    if (words.length !== size) throw new CutOffError(`${size} numbers are needed`, where);
    return words.map((w) => this.count(w, where));
  }

  /**
   * Passes over an array and gives a function that reads it.
   *
   * @throws ReadError when the file ends before the array does
   */
  array(count: number, typeName: string | undefined, where: string): () => NumberArray {
    const type = types[(typeName ?? '').toLowerCase()];
    if (!type)
      throw new ReadError(`arrays of type "${typeName ?? ''}" are not read`, where, 'Write numbers instead.');
    // A negative number of components would lead back, and round and round.
    fittingCount(count, Number.MAX_SAFE_INTEGER, 1, where);
    const from = this.at;
    if (this.binary) {
      const bytes = typeName === 'bit' ? Math.ceil(count / 8) : count * numberBytes[type];
      if (from + bytes > this.source.length) {
        throw new CutOffError(
          `the array needs ${bytes} bytes but ${this.source.length - from} are left`,
          where,
        );
      }
      this.at = from + bytes;
      if (typeName === 'bit') return () => bits(this.source.read(from, from + bytes), count);
      return () => numbersOf(this.source.read(from, from + bytes), type, false, where);
    }
    this.passWords(count, where);
    const to = this.at;
    return () => {
      const out = new arrays[type](count);
      readAsciiNumbers(this.source.read(from, to), out, where);
      return out;
    };
  }

  private passWords(count: number, where: string): void {
    let words = 0;
    let inside = false;
    while (words < count || inside) {
      if (this.at >= this.source.length) {
        if (inside && words === count) return;
        throw new CutOffError(`the array should hold ${count} numbers but ends after ${words}`, where);
      }
      this.window.reach(this.at, Math.min(WINDOW, this.source.length - this.at));
      const { bytes, start } = this.window;
      let i = this.at - start;
      for (; i < bytes.length; i++) {
        if (bytes[i] <= 32) {
          inside = false;
          if (words === count) break;
        } else if (!inside) {
          inside = true;
          words++;
        }
      }
      this.at = start + i;
    }
  }

  private rawLine(): string | null {
    if (this.at >= this.source.length) return null;
    this.lineStart = this.at;
    const need = Math.min(4096, this.source.length - this.at);
    this.window.reach(this.at, need);
    const { bytes, start } = this.window;
    const from = this.at - start;
    let to = from;
    const stop = Math.min(bytes.length, from + need);
    while (to < stop && bytes[to] !== 10) to++;
    this.at = start + to + 1;
    let text = '';
    for (let i = from; i < to; i++) text += String.fromCharCode(bytes[i]);
    return text;
  }
}

function bits(bytes: Uint8Array, count: number): Uint8Array {
  const out = new Uint8Array(count);
  for (let i = 0; i < count; i++) out[i] = (bytes[i >> 3] >> (7 - (i & 7))) & 1;
  return out;
}
