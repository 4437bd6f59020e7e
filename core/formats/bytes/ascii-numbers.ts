import type { NumberArray } from '../../model/arrays.ts';
import { CutOffError, ReadError } from '../../model/read-error.ts';

const powersOfTen = Array.from({ length: 23 }, (_, i) => 10 ** i);

/**
 * Reads white-space separated numbers into `out` and demands exactly `out.length` of them.
 *
 * Decimals with up to 15 digits and a power of ten within 22 are converted by one exact multiplication or
 * division (Clinger 1990, the fast path of correctly rounded reading); all others go through the language's own
 * conversion. `nan` and `inf` are understood in any case.
 *
 * @throws ReadError when there are too few or too many numbers, or a word is not a number
 */
export function readAsciiNumbers(text: Uint8Array, out: NumberArray, where: string): void {
  let at = 0;
  const end = text.length;
  for (let n = 0; n < out.length; n++) {
    while (at < end && text[at] <= 32) at++;
    if (at >= end) {
      throw new CutOffError(`the array should hold ${out.length} numbers but ends after ${n}`, where);
    }
    const from = at;
    let negative = false;
    if (text[at] === 45 || text[at] === 43) negative = text[at++] === 45;
    let mantissa = 0;
    let digits = 0;
    let scale = 0;
    let plain = true;
    for (; at < end; at++) {
      const c = text[at];
      if (c >= 48 && c <= 57) {
        mantissa = mantissa * 10 + (c - 48);
        if (mantissa > 0) digits++;
      } else break;
    }
    if (at < end && text[at] === 46) {
      at++;
      for (; at < end; at++) {
        const c = text[at];
        if (c >= 48 && c <= 57) {
          mantissa = mantissa * 10 + (c - 48);
          if (mantissa > 0) digits++;
          scale--;
        } else break;
      }
    }
    if (at < end && (text[at] === 101 || text[at] === 69)) {
      at++;
      let down = false;
      if (text[at] === 45 || text[at] === 43) down = text[at++] === 45;
      let exponent = 0;
      for (; at < end && text[at] >= 48 && text[at] <= 57; at++) exponent = exponent * 10 + (text[at] - 48);
      scale += down ? -exponent : exponent;
    }
    if (at < end && text[at] > 32) plain = false;
    let value: number;
    if (plain && digits <= 15 && scale >= -22 && scale <= 22) {
      value = scale < 0 ? mantissa / powersOfTen[-scale] : mantissa * powersOfTen[scale];
      if (negative) value = -value;
    } else {
      while (at < end && text[at] > 32) at++;
      value = slowNumber(text.subarray(from, at), n, where);
    }
    out[n] = value;
  }
  while (at < end && text[at] <= 32) at++;
  if (at < end) {
    throw new ReadError(
      `the array should hold ${out.length} numbers but goes on after them`,
      where,
      'The counts in the file do not fit its content; write it again from the solver.',
    );
  }
}

function slowNumber(word: Uint8Array, n: number, where: string): number {
  const text = String.fromCharCode(...word.subarray(0, 64));
  const value = Number(text);
  if (!Number.isNaN(value)) return value;
  if (/^[-+]?nan/i.test(text)) return Number.NaN;
  if (/^[-+]?inf(inity)?$/i.test(text)) return text.startsWith('-') ? -Infinity : Infinity;
  throw new ReadError(
    `"${text}" is not a number`,
    `${where}, number ${n}`,
    'Write the file again from the solver.',
  );
}
