import { ReadError } from '../../model/read-error.ts';
import { unitInName } from '../../model/roles.ts';
import type { ByteSource } from '../bytes/byte-source.ts';
import { markLength, narrowHead, type TextEncoding, textEncodingOf } from './text-encoding.ts';

/** How a text table is laid out: found from its first lines, never asked for. */
export interface TableLayout {
  /** The byte between entries; null for any run of spaces and tabs. */
  separator: number | null;
  decimalComma: boolean;
  names: string[];
  units: (string | null)[];
  /** Place of the first row of data. */
  start: number;
  /** Comment lines above the data. */
  comments: string[];
  /** What is worth telling about how it was understood. */
  notes: string[];
  encoding: TextEncoding;
}

const HEAD = 65536;

const isComment = (line: string): boolean => /^\s*(#|%|\/\/|!|\*|;)/.test(line);
const bare = (line: string): string => line.replace(/^\s*(#|%|\/\/|!|\*|;)+\s?/, '');

/** Splits one line; quotes keep separators within them. */
export function splitLine(line: string, separator: number | null): string[] {
  if (separator === null) {
    return [...line.trim().matchAll(/"([^"]*)"|\S+/g)].map((m) => m[1] ?? m[0]);
  }
  const sep = String.fromCharCode(separator);
  if (!line.includes('"')) return line.split(sep).map((w) => w.trim());
  const out: string[] = [];
  let word = '';
  let quoted = false;
  for (let i = 0; i < line.length; i++) {
    const c = line[i];
    if (c === '"') {
      if (quoted && line[i + 1] === '"') word += line[i++];
      else if (quoted || word.trim() === '') quoted = !quoted;
      else word += c;
    } else if (c === sep && !quoted) {
      out.push(word.trim());
      word = '';
    } else word += c;
  }
  out.push(word.trim());
  return out;
}

const point = /^[-+]?(\d+(\.\d*)?|\.\d+)([eEdD][-+]?\d+)?$|^[-+]?(nan|inf(inity)?)$/i;
const comma = /^[-+]?(\d+(,\d*)?|,\d+)([eEdD][-+]?\d+)?$|^[-+]?(nan|inf(inity)?)$/i;

interface Candidate {
  separator: number | null;
  decimalComma: boolean;
  /** Lines from the first data line on, split. */
  first: number;
  width: number;
  share: number;
  /** Whether every line splits alike, that above the data as well. */
  isEven: boolean;
}

/** Nothing else stands in every line as often as these do where they separate; commas are decimal ones then. */
const isPlain = ({ separator, isEven }: Candidate): boolean =>
  isEven && (separator === 59 || separator === 9);

/**
 * The layout of a table, or null when the text is none: its lines must split into the same number of entries, and a
 * good part of them must be numbers.
 */
export function findLayout(head: Uint8Array, whole: boolean): TableLayout | null {
  if (!isText(head)) return null;
  const encoding = textEncodingOf(head);
  const text = new TextDecoder(encoding).decode(head);
  const records = recordsOf(text);
  if (!whole) records.pop();
  const lines = records.map((r) => r.text);
  const candidates = ([59, 9, 44, null] as const)
    .flatMap((separator) => [candidate(lines, separator, false), candidate(lines, separator, true)])
    .filter((c) => c !== null);
  candidates.sort(
    (a, b) => Number(isPlain(b)) - Number(isPlain(a)) || b.share - a.share || b.width - a.width,
  );
  const best = candidates[0];
  if (!best || best.width < 2 || best.share < 0.3) return null;
  const layout = describe(records, best);
  const above = text.slice(0, records[best.first].start);
  const bytes = encoding === 'utf-8' ? new TextEncoder().encode(above).length : above.length;
  if (encoding !== 'utf-8') layout.notes.push('the text is not UTF-8: its letters were read as Windows-1252');
  return { ...layout, encoding, start: markLength(head) + bytes };
}

function isText(head: Uint8Array): boolean {
  for (let i = 0; i < head.length; i++) {
    const c = head[i];
    if (c < 32 && c !== 9 && c !== 10 && c !== 13 && c !== 12) return false;
  }
  return true;
}

function candidate(lines: string[], separator: number | null, decimalComma: boolean): Candidate | null {
  if (separator === 44 && decimalComma) return null;
  const number = decimalComma ? comma : point;
  const rows = lines.map((line) =>
    line.trim() === '' || isComment(line) ? null : splitLine(line, separator),
  );
  const numeric = (row: string[]): number => row.filter((w) => number.test(w)).length;
  // Data begins where a row holds a number and the rows behind it are as wide.
  const counted = rows.flatMap((row, i) => (row ? [{ row, i }] : []));
  for (let n = 0; n < counted.length; n++) {
    const { row, i } = counted[n];
    if (row.length < 2 || numeric(row) === 0) continue;
    const behind = counted.slice(n);
    const same = behind.filter((b) => b.row.length === row.length);
    if (same.length < behind.length * 0.75 || (behind.length < 2 && n === 0)) {
      if (n > 40) return null;
      continue;
    }
    const share = same.reduce((s, b) => s + numeric(b.row), 0) / (same.length * row.length);
    const isEven = n > 0 && counted.every((c) => c.row.length === row.length);
    return { separator, decimalComma, first: i, width: row.length, share, isEven };
  }
  return null;
}

/** Longest entry that may go over several lines between quotes; a quote that is never closed ends nothing. */
export const LONGEST_QUOTED = 8192;

interface TextRecord {
  text: string;
  /** Place of its first character. */
  start: number;
}

/** Lines of a text; those that end within quotes go on in the next. */
function recordsOf(text: string): TextRecord[] {
  const out: TextRecord[] = [];
  let start = 0;
  while (start <= text.length) {
    const end = recordEnd(text, start);
    const stop = text[end - 1] === '\r' && end > start ? end - 1 : end;
    out.push({ text: text.slice(start, stop), start });
    start = end + 1;
  }
  return out;
}

function recordEnd(text: string, start: number): number {
  const plain = text.indexOf('\n', start);
  const end = plain < 0 ? text.length : plain;
  const first = text.indexOf('"', start);
  if (first < 0 || first > end || isComment(text.slice(start, Math.min(end, start + 100)))) return end;
  let quoted = false;
  for (let i = first; i < text.length && i < first + LONGEST_QUOTED; i++) {
    const c = text[i];
    if (c === '"' && (quoted || i === start || /[;,\t ]/.test(text[i - 1]))) quoted = !quoted;
    else if (c === '\n' && !quoted) return i;
  }
  return quoted ? end : text.indexOf('\n', first) < 0 ? text.length : end;
}

function describe(lines: TextRecord[], best: Candidate): Omit<TableLayout, 'encoding' | 'start'> {
  const above = lines.slice(0, best.first).map((l) => l.text);
  const split = (line: string): string[] => splitLine(isComment(line) ? bare(line) : line, best.separator);
  const headers = above
    .map((line) => ({ line, words: line.trim() === '' ? [] : split(line) }))
    .filter(({ words }) => words.length === best.width && words.some((w) => w !== ''));
  let names = Array.from({ length: best.width }, (_, i) => `column ${i + 1}`);
  let units: (string | null)[] = names.map(() => null);
  const unitRow =
    headers.length > 1 && looksLikeUnits(headers[headers.length - 1].words) ? headers.pop() : undefined;
  const notes: string[] = [];
  const header = headers.pop();
  if (header) {
    names = header.words.map((w, i) => w || names[i]);
    units = names.map(unitInName);
  } else {
    const spaced = above.map((line) => namesOfSpacedHeader(line, best.width)).find((n) => n !== null);
    const short = spaced ? null : shortHeader(above, best, split);
    if (spaced || short) {
      names = spaced ?? short!.map((w, i) => w || names[i]).concat(names.slice(short!.length));
      units = names.map(unitInName);
    }
    if (short)
      notes.push(`the header names ${short.length} of ${best.width} columns; the others are numbered`);
  }
  if (unitRow) units = unitRow.words.map((w, i) => w.replace(/^[[(]|[\])]$/g, '') || units[i]);
  return {
    separator: best.separator,
    decimalComma: best.decimalComma,
    names: distinct(names),
    units,
    notes,
    comments: above.filter(isComment).map(bare),
  };
}

/** A header of a white-space table whose names carry units in brackets after a space: `time [s] mass [kg]`. */
function namesOfSpacedHeader(line: string, width: number): string[] | null {
  const words = bare(line)
    .trim()
    .match(/\S+\s*\[[^\]]*\]|\S+/g);
  return words?.length === width ? words : null;
}

function looksLikeUnits(words: string[]): boolean {
  return words.every(
    (w) =>
      /^[[(].*[\])]$/.test(w) ||
      /^(-|1|°C|%|[kMmµnc]?(m|s|g|K|N|Pa|J|W|V|A|Hz|rad)([/*^·].*)?)$/.test(w) ||
      w === '',
  );
}

function distinct(names: string[]): string[] {
  const seen = new Map<string, number>();
  return names.map((name) => {
    const n = (seen.get(name) ?? 0) + 1;
    seen.set(name, n);
    return n === 1 ? name : `${name} ${n}`;
  });
}

/** The line right above the data, when it names some of the columns. */
function shortHeader(above: string[], best: Candidate, split: (line: string) => string[]): string[] | null {
  const last = above.filter((line) => line.trim() !== '').pop();
  if (last === undefined || best.separator === null) return null;
  const words = split(last);
  const named = words.filter((w) => w !== '');
  const plain = named.length > 1 && named.every((w) => !point.test(w) && !comma.test(w));
  return plain && words.length < best.width ? words : null;
}

/** @throws ReadError when the text is no table */
export function layoutOf(source: ByteSource): TableLayout {
  const found = findLayout(source.read(0, HEAD), source.length <= HEAD);
  if (found) return found;
  throw new ReadError(
    'the text is no table: its lines do not hold the same number of entries',
    'first lines of the file',
    'Write it with one row a line and the same separator throughout.',
  );
}

export const looksLikeTable = (head: Uint8Array): boolean =>
  findLayout(narrowHead(head), head.length < HEAD) !== null;
