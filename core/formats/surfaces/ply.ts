import type { NumberArray } from '../../model/arrays.ts';
import { GrowingUint32 } from '../../model/arrays.ts';
import { byName } from '../../model/by-name.ts';
import { LINE, POLYGON, QUAD, TRIANGLE } from '../../model/cell-types.ts';
import type { FieldHeader } from '../../model/field.ts';
import { CutOffError, ReadError } from '../../model/read-error.ts';
import { type NumberType, numberBytes } from '../bytes/binary-numbers.ts';
import { type ByteSource, wholeFile } from '../bytes/byte-source.ts';
import { fittingCount } from '../bytes/counts.ts';
import { pointCells } from '../cells/grid-cells.ts';
import { Findings } from '../door/findings.ts';
import { meshInMemory } from '../door/mesh-in-memory.ts';
import { openedRun, steadyPart } from '../door/opened-run.ts';
import type { FileFormat } from '../format.ts';

const decoder = new TextDecoder();

const types: Record<string, NumberType> = byName({
  char: 'i8',
  int8: 'i8',
  uchar: 'u8',
  uint8: 'u8',
  short: 'i16',
  int16: 'i16',
  ushort: 'u16',
  uint16: 'u16',
  int: 'i32',
  int32: 'i32',
  uint: 'u32',
  uint32: 'u32',
  float: 'f32',
  float32: 'f32',
  double: 'f64',
  float64: 'f64',
});

interface Property {
  name: string;
  type: NumberType;
  /** Type of the length of a list, or null for a single number. */
  list: NumberType | null;
}

interface Element {
  name: string;
  count: number;
  properties: Property[];
}

/** PLY polygon files, ascii and binary of both byte orders; extra properties of vertices and faces become fields. */
export const ply: FileFormat = {
  id: 'ply',
  name: 'PLY polygon file',
  extensions: ['.ply'],
  detect: (head) => /^ply\r?\n/.test(decoder.decode(head.subarray(0, 8))),
  open(source) {
    const { elements, format, start } = readHeader(source);
    const values =
      format === 'ascii'
        ? new AsciiValues(source, start)
        : new BinaryValues(source, start, format === 'binary_little_endian');
    const findings = new Findings();
    let points: Float64Array = new Float64Array(0);
    const connectivity = new GrowingUint32();
    const ends = new GrowingUint32();
    const fields: { header: FieldHeader; data: NumberArray }[] = [];
    for (const [i, element] of elements.entries()) {
      let columns: Map<string, NumberArray>;
      try {
        columns = readElement(element, values, connectivity, ends);
      } catch (error) {
        // Vertices and faces that are whole are worth showing though the file ends in what stands behind them.
        const later = elements.slice(i).some((e) => e.name === 'vertex' || e.name === 'face');
        if (!(error instanceof CutOffError) || later) throw error;
        findings.add(
          `the file is cut off in the element "${element.name}" (${error.reason}): only what stands before is shown`,
        );
        break;
      }
      if (element.name === 'vertex') {
        points = interleave(columns, ['x', 'y', 'z'], element.count);
        fields.push(...fieldsOf(columns, 'point'));
      } else if (element.name === 'face') fields.push(...fieldsOf(columns, 'cell'));
      else if (element.count > 0) findings.add(`the element "${element.name}" is not used`);
    }
    const offsets = new Uint32Array(ends.length + 1);
    offsets.set(ends.toArray(), 1);
    const cells =
      ends.length > 0
        ? {
            types: Uint8Array.from({ length: ends.length }, (_, c) => faceType(offsets[c + 1] - offsets[c])),
            offsets,
            connectivity: connectivity.toArray(),
          }
        : pointCells(points.length / 3);
    return openedRun([steadyPart(null, meshInMemory({ points, ...cells }, fields, findings))], { findings });
  },
};

const faceType = (n: number): number => (n === 2 ? LINE : n === 3 ? TRIANGLE : n === 4 ? QUAD : POLYGON);

function readHeader(source: ByteSource): { elements: Element[]; format: string; start: number } {
  const head = decoder.decode(source.read(0, 65536));
  const end = /end_header\r?\n/.exec(head);
  if (!end) throw new CutOffError('the header does not end', 'end_header');
  const elements: Element[] = [];
  let format = 'ascii';
  for (const line of head.slice(0, end.index).split(/\r?\n/)) {
    const words = line.trim().split(/\s+/);
    if (words[0] === 'format') format = words[1];
    else if (words[0] === 'element') {
      const count = Number(words[2]);
      if (!Number.isInteger(count) || count < 0 || count > source.length)
        throw new CutOffError(`"${words[2] ?? ''}" is no count that fits the file`, `element ${words[1]}`);
      elements.push({ name: words[1], count, properties: [] });
    } else if (words[0] === 'property') {
      const isList = words[1] === 'list';
      const type = types[words[isList ? 3 : 1]];
      const list = isList ? types[words[2]] : null;
      if (!type || list === undefined || elements.length === 0)
        throw new ReadError(
          `the property "${line.trim()}" is not understood`,
          'header',
          'Write the file again.',
        );
      elements[elements.length - 1].properties.push({ name: words[words.length - 1], type, list });
    }
  }
  return {
    elements,
    format,
    start: new TextEncoder().encode(head.slice(0, end.index + end[0].length)).length,
  };
}

interface Values {
  /** Bytes that are still there. */
  readonly left: number;
  /** Fewest bytes a number takes. */
  least(type: NumberType): number;
  next(type: NumberType, where: string): number;
}

class BinaryValues implements Values {
  private readonly view: DataView;
  constructor(
    source: ByteSource,
    private at: number,
    private readonly little: boolean,
  ) {
    const bytes = wholeFile(source);
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }
  get left(): number {
    return this.view.byteLength - this.at;
  }
  least = (type: NumberType): number => numberBytes[type];
  next(type: NumberType, where: string): number {
    const { view, at, little } = this;
    const size = numberBytes[type];
    if (at + size > view.byteLength) throw new CutOffError('the file ends too early', where);
    this.at += size;
    switch (type) {
      case 'i8':
        return view.getInt8(at);
      case 'u8':
        return view.getUint8(at);
      case 'i16':
        return view.getInt16(at, little);
      case 'u16':
        return view.getUint16(at, little);
      case 'i32':
        return view.getInt32(at, little);
      case 'u32':
        return view.getUint32(at, little);
      case 'f32':
        return view.getFloat32(at, little);
      default:
        return view.getFloat64(at, little);
    }
  }
}

class AsciiValues implements Values {
  private readonly bytes: Uint8Array;
  constructor(
    source: ByteSource,
    private at: number,
  ) {
    this.bytes = wholeFile(source);
  }
  get left(): number {
    return this.bytes.length - this.at + 1;
  }
  least = (): number => 2;
  next(_type: NumberType, where: string): number {
    const { bytes } = this;
    while (this.at < bytes.length && bytes[this.at] <= 32) this.at++;
    const from = this.at;
    while (this.at < bytes.length && bytes[this.at] > 32) this.at++;
    const text = decoder.decode(bytes.subarray(from, this.at));
    const value = Number(text);
    if (text === '' || (Number.isNaN(value) && !/nan/i.test(text)))
      throw new CutOffError(text === '' ? 'the file ends too early' : `"${text}" is not a number`, where);
    return value;
  }
}

function readElement(
  { name, count, properties }: Element,
  values: Values,
  connectivity: GrowingUint32,
  ends: GrowingUint32,
): Map<string, NumberArray> {
  const columns = new Map<string, NumberArray>();
  const each = properties.reduce((n, p) => n + values.least(p.list ?? p.type), 0);
  fittingCount(count, values.left, each, `element ${name}`);
  for (const p of properties)
    if (p.list === null)
      columns.set(p.name, p.type === 'f32' ? new Float32Array(count) : new Float64Array(count));
  for (let i = 0; i < count; i++) {
    for (const p of properties) {
      const where = `${name} ${i}, ${p.name}`;
      if (p.list === null) {
        columns.get(p.name)![i] = values.next(p.type, where);
        continue;
      }
      const n = fittingCount(values.next(p.list, where), values.left, values.least(p.type), where);
      const nodes = name === 'face' && /^vertex_ind(ex|ices)$/.test(p.name);
      for (let k = 0; k < n; k++) {
        const v = values.next(p.type, where);
        if (nodes) connectivity.push(v);
      }
      if (nodes) ends.push(connectivity.length);
    }
  }
  return columns;
}

function interleave(columns: Map<string, NumberArray>, names: string[], count: number): Float64Array {
  const out = new Float64Array(count * names.length);
  for (const [k, name] of names.entries()) {
    const column = columns.get(name);
    if (!column)
      throw new ReadError(`vertices have no property "${name}"`, 'header', 'Write the file again.');
    for (let i = 0; i < count; i++) out[i * names.length + k] = column[i];
  }
  return out;
}

function fieldsOf(
  columns: Map<string, NumberArray>,
  location: 'point' | 'cell',
): { header: FieldHeader; data: NumberArray }[] {
  return [...columns]
    .filter(([name]) => !/^(x|y|z|nx|ny|nz|red|green|blue|alpha|diffuse_\w+)$/.test(name))
    .map(([name, data]) => ({ header: { name, location, components: 1, unit: null }, data }));
}
