import { byName } from '../../model/by-name.ts';
import { ReadError } from '../../model/read-error.ts';
import type { FindByte } from '../bytes/base64.ts';
import { type ByteSource, SlidingWindow } from '../bytes/byte-source.ts';

export interface Tag {
  name: string;
  attributes: Record<string, string>;
  /** Byte after the closing bracket of the opening tag. */
  contentStart: number;
  selfClosing: boolean;
}

export interface TagHandler {
  /** Return `stop` to leave the rest of the bytes alone (binary may follow). */
  open(tag: Tag): 'stop' | undefined;
  /** Text between tags, as a byte range, without the tags. */
  text?(from: number, to: number): void;
  close?(name: string, at: number): void;
}

const LESS = 60;
const MORE = 62;
const decoder = new TextDecoder();

/**
 * Walks the tags of an XML file without copying what stands between them, which may be gigabytes of numbers.
 * Declarations of types and entities are refused, and entities other than the five of the XML standard are left
 * as they stand: nothing is ever expanded.
 *
 * @throws ReadError on an unclosed tag or a document type declaration
 */
export function walkTags(source: ByteSource, handler: TagHandler, find: FindByte): void {
  const window = new SlidingWindow(source);
  let at = 0;
  const open: string[] = [];
  while (true) {
    const less = findFrom(window, LESS, at, find);
    if (less < 0) break;
    if (less > at) handler.text?.(at, less);
    window.reach(less, 9);
    if (startsWith(window, less, '<!--')) {
      at = after(window, less, '-->', find);
      continue;
    }
    if (startsWith(window, less, '<?')) {
      at = after(window, less, '?>', find);
      continue;
    }
    if (startsWith(window, less, '<![CDATA[')) {
      const end = after(window, less, ']]>', find);
      handler.text?.(less + 9, end - 3);
      at = end;
      continue;
    }
    if (startsWith(window, less, '<!')) {
      throw new ReadError(
        'the file declares a document type or entities, which are refused',
        `byte ${less}`,
        'Remove the declaration; result files do not need one.',
      );
    }
    const end = tagEnd(window, less);
    const text = decoder.decode(window.bytes.subarray(less + 1 - window.start, end - window.start));
    at = end + 1;
    if (text.startsWith('/')) {
      const name = text.slice(1).trim();
      const expected = open.pop();
      if (expected !== name) {
        throw new ReadError(
          `"${name}" is closed where "${expected ?? 'nothing'}" was open`,
          `byte ${less}`,
          'The file may be cut off or damaged; write it again from the solver.',
        );
      }
      handler.close?.(name, less);
      continue;
    }
    const selfClosing = text.endsWith('/');
    const tag = parseTag(selfClosing ? text.slice(0, -1) : text, less);
    if (!selfClosing) open.push(tag.name);
    if (open.length > DEEPEST)
      throw new ReadError(
        `more than ${DEEPEST} elements stand within each other`,
        `byte ${less}`,
        'The file is damaged; write it again from the solver.',
      );
    if (handler.open({ ...tag, contentStart: at, selfClosing }) === 'stop') return;
    if (selfClosing) handler.close?.(tag.name, at);
  }
  if (open.length > 0) {
    throw new ReadError(
      `the file ends inside "${open[open.length - 1]}"`,
      `byte ${source.length}`,
      'The file is cut off; copy or write it again.',
    );
  }
}

/** First place of a byte at or behind `from` in the file, or -1. */
function findFrom(window: SlidingWindow, byte: number, from: number, find: FindByte): number {
  let at = from;
  while (at < window.source.length) {
    window.reach(at, 1);
    const found = find(window.bytes, byte, at - window.start);
    if (found >= 0) return window.start + found;
    at = window.start + window.bytes.length;
  }
  return -1;
}

const isSpace = (code: number): boolean => code === 32 || (code >= 9 && code <= 13);

/** Name and attributes of a tag, in one pass over its text; words without a value are passed over. */
function parseTag(text: string, at: number): { name: string; attributes: Record<string, string> } {
  let i = 0;
  const word = (): string => {
    const from = i;
    while (i < text.length && !isSpace(text.charCodeAt(i)) && text[i] !== '=') i++;
    return text.slice(from, i);
  };
  const skip = (): void => {
    while (i < text.length && isSpace(text.charCodeAt(i))) i++;
  };
  while (i < text.length && !isSpace(text.charCodeAt(i)) && text[i] !== '/') i++;
  const name = text.slice(0, i);
  if (!name) throw new ReadError('a tag has no name', `byte ${at}`, 'The file is damaged; write it again.');
  const attributes: Record<string, string> = Object.create(null);
  for (skip(); i < text.length; skip()) {
    const key = word();
    skip();
    if (text[i] !== '=') continue;
    i++;
    skip();
    const quote = text[i];
    if (quote !== '"' && quote !== "'") continue;
    const end = text.indexOf(quote, i + 1);
    if (end < 0) break;
    if (key) attributes[key] = decodeText(text.slice(i + 1, end));
    i = end + 1;
  }
  return { name, attributes };
}

const named: Record<string, string> = byName({ lt: '<', gt: '>', amp: '&', quot: '"', apos: "'" });

/** Replaces the five standard entities and character numbers. */
export function decodeText(text: string): string {
  return text.replace(/&(#x?[0-9a-fA-F]{1,6}|[a-z]+);/g, (whole, body: string) => {
    if (body[0] !== '#') return named[body] ?? whole;
    const code = body[1] === 'x' ? Number.parseInt(body.slice(2), 16) : Number.parseInt(body.slice(1), 10);
    return code > 0 && code <= 0x10ffff ? String.fromCodePoint(code) : whole;
  });
}

/** Signs that XML 1.0 has no place for, and halves of characters. */
const notInXml = /[^\t\n\r\u0020-\ud7ff\ue000-\ufffd\u{10000}-\u{10ffff}]/gu;

/** Makes a text safe between quotes and between tags. */
export function encodeText(text: string): string {
  return text
    .replace(notInXml, '\ufffd')
    .replaceAll('&', '&amp;')
    .replaceAll('<', '&lt;')
    .replaceAll('>', '&gt;')
    .replaceAll('"', '&quot;')
    .replaceAll("'", '&apos;');
}

/** Most elements within each other: what walks a tree may go as deep. */
const DEEPEST = 200;

/** Longest tag that is followed to its end. */
const LONGEST_TAG = 2 ** 20;

function tagEnd(window: SlidingWindow, from: number): number {
  for (const reach of [4096, LONGEST_TAG]) {
    window.reach(from, reach);
    const { bytes } = window;
    let quote = 0;
    const stop = Math.min(bytes.length, from - window.start + reach);
    for (let i = from - window.start + 1; i < stop; i++) {
      const c = bytes[i];
      if (quote) {
        if (c === quote) quote = 0;
      } else if (c === 34 || c === 39) quote = c;
      else if (c === MORE) return window.start + i;
    }
  }
  throw new ReadError(
    'a tag is not closed',
    `byte ${from}`,
    'The file is cut off or damaged; copy or write it again.',
  );
}

function startsWith(window: SlidingWindow, at: number, text: string): boolean {
  for (let i = 0; i < text.length; i++) {
    if (window.bytes[at - window.start + i] !== text.charCodeAt(i)) return false;
  }
  return true;
}

function after(window: SlidingWindow, from: number, text: string, find: FindByte): number {
  let at = from;
  while (true) {
    at = findFrom(window, text.charCodeAt(0), at, find);
    if (at < 0) break;
    window.reach(at, text.length);
    if (startsWith(window, at, text)) return at + text.length;
    at++;
  }
  throw new ReadError(`"${text}" is missing`, `byte ${from}`, 'The file is cut off; copy or write it again.');
}
