import type { NumberArray } from '../../model/arrays.ts';
import { LINE } from '../../model/cell-types.ts';
import type { FieldHeader } from '../../model/field.ts';
import { CutOffError } from '../../model/read-error.ts';
import { atomicNumber } from '../cells/elements.ts';
import { pointCells, uniformCells } from '../cells/grid-cells.ts';
import type { Findings } from '../door/findings.ts';
import { openedRun } from '../door/opened-run.ts';
import type { OpenedMesh, OpenedPart, OpenedRun, RawMesh } from '../format.ts';

/** The edges of the box atoms live in, from its corner. */
export interface AtomBox {
  origin: number[];
  edges: [number[], number[], number[]];
}

/** The atoms of one step, read when asked for. */
export interface AtomFrame {
  time: number | null;
  count: number;
  box: AtomBox | null;
  fields: FieldHeader[];
  positions(): Float64Array;
  values(index: number): NumberArray;
}

/** Frames of atoms as a run of two parts: the atoms, and the box they live in. */
export function atomRun(
  frames: AtomFrame[],
  more: { timeUnit?: string | null; lengthUnit?: string | null; findings: Findings },
): OpenedRun {
  const parts: OpenedPart[] = [
    { name: 'atoms', kind: 'atoms', at: (step) => (frames[step] ? atomState(frames[step]) : null) },
  ];
  if (frames.some((f) => f.box))
    parts.push({
      name: 'box',
      kind: 'mesh',
      at: (step) => (frames[step]?.box ? boxState(frames[step].box!) : null),
    });
  return openedRun(parts, { steps: frames.map((f) => f.time), ...more });
}

function atomState(frame: AtomFrame): OpenedMesh {
  const position: FieldHeader = { name: 'position', location: 'point', components: 3, unit: null };
  return {
    points: frame.count,
    cells: frame.count,
    fields: [...frame.fields, position],
    meshKey: null,
    readMesh: () => ({ points: frame.positions(), ...pointCells(frame.count) }),
    readField: (index) => (index < frame.fields.length ? frame.values(index) : frame.positions()),
  };
}

function boxState({ origin, edges }: AtomBox): OpenedMesh {
  const points = new Float64Array(24);
  for (let n = 0; n < 8; n++) {
    for (let k = 0; k < 3; k++) {
      points[3 * n + k] =
        origin[k] + (n & 1 ? edges[0][k] : 0) + (n & 2 ? edges[1][k] : 0) + (n & 4 ? edges[2][k] : 0);
    }
  }
  const lines = [0, 1, 2, 3, 4, 5, 6, 7, 0, 2, 1, 3, 4, 6, 5, 7, 0, 4, 1, 5, 2, 6, 3, 7];
  const mesh: RawMesh = { points, ...uniformCells(LINE, 2, Uint32Array.from(lines)) };
  return {
    points: 8,
    cells: 12,
    fields: [],
    meshKey: [...origin, ...edges.flat()].join(),
    readMesh: () => mesh,
    readField: () => new Float64Array(0),
  };
}

/**
 * Leaves out frames behind the whole ones, and tells why.
 *
 * @throws CutOffError when not even the first frame is whole
 */
export function keepWholeFrames(frames: unknown[], whole: number, reason: string, findings: Findings): void {
  if (whole < 1) throw new CutOffError(reason, `frame ${whole + 1}`);
  findings.add(
    `the file is cut off in frame ${whole + 1} (${reason}): the ${whole} frames before it are shown`,
  );
  frames.length = whole;
}

/**
 * Reads the rows of a frame into columns. Words that are no numbers are atomic numbers where they are symbols of
 * elements, and counted in the order of their first appearance otherwise.
 *
 * @param logical columns of yes and no, where F is no fluorine
 */
export function readRows(
  text: Uint8Array,
  rows: number,
  width: number,
  where: string,
  logical: ReadonlySet<number> = new Set(),
): Float64Array[] {
  if (2 * width * rows > text.length + 1)
    throw new CutOffError(`${rows} atoms are announced but the frame has ${text.length} bytes`, where);
  const columns = Array.from({ length: width }, () => new Float64Array(rows));
  const words = new Map<string, number>();
  let at = 0;
  const end = text.length;
  for (let r = 0; r < rows; r++) {
    for (let c = 0; c < width; c++) {
      while (at < end && text[at] <= 32) at++;
      if (at >= end) {
        throw new CutOffError(`${rows} atoms are announced but the frame ends after ${r}`, where);
      }
      const from = at;
      let negative = false;
      let mantissa = 0;
      let digits = 0;
      let scale = 0;
      if (text[at] === 45 || text[at] === 43) negative = text[at++] === 45;
      for (; at < end && text[at] >= 48 && text[at] <= 57; at++, digits++)
        mantissa = mantissa * 10 + text[at] - 48;
      if (text[at] === 46) {
        at++;
        for (; at < end && text[at] >= 48 && text[at] <= 57; at++, digits++, scale--)
          mantissa = mantissa * 10 + text[at] - 48;
      }
      if (digits > 0 && digits <= 15 && scale >= -22 && (at >= end || text[at] <= 32)) {
        const v = mantissa / 10 ** -scale;
        columns[c][r] = negative ? -v : v;
        continue;
      }
      while (at < end && text[at] > 32) at++;
      columns[c][r] = wordValue(text.subarray(from, at), words, logical.has(c));
    }
    while (at < end && text[at] !== 10) at++;
  }
  return columns;
}

function wordValue(bytes: Uint8Array, words: Map<string, number>, logical: boolean): number {
  const text = String.fromCharCode(...bytes.subarray(0, 64));
  const value = Number(text);
  if (!Number.isNaN(value)) return value;
  if (/^[-+]?nan$/i.test(text)) return Number.NaN;
  const atomic = logical ? null : atomicNumber(text);
  if (atomic !== null) return atomic;
  if (/^[TF]$|^(true|false)$/i.test(text)) return /^t/i.test(text) ? 1 : 0;
  const known = words.get(text) ?? words.size + 1;
  words.set(text, known);
  return known;
}
