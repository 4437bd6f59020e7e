import { GrowingFloat64 } from '../model/growing.ts';
import { ReadError } from '../model/read-error.ts';
import { type ByteSource, SlidingWindow, WINDOW } from './byte-source.ts';
import { Findings } from './findings.ts';
import type { FileFormat, OpenedTable } from './format.ts';
import { once } from './opened-run.ts';
import { guessReading, rowsOfRuns } from './table-guess.ts';
import { layoutOf, looksLikeTable, splitLine, type TableLayout } from './table-layout.ts';
import { pointsOfTable, stepsOfTable } from './table-points.ts';

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

const decoder = new TextDecoder();

function openTable(source: ByteSource): OpenedTable {
  const layout = layoutOf(source);
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
    const { columns } = parsed();
    const sample = firstRows(50);
    return columns.map((values, c) => {
      const written = sample.filter((row) => (row[c] ?? '') !== '');
      const numbers = written.filter(
        (row) => !Number.isNaN(values[sample.indexOf(row)]) || /^[-+]?nan$/i.test(row[c]),
      );
      return written.length === 0 || numbers.length > written.length / 2;
    });
  }
}

interface Parsed {
  columns: Float64Array[];
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
  if (reader.odd > 0)
    findings.add(
      `${reader.odd} ${reader.odd === 1 ? 'row has' : 'rows have'} another number of entries than the ${width} columns; what is missing is empty`,
    );
  return {
    columns: columns.map((c) => c.toArray()),
    rowStarts: starts.toArray(),
    end: source.length,
  };
}

class RowReader {
  odd = 0;
  private readonly separator: number;
  private readonly spaces: boolean;
  private readonly decimal: number;

  constructor(
    layout: TableLayout,
    private readonly columns: GrowingFloat64[],
    private readonly starts: GrowingFloat64,
  ) {
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
      while (end > 0 && bytes[end - 1] !== 10) end--;
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
      if (c === 34) quoted = !quoted;
      else if (c === 10 || c === 13) return i;
      else if (!quoted && (c === this.separator || (this.spaces && c === 9))) return i;
    }
    return end;
  }
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
