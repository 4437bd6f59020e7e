import { GrowingFloat64 } from '../../model/arrays.ts';
import { ReadError } from '../../model/read-error.ts';
import { type ByteSource, SlidingWindow, WINDOW } from '../bytes/byte-source.ts';
import { Findings } from '../door/findings.ts';
import { once } from '../door/opened-run.ts';
import type { FileFormat, OpenedTable } from '../format.ts';
import { guessReading, rowsOfRuns } from './table-guess.ts';
import { LONGEST_QUOTED, layoutOf, looksLikeTable, splitLine, type TableLayout } from './table-layout.ts';
import { pointsOfTable, stepsOfTable } from './table-points.ts';
import { narrowText } from './text-encoding.ts';

/**
 * Text tables with any separator, any number of comment lines, decimal points or commas. Which columns mean what is a
 * reading that can be changed; a guess is made from names and values.
 */
export const table: FileFormat = {
  id: 'table',
  name: 'table',
  extensions: ['.csv', '.tsv', '.dat', '.txt'],
  manySteps: true,
  detect: looksLikeTable,
  open(source, _tools, reading) {
    const opened = openTable(source);
    return reading?.as === 'points' ? pointsOfTable(opened, reading) : opened;
  },
};

function openTable(written: ByteSource): OpenedTable {
  const source = narrowText(written);
  const layout = layoutOf(source);
  const decoder = new TextDecoder(layout.encoding);
  const findings = new Findings();
  const parsed = once(() => parseNumbers(source, layout, findings));
  const filled = once(filledEntries);
  // Rows are asked for one after the other: a file is not gone to for each of them.
  const window = new SlidingWindow(source);
  const row = (r: number): string[] => {
    const { rowStarts, end } = parsed();
    const [from, to] = [rowStarts[r], rowStarts[r + 1] ?? end];
    window.reach(from, to - from);
    const line = decoder.decode(window.bytes.subarray(from - window.start, to - window.start));
    return splitLine(line.replace(/[\r\n]+$/, ''), layout.separator);
  };
  const firstRows = (count: number): string[][] =>
    Array.from({ length: Math.min(count, parsed().rowStarts.length) }, (_, r) => row(r));
  const opened: OpenedTable = {
    kind: 'table',
    columns: layout.names.map((name, i) => ({
      name,
      unit: layout.units[i],
      numeric: filled()[i],
    })),
    rows: parsed().rowStarts.length,
    numbers: (column) => parsed().columns[column],
    texts: (column) => Array.from(parsed().rowStarts, (_, r) => row(r)[column] ?? ''),
    preview: firstRows,
    guess: { as: 'history', time: 0 },
    steps: [null],
    runRows: () => (opened.guess.as === 'runs' ? rowsOfRuns(opened, opened.guess) : []),
    findings,
  };
  opened.guess = guessReading(opened);
  opened.steps = opened.guess.as === 'points' ? stepsOfTable(opened, opened.guess) : [null];
  return opened;

  /** A column is numeric when its first filled entries are numbers, those that are no number being rare. */
  function filledEntries(): boolean[] {
    const { columns, texts } = parsed();
    const sample = firstRows(50);
    return columns.map((values, c) => {
      const written = sample.filter((row) => (row[c] ?? '') !== '');
      const numbers = written.filter(
        (row) => !Number.isNaN(values[sample.indexOf(row)]) || /^[-+]?nan$/i.test(row[c]),
      );
      const numeric = written.length === 0 || numbers.length > written.length / 2;
      if (numeric && texts[c] > 0)
        findings.add(
          `${layout.names[c]}: ${texts[c]} ${texts[c] === 1 ? 'entry is' : 'entries are'} no number and left empty`,
        );
      return numeric;
    });
  }
}

interface Parsed {
  columns: Float64Array[];
  /** Entries of each column that are no numbers. */
  texts: number[];
  /** Place of the first byte of each row. */
  rowStarts: Float64Array;
  end: number;
}

const powersOfTen = Array.from({ length: 23 }, (_, i) => 10 ** i);

/**
 * Reads all numbers in one pass over the bytes. Decimals within 15 digits are made by one exact multiplication or
 * division (Clinger 1990); others by the language. An entry that is no number is NaN.
 */
function parseNumbers(source: ByteSource, layout: TableLayout, findings: Findings): Parsed {
  const width = layout.names.length;
  const capacity = Math.max(16, Math.ceil((source.length - layout.start) / (width * 6)));
  const columns = Array.from({ length: width }, () => new GrowingFloat64(Math.min(capacity, 2 ** 22)));
  const starts = new GrowingFloat64(Math.min(capacity, 2 ** 22));
  const reader = new RowReader(layout, columns, starts);
  let at = layout.start;
  while (at < source.length) {
    const to = Math.min(source.length, at + WINDOW);
    const bytes = source.read(at, to);
    const used = reader.rows(bytes, at, to >= source.length);
    if (used === 0) throw new ReadError('a line is longer than 8 MiB', `byte ${at}`, 'This is no table.');
    at += used;
  }
  for (const note of layout.notes) findings.add(note);
  if (reader.odd > 0) findings.add(sayOddRows(reader, width));
  return {
    columns: columns.map((c) => c.toArray()),
    texts: reader.texts,
    rowStarts: starts.toArray(),
    end: source.length,
  };
}

/** Rows that are too long or too short, the first of them by number. */
function sayOddRows({ odd, oddRows }: RowReader, width: number): string {
  const named = oddRows.map(({ row, entries }) => `row ${row} has ${entries}`).join(', ');
  const more = odd > oddRows.length ? `, and ${odd - oddRows.length} more` : '';
  return `${named}${more} instead of ${width} entries; what is missing is empty, what is too much is left out`;
}

class RowReader {
  /** Rows with another number of entries than there are columns, and the first of them. */
  odd = 0;
  readonly oddRows: { row: number; entries: number }[] = [];
  /** Entries of each column that are there and no number. */
  readonly texts: number[];
  private readonly separator: number;
  private readonly spaces: boolean;
  private readonly decimal: number;

  constructor(
    layout: TableLayout,
    private readonly columns: GrowingFloat64[],
    private readonly starts: GrowingFloat64,
  ) {
    this.texts = columns.map(() => 0);
    this.separator = layout.separator ?? 32;
    this.spaces = layout.separator === null;
    this.decimal = layout.decimalComma ? 44 : 46;
  }

  /** Reads the whole rows within `bytes` and tells how many bytes they take. */
  rows(bytes: Uint8Array, base: number, last: boolean): number {
    const { columns, separator, spaces, decimal } = this;
    const width = columns.length;
    let end = bytes.length;
    if (!last) {
      end = lastRowEnd(bytes);
      if (end === 0) return 0;
    }
    let at = 0;
    while (at < end) {
      const begin = at;
      while (at < end && (bytes[at] === 32 || (spaces && bytes[at] === 9))) at++;
      const c0 = bytes[at];
      if (at >= end) break;
      if (c0 === 10 || c0 === 13) {
        at++;
        continue;
      }
      if (c0 === 35 || c0 === 37 || c0 === 33) {
        while (at < end && bytes[at] !== 10) at++;
        at++;
        continue;
      }
      this.starts.push(base + begin);
      let column = 0;
      for (;;) {
        // One entry, from its first byte that is no space.
        while (at < end && (bytes[at] === 32 || (spaces && bytes[at] === 9))) at++;
        const from = at;
        let negative = false;
        let mantissa = 0;
        let digits = 0;
        let scale = 0;
        let c = at < end ? bytes[at] : 10;
        if (c === 45 || c === 43) {
          negative = c === 45;
          c = ++at < end ? bytes[at] : 10;
        }
        while (c >= 48 && c <= 57) {
          mantissa = mantissa * 10 + (c - 48);
          digits++;
          c = ++at < end ? bytes[at] : 10;
        }
        if (c === decimal) {
          c = ++at < end ? bytes[at] : 10;
          while (c >= 48 && c <= 57) {
            mantissa = mantissa * 10 + (c - 48);
            digits++;
            scale--;
            c = ++at < end ? bytes[at] : 10;
          }
        }
        if (digits > 0 && (c === 101 || c === 69 || c === 100 || c === 68)) {
          c = ++at < end ? bytes[at] : 10;
          let down = false;
          if (c === 45 || c === 43) {
            down = c === 45;
            c = ++at < end ? bytes[at] : 10;
          }
          let exponent = 0;
          while (c >= 48 && c <= 57) {
            exponent = exponent * 10 + (c - 48);
            c = ++at < end ? bytes[at] : 10;
          }
          scale += down ? -exponent : exponent;
        }
        while (c === 32 && !spaces) c = ++at < end ? bytes[at] : 10;
        let value: number;
        const ended = c === separator || c === 10 || c === 13 || (spaces && c === 9);
        if (ended && digits > 0 && digits <= 15 && scale >= -22 && scale <= 22) {
          value = scale < 0 ? mantissa / powersOfTen[-scale] : mantissa * powersOfTen[scale];
          if (negative) value = -value;
        } else {
          at = this.entryEnd(bytes, from, end);
          value = slowNumber(bytes, from, at, this.decimal);
          if (Number.isNaN(value) && column < width && isWord(bytes, from, at)) this.texts[column]++;
          c = at < end ? bytes[at] : 10;
        }
        if (column < width) columns[column].push(value);
        column++;
        if (spaces) {
          while (c === 32 || c === 9) c = ++at < end ? bytes[at] : 10;
          if (c === 10 || c === 13) break;
        } else if (c === separator && at < end) {
          at++;
        } else break;
      }
      while (at < end && bytes[at] !== 10) at++;
      at++;
      if (column !== width) {
        this.odd++;
        if (this.oddRows.length < 5) this.oddRows.push({ row: this.starts.length, entries: column });
        for (; column < width; column++) columns[column].push(Number.NaN);
      }
    }
    return Math.min(end, bytes.length);
  }

  /** The end of an entry that is no plain number; quotes keep separators within them. */
  private entryEnd(bytes: Uint8Array, from: number, end: number): number {
    let quoted = false;
    for (let i = from; i < end; i++) {
      const c = bytes[i];
      // Only what begins with a quote is quoted: the inches of 5" are none.
      if (c === 34 && bytes[from] === 34) quoted = !quoted;
      else if ((c === 10 || c === 13) && (!quoted || !closes(bytes, i, end))) return i;
      else if (!quoted && (c === this.separator || (this.spaces && c === 9))) return i;
    }
    return end;
  }
}

/** Whether a quote that is open at `at` is closed soon enough to be meant. */
function closes(bytes: Uint8Array, at: number, end: number): boolean {
  const found = bytes.subarray(at, Math.min(end, at + LONGEST_QUOTED)).indexOf(34);
  return found >= 0;
}

/** The end of the last row that is whole: a line end that stands outside of quotes. */
function lastRowEnd(bytes: Uint8Array): number {
  let end = bytes.lastIndexOf(10) + 1;
  // Only what lies just before the end can belong to a row that goes on behind it.
  for (let tries = 0; tries < 64 && end > 0; tries++) {
    const before = bytes.lastIndexOf(10, end - 2) + 1;
    let quotes = 0;
    for (let i = Math.max(before, end - LONGEST_QUOTED); i < end; i++) if (bytes[i] === 34) quotes++;
    if (quotes % 2 === 0) return end;
    end = before;
  }
  return bytes.lastIndexOf(10) + 1;
}

/** Whether an entry holds something that is neither a number nor a word for a missing one. */
function isWord(bytes: Uint8Array, from: number, to: number): boolean {
  const text = String.fromCharCode(...bytes.subarray(from, Math.min(to, from + 32)))
    .trim()
    .replace(/^"|"$/g, '')
    .trim();
  return text !== '' && !/^([-+]?nan|n\/?a|null|none|-+|\.)$/i.test(text);
}

function slowNumber(bytes: Uint8Array, from: number, to: number, decimal: number): number {
  if (to <= from || to - from > 64) return Number.NaN;
  let text = '';
  for (let i = from; i < to; i++) text += String.fromCharCode(bytes[i]);
  text = text.trim().replace(/^"|"$/g, '').trim();
  if (decimal === 44) text = text.replace(',', '.');
  if (text === '') return Number.NaN;
  if (/^[-+]?inf(inity)?$/i.test(text)) return text.startsWith('-') ? -Infinity : Infinity;
  return Number(text.replace(/[dD](?=[-+]?\d+$)/, 'e'));
}
