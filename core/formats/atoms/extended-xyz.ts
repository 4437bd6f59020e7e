import { byName } from '../../model/by-name.ts';
import type { FieldHeader } from '../../model/field.ts';
import { ReadError } from '../../model/read-error.ts';
import { type ByteSource, eachLine } from '../bytes/byte-source.ts';
import { Findings } from '../door/findings.ts';
import { once } from '../door/opened-run.ts';
import type { FileFormat } from '../format.ts';
import { interleaved } from '../tables/table-points.ts';
import { type AtomBox, type AtomFrame, atomRun, keepWholeFrames, readRows } from './atom-frames.ts';

const decoder = new TextDecoder();

/** XYZ files, plain and extended (`Lattice`, `Properties`), with any number of frames. */
export const extendedXyz: FileFormat = {
  id: 'xyz',
  name: 'extended XYZ atoms',
  extensions: ['.xyz', '.extxyz'],
  manySteps: true,
  detect(head) {
    const [count, , row] = decoder.decode(head.subarray(0, 8192)).split(/\r?\n/);
    return /^\s*\d+\s*$/.test(count ?? '') && /^\s*\S+(\s+[-+\d.eE]+){3}/.test(row ?? '');
  },
  open(source) {
    const findings = new Findings();
    const frames = indexFrames(source, findings);
    const unit = frames.map((f) => f.timeUnit).find((u) => u !== null) ?? null;
    return atomRun(
      frames.map((f, i) => openFrame(source, f, i)),
      { findings, timeUnit: unit },
    );
  },
};

interface FrameIndex {
  count: number;
  info: Record<string, string>;
  time: number | null;
  timeUnit: string | null;
  from: number;
  to: number;
}

/**
 * Finds the frames without reading their atoms. A last frame that is cut off is left out and told.
 *
 * @throws CutOffError when not even the first frame is whole
 */
function indexFrames(source: ByteSource, findings: Findings): FrameIndex[] {
  const frames: FrameIndex[] = [];
  let left = 0;
  let state = 'count' as 'count' | 'comment' | 'rows';
  let count = 0;
  eachLine(source, 0, (bytes, at) => {
    if (state === 'count') {
      const text = decoder.decode(bytes).trim();
      if (text === '') return undefined;
      count = Number(text);
      if (!Number.isInteger(count) || count < 0 || count > source.length)
        throw new ReadError(
          `"${text.slice(0, 40)}" is no number of atoms`,
          `frame ${frames.length + 1}, byte ${at}`,
          'The frame before it may be longer or shorter than announced; write the file again.',
        );
      state = 'comment';
    } else if (state === 'comment') {
      const info = infoOf(decoder.decode(bytes));
      frames.push({ count, info, ...timeOf(info), from: at + bytes.length + 1, to: source.length });
      left = count;
      state = left > 0 ? 'rows' : 'count';
    } else if (bytes.some((b) => b > 32) && --left === 0) {
      frames[frames.length - 1].to = at + bytes.length;
      state = 'count';
    }
    return undefined;
  });
  const begun = state === 'comment' || left > 0 || lacksColumns(source, frames.at(-1));
  if (begun) {
    const whole = state === 'comment' ? frames.length : frames.length - 1;
    const reason =
      state === 'comment'
        ? `${count} atoms are announced but the frame ends there`
        : `${count} atoms are announced but the frame ends after ${left > 0 ? count - left : count - 1}`;
    keepWholeFrames(frames, whole, reason, findings);
  }
  return frames;
}

/** Whether the last row of the file has fewer words than its frame has columns. */
function lacksColumns(source: ByteSource, last: FrameIndex | undefined): boolean {
  if (!last || last.count === 0 || last.to < source.length) return false;
  const row = decoder
    .decode(source.read(Math.max(last.from, last.to - 65536), last.to))
    .trimEnd()
    .split('\n')
    .pop();
  return row!.trim().split(/\s+/).length < propertiesOf(last.info).width;
}

function infoOf(comment: string): Record<string, string> {
  const out: Record<string, string> = byName({});
  for (const m of comment.matchAll(/([\w.-]+)\s*=\s*(?:"([^"]*)"|\{([^}]*)\}|(\S+))/g))
    out[m[1]] = m[2] ?? m[3] ?? m[4];
  return out;
}

function timeOf(info: Record<string, string>): { time: number | null; timeUnit: string | null } {
  for (const [key, value] of Object.entries(info)) {
    const match = /^time(?:_(\w+))?$/i.exec(key);
    if (match && Number.isFinite(Number(value))) return { time: Number(value), timeUnit: match[1] ?? null };
  }
  const step = Number(info.step ?? info.Step ?? Number.NaN);
  return Number.isFinite(step) ? { time: step, timeUnit: 'steps' } : { time: null, timeUnit: null };
}

function openFrame(source: ByteSource, index: FrameIndex, nth: number): AtomFrame {
  const where = `frame ${nth + 1}`;
  const { properties, width } = propertiesOf(index.info, where);
  const position = properties.find((p) => p.name === 'pos');
  if (!position || position.columns.length !== 3)
    throw new ReadError('the atoms have no positions', where, 'Name them "pos:R:3" in Properties.');
  const fields = properties.filter((p) => p !== position);
  const headers: FieldHeader[] = fields.map((p) => ({
    name: p.name === 'velo' || p.name === 'vel' ? 'velocity' : p.name,
    location: 'point',
    components: p.columns.length,
    unit: null,
  }));
  const logical = new Set(properties.flatMap((p) => (p.type === 'L' ? p.columns : [])));
  const rows = once(() => readRows(source.read(index.from, index.to), index.count, width, where, logical));
  return {
    time: index.time,
    count: index.count,
    box: latticeOf(index.info.Lattice, index.info.Origin, where),
    fields: headers,
    positions: () => interleaved(position.columns.map((c) => rows()[c])) as Float64Array,
    values: (i) => interleaved(fields[i].columns.map((c) => rows()[c])),
  };
}

interface Property {
  name: string;
  /** S text, R and I numbers, L logical. */
  type: string;
  columns: number[];
}

/** The columns that stand for each property, and how many there are. */
function propertiesOf(
  info: Record<string, string>,
  where = 'Properties',
): { properties: Property[]; width: number } {
  const spec = (info.Properties ?? 'species:S:1:pos:R:3').split(':');
  const properties: Property[] = [];
  let width = 0;
  for (let i = 0; i + 2 < spec.length; i += 3) {
    const n = Number(spec[i + 2]);
    if (!Number.isInteger(n) || n < 1 || n > 64)
      throw new ReadError(
        `"${spec.slice(i, i + 3).join(':')}" is no property`,
        where,
        'Correct the Properties.',
      );
    properties.push({
      name: spec[i],
      type: spec[i + 1],
      columns: Array.from({ length: n }, (_, k) => width + k),
    });
    width += n;
  }
  return { properties, width };
}

function latticeOf(text: string | undefined, origin: string | undefined, where: string): AtomBox | null {
  if (!text) return null;
  const v = text.trim().split(/\s+/).map(Number);
  if (v.length !== 9 || v.some(Number.isNaN))
    throw new ReadError(`the lattice "${text}" is not nine numbers`, where, 'Correct the Lattice.');
  const o = (origin ?? '0 0 0').trim().split(/\s+/).map(Number);
  return { origin: o.length === 3 ? o : [0, 0, 0], edges: [v.slice(0, 3), v.slice(3, 6), v.slice(6, 9)] };
}
