import { ReadError } from '../model/read-error.ts';

const codes = new Int16Array(256).fill(-1);
for (const [i, c] of [...'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/'].entries()) {
  codes[c.charCodeAt(0)] = i;
}
const EQUALS = 61;

/**
 * Decodes base64 text (RFC 4648) that holds no white space.
 *
 * @throws ReadError on a letter outside the alphabet or a broken group
 */
export function decodeBase64(text: Uint8Array): Uint8Array {
  let end = text.length;
  while (end > 0 && text[end - 1] === EQUALS) end--;
  const out = new Uint8Array(Math.floor((end * 3) / 4));
  let o = 0;
  let i = 0;
  for (; i + 4 <= end; i += 4) {
    const v =
      (codes[text[i]] << 18) | (codes[text[i + 1]] << 12) | (codes[text[i + 2]] << 6) | codes[text[i + 3]];
    if (v < 0) throw badLetter(i);
    out[o++] = v >> 16;
    out[o++] = v >> 8;
    out[o++] = v;
  }
  const rest = end - i;
  if (rest === 1) throw badLetter(i);
  if (rest >= 2) {
    const v =
      (codes[text[i]] << 18) | (codes[text[i + 1]] << 12) | (rest === 3 ? codes[text[i + 2]] << 6 : 0);
    if (v < 0) throw badLetter(i);
    out[o++] = v >> 16;
    if (rest === 3) out[o++] = v >> 8;
  }
  return out;
}

function badLetter(at: number): ReadError {
  return new ReadError(
    'the base64 text of an array is damaged',
    `near letter ${at} of the array`,
    'Write the file again from the solver.',
  );
}

/** The text without spaces, tabs and line ends; the same array when there are none inside. */
export function withoutWhiteSpace(text: Uint8Array): Uint8Array {
  let from = 0;
  let to = text.length;
  while (from < to && text[from] <= 32) from++;
  while (to > from && text[to - 1] <= 32) to--;
  const inner = text.subarray(from, to);
  if (inner.indexOf(10) < 0 && inner.indexOf(32) < 0 && inner.indexOf(9) < 0 && inner.indexOf(13) < 0)
    return inner;
  const out = new Uint8Array(inner.length);
  let n = 0;
  for (let i = 0; i < inner.length; i++) if (inner[i] > 32) out[n++] = inner[i];
  return out.subarray(0, n);
}
