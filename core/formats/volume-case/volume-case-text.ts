import type { NumberArray } from '../../model/arrays.ts';
import { CutOffError } from '../../model/read-error.ts';
import { type NumberType, numbersOf } from '../bytes/binary-numbers.ts';
import { type ByteSource, wholeFile } from '../bytes/byte-source.ts';

/** What the header of a file of a finite-volume case says of it. */
export interface CaseHeader {
  class: string;
  object: string;
  binary: boolean;
  littleEndian: boolean;
  labelBytes: 4 | 8;
  scalarBytes: 4 | 8;
}

const decoder = new TextDecoder();

/** The header block in braces at the top of every file of a case, or null. */
export function caseHeader(head: Uint8Array): CaseHeader | null {
  const text = decoder.decode(head.subarray(0, 4096));
  const block = /(?:^|\n)\s*\w+\s*\{([^{}]*\bclass\s+\w+\s*;[^{}]*)\}/.exec(text)?.[1];
  if (!block) return null;
  const entry = (name: string): string =>
    new RegExp(`\\b${name}\\s+"?([^;"]*)"?\\s*;`).exec(block)?.[1].trim() ?? '';
  const arch = entry('arch');
  return {
    class: entry('class'),
    object: entry('object'),
    binary: entry('format') === 'binary',
    littleEndian: !/MSB/.test(arch),
    labelBytes: /label=64/.test(arch) ? 8 : 4,
    scalarBytes: /scalar=32/.test(arch) ? 4 : 8,
  };
}

/** Walks through the text of a case file: words, braces, lists of numbers, ascii or binary. */
export class CaseText {
  private readonly bytes: Uint8Array;
  private at = 0;
  readonly header: CaseHeader;

  constructor(
    source: ByteSource,
    private readonly where: string,
  ) {
    this.bytes = wholeFile(source);
    const header = caseHeader(this.bytes);
    if (!header) throw new CutOffError('the header block is missing', where);
    this.header = header;
    this.at = this.bytes.indexOf(125, 0) + 1;
  }

  /** The next word or single sign; empty at the end. Strings keep no quotes, comments are passed over. */
  word(): string {
    this.skip();
    const { bytes } = this;
    if (this.at >= bytes.length) return '';
    const c = bytes[this.at];
    if ('(){};[]'.includes(String.fromCharCode(c))) {
      this.at++;
      return String.fromCharCode(c);
    }
    const from = this.at;
    if (c === 34) {
      const end = bytes.indexOf(34, from + 1);
      this.at = end < 0 ? bytes.length : end + 1;
      return decoder.decode(bytes.subarray(from + 1, this.at - 1));
    }
    while (
      this.at < bytes.length &&
      bytes[this.at] > 32 &&
      !'(){};[]'.includes(String.fromCharCode(bytes[this.at]))
    )
      this.at++;
    return decoder.decode(bytes.subarray(from, this.at));
  }

  peek(): string {
    const at = this.at;
    const word = this.word();
    this.at = at;
    return word;
  }

  /** Passes over the rest of an entry: up to its semicolon, or over a whole block. */
  skipEntry(): void {
    let depth = 0;
    for (let w = this.word(); w !== ''; w = this.word()) {
      if (w === '{' || w === '(' || w === '[') depth++;
      else if (w === '}' || w === ')' || w === ']') {
        depth--;
        if (depth <= 0 && w === '}') return;
      } else if (w === ';' && depth === 0) return;
      else if (depth === 0 && /^(List<|nonuniform)/.test(w)) continue;
    }
  }

  expect(sign: string): void {
    const found = this.word();
    if (found !== sign)
      throw new CutOffError(
        `"${found.slice(0, 30)}" stands where "${sign}" should`,
        `${this.where}, byte ${this.at}`,
      );
  }

  count(): number {
    const word = this.word();
    const n = Number(word);
    if (Number.isInteger(n) && n >= 0 && n <= this.bytes.length) return n;
    throw new CutOffError(
      `"${word.slice(0, 30)}" is no count that fits the file`,
      `${this.where}, byte ${this.at}`,
    );
  }

  /** `count` entries of `width` numbers each, in brackets or binary. */
  numbers(count: number, width: number, kind: 'label' | 'scalar'): NumberArray {
    if (this.header.binary) return this.binaryNumbers(count * width, kind);
    this.skip();
    if (this.bytes[this.at] === 123) {
      // One value in braces stands for all of them.
      this.at++;
      const one = this.plain(width);
      this.expect('}');
      const out = new Float64Array(count * width);
      for (let i = 0; i < out.length; i++) out[i] = one[i % width];
      return out;
    }
    this.expect('(');
    const out = this.plain(count * width);
    if (width > 1 && count > 0) this.closeTuple();
    this.expect(')');
    return out;
  }

  /** Numbers in order, whatever brackets stand between them. */
  plain(count: number): Float64Array {
    const { bytes } = this;
    const out = new Float64Array(count);
    for (let n = 0; n < count; n++) {
      while (
        this.at < bytes.length &&
        (bytes[this.at] <= 32 || bytes[this.at] === 40 || bytes[this.at] === 41)
      )
        this.at++;
      const from = this.at;
      while (
        this.at < bytes.length &&
        bytes[this.at] > 32 &&
        bytes[this.at] !== 40 &&
        bytes[this.at] !== 41 &&
        bytes[this.at] !== 59 &&
        bytes[this.at] !== 125
      )
        this.at++;
      let text = '';
      for (let i = from; i < this.at && i < from + 40; i++) text += String.fromCharCode(bytes[i]);
      out[n] = /^[-+]?nan$/i.test(text) ? Number.NaN : text === '' ? Number.NaN : Number(text);
      if (Number.isNaN(out[n]) && !/nan/i.test(text))
        throw new CutOffError(
          text === ''
            ? `${count} numbers are announced but the list ends after ${n}`
            : `"${text}" is not a number`,
          `${this.where}, byte ${from}`,
        );
    }
    return out;
  }

  /** Passes over closing brackets of an entry of several numbers. */
  closeTuple(): void {
    this.skip();
    if (this.bytes[this.at] === 41) this.at++;
  }

  private binaryNumbers(count: number, kind: 'label' | 'scalar'): NumberArray {
    if (count === 0) return new Float64Array(0);
    const bytes = kind === 'label' ? this.header.labelBytes : this.header.scalarBytes;
    const open = this.bytes.indexOf(40, this.at);
    const from = open + 1;
    const to = from + count * bytes;
    if (open < 0 || to > this.bytes.length)
      throw new CutOffError(
        `${count * bytes} bytes are needed but fewer are left`,
        `${this.where}, byte ${from}`,
      );
    this.at = to;
    this.expect(')');
    const type = `${kind === 'label' ? 'i' : 'f'}${8 * bytes}` as NumberType;
    return numbersOf(this.bytes.slice(from, to), type, this.header.littleEndian, this.where);
  }

  private skip(): void {
    const { bytes } = this;
    for (;;) {
      while (this.at < bytes.length && bytes[this.at] <= 32) this.at++;
      if (bytes[this.at] !== 47) return;
      if (bytes[this.at + 1] === 47) {
        const end = bytes.indexOf(10, this.at);
        this.at = end < 0 ? bytes.length : end + 1;
      } else if (bytes[this.at + 1] === 42) {
        let end = this.at + 2;
        while (end < bytes.length && !(bytes[end] === 42 && bytes[end + 1] === 47)) end++;
        this.at = Math.min(bytes.length, end + 2);
      } else return;
    }
  }
}
