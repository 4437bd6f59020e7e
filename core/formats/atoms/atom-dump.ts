import { CutOffError, ReadError } from '../../model/read-error.ts';
import { type ByteSource, eachLine } from '../bytes/byte-source.ts';
import { Findings } from '../door/findings.ts';
import { once } from '../door/opened-run.ts';
import type { FileFormat } from '../format.ts';
import { type AtomBox, type AtomFrame, atomRun, keepWholeFrames, readRows } from './atom-frames.ts';

const decoder = new TextDecoder();

/**
 * Text dumps of molecular dynamics with `ITEM:` sections: any columns in any order, scaled and unwrapped coordinates,
 * orthogonal and tilted boxes, many frames.
 */
export const atomDump: FileFormat = {
  id: 'dump',
  name: 'atom dump with ITEM: sections',
  extensions: ['.dump'],
  manySteps: true,
  detect: (head) => /^ITEM: (TIMESTEP|UNITS|TIME)\b/.test(decoder.decode(head.subarray(0, 32))),
  open(source) {
    const findings = new Findings();
    const { frames, timed } = indexFrames(source, findings);
    if (frames.length === 0) throw new CutOffError('the file holds no frame of atoms', 'ITEM: ATOMS');
    return atomRun(
      frames.map((f) => openFrame(source, f, findings)),
      { findings, timeUnit: timed ? null : 'steps' },
    );
  },
};

interface FrameIndex {
  time: number | null;
  count: number;
  bounds: string[];
  boundsHead: string;
  columns: string[];
  from: number;
  to: number;
}

/** Finds the frames by their headers; rows are passed over. A last frame that is cut off is left out and told. */
function indexFrames(source: ByteSource, findings: Findings): { frames: FrameIndex[]; timed: boolean } {
  const frames: FrameIndex[] = [];
  let item = '';
  let frame: FrameIndex | null = null;
  let timed = false;
  /** The time stands before the step it belongs to, or within its frame. */
  let ahead: number | null = null;
  let rows = 0;
  let lastRow = '';
  eachLine(source, 0, (bytes, at) => {
    // Rows of atoms are the bulk of the file and are not looked at here.
    if (bytes[0] === 73 && bytes[1] === 84 && bytes[4] === 58) {
      const line = decoder.decode(bytes);
      if (frame && item === 'ATOMS') frame.to = at;
      item = line.slice(6).trim().split(/\s+/)[0];
      if (item === 'TIMESTEP' && (!frame || frame.columns.length > 0)) {
        frame = { time: ahead, count: 0, bounds: [], boundsHead: '', columns: [], from: 0, to: 0 };
        ahead = null;
      }
      if (item === 'BOX' && frame) frame.boundsHead = line;
      if (item === 'ATOMS' && frame) {
        frame.columns = line.trim().split(/\s+/).slice(2);
        frame.from = at + bytes.length + 1;
        frame.to = source.length;
        frames.push(frame);
        rows = 0;
      }
      return undefined;
    }
    if (item === 'ATOMS' && bytes.length > 0) {
      rows++;
      if (at + bytes.length >= source.length - 2) lastRow = decoder.decode(bytes);
    }
    if (item === 'TIME') {
      timed = true;
      const time = Number(decoder.decode(bytes));
      if (frame && frame.columns.length === 0) frame.time = time;
      else ahead = time;
      return undefined;
    }
    if (!frame || item === 'ATOMS') return undefined;
    const line = decoder.decode(bytes).trim();
    if (item === 'TIMESTEP') frame.time ??= Number(line);
    else if (item === 'NUMBER') frame.count = Number(line);
    else if (item === 'BOX') frame.bounds.push(line);
    return undefined;
  });
  const last = frame as FrameIndex | null;
  const begun = last !== null && !frames.includes(last);
  const missing = item === 'ATOMS' && last !== null && (rows < last.count || lacks(lastRow, last.columns));
  if (begun || missing) {
    const reason = begun
      ? 'its atoms are missing'
      : `${last?.count} atoms are announced but the frame ends after ${Math.min(rows, (last?.count ?? 0) - 1)}`;
    keepWholeFrames(frames, begun ? frames.length : frames.length - 1, reason, findings);
  }
  return { frames, timed };
}

const lacks = (row: string, columns: string[]): boolean =>
  row !== '' && row.trim().split(/\s+/).length < columns.length;

function openFrame(source: ByteSource, index: FrameIndex, findings: Findings): AtomFrame {
  const where = `frame at step ${index.time}`;
  if (!Number.isInteger(index.count) || index.count < 0 || index.count > source.length)
    throw new ReadError(
      `"${index.count}" is no number of atoms`,
      where,
      'The file is damaged; write it again.',
    );
  const box = boxOf(index, where);
  const { x, scaled } = positionColumns(index.columns, where);
  const fields = index.columns.flatMap((name, column) =>
    x.includes(column)
      ? []
      : [{ header: { name, location: 'point', components: 1, unit: null } as const, column }],
  );
  const rows = once(() =>
    readRows(source.read(index.from, index.to), index.count, index.columns.length, where),
  );
  if (scaled && !box) findings.add('scaled coordinates without a box are taken as they stand');
  return {
    time: index.time,
    count: index.count,
    box,
    fields: fields.map((f) => f.header),
    positions() {
      const columns = rows();
      const out = new Float64Array(3 * index.count);
      for (let i = 0; i < index.count; i++) {
        const p = x.map((c) => (c < 0 ? 0 : columns[c][i]));
        for (let k = 0; k < 3; k++) {
          out[3 * i + k] =
            scaled && box
              ? box.origin[k] + p[0] * box.edges[0][k] + p[1] * box.edges[1][k] + p[2] * box.edges[2][k]
              : p[k];
        }
      }
      return out;
    },
    values: (i) => rows()[fields[i].column],
  };
}

function positionColumns(columns: string[], where: string): { x: number[]; scaled: boolean } {
  for (const [suffix, scaled] of [
    ['', false],
    ['u', false],
    ['s', true],
    ['su', true],
  ] as const) {
    const x = ['x', 'y', 'z'].map((a) => columns.indexOf(a + suffix));
    if (x[0] >= 0 && x[1] >= 0) return { x, scaled };
  }
  throw new ReadError(
    `the atoms have no coordinates among ${columns.join(' ')}`,
    where,
    'Write x y z (or xs ys zs, xu yu zu) with the atoms.',
  );
}

/** Tilted boxes give the bounds of the whole; source: public description of the format (from memory). */
function boxOf({ bounds, boundsHead }: FrameIndex, where: string): AtomBox | null {
  if (bounds.length < 3) return null;
  const rows = bounds.slice(0, 3).map((b) => b.split(/\s+/).map(Number));
  if (rows.some((r) => r.length < 2 || r.some(Number.isNaN)))
    throw new ReadError('the bounds of the box are damaged', where, 'Write the file again.');
  if (/abc origin/.test(boundsHead)) {
    return {
      origin: rows.map((r) => r[3] ?? 0),
      edges: [rows[0].slice(0, 3), rows[1].slice(0, 3), rows[2].slice(0, 3)],
    };
  }
  const [xy, xz, yz] = /\bxy xz yz\b/.test(boundsHead) ? rows.map((r) => r[2] ?? 0) : [0, 0, 0];
  const x0 = rows[0][0] - Math.min(0, xy, xz, xy + xz);
  const x1 = rows[0][1] - Math.max(0, xy, xz, xy + xz);
  const y0 = rows[1][0] - Math.min(0, yz);
  const y1 = rows[1][1] - Math.max(0, yz);
  const [z0, z1] = rows[2];
  return {
    origin: [x0, y0, z0],
    edges: [
      [x1 - x0, 0, 0],
      [xy, y1 - y0, 0],
      [xz, yz, z1 - z0],
    ],
  };
}
