import { type ByteSource, memorySource, wholeFile } from '../bytes/byte-source.ts';

/** Encodings of text whose line ends and separators are single bytes. */
export type TextEncoding = 'utf-8' | 'windows-1252';

/** Marks that some programs begin a text with (Unicode Standard, table 2-4). */
const UTF8_MARK = [0xef, 0xbb, 0xbf];
const UTF16_MARKS = { 'utf-16le': [0xff, 0xfe], 'utf-16be': [0xfe, 0xff] } as const;

const beginsWith = (bytes: Uint8Array, mark: readonly number[]): boolean =>
  mark.every((byte, i) => bytes[i] === byte);

/** Bytes before the text itself. */
export const markLength = (head: Uint8Array): number => (beginsWith(head, UTF8_MARK) ? UTF8_MARK.length : 0);

/**
 * The encoding of a text by its first bytes: what is not UTF-8 is taken for Windows-1252, in which every byte is a letter
 * (WHATWG Encoding Standard; it holds all of Latin-1).
 */
export function textEncodingOf(head: Uint8Array): TextEncoding {
  try {
    // What is cut off at the end of the head is no error.
    new TextDecoder('utf-8', { fatal: true }).decode(head, { stream: true });
    return 'utf-8';
  } catch {
    return 'windows-1252';
  }
}

/** How a text with a mark of two bytes a letter is encoded; null for every other. */
const wideEncodingOf = (head: Uint8Array): keyof typeof UTF16_MARKS | null =>
  (Object.keys(UTF16_MARKS) as (keyof typeof UTF16_MARKS)[]).find((e) => beginsWith(head, UTF16_MARKS[e])) ??
  null;

/** The first bytes of a text, with letters of one byte. */
export function narrowHead(head: Uint8Array): Uint8Array {
  const wide = wideEncodingOf(head);
  return wide ? new TextEncoder().encode(new TextDecoder(wide).decode(head)) : head;
}

/** A text with letters of one byte: one with two bytes a letter, as spreadsheets write them, is read whole and turned. */
export function narrowText(source: ByteSource): ByteSource {
  const wide = wideEncodingOf(source.read(0, Math.min(2, source.length)));
  if (!wide) return source;
  return memorySource(new TextEncoder().encode(new TextDecoder(wide).decode(wholeFile(source))));
}
