import { cellTypes } from '../model/cell-types.ts';
import { checkCells } from '../model/mesh.ts';
import { ReadError } from '../model/read-error.ts';
import { Findings } from './findings.ts';
import type {
  FieldHeader,
  FieldLocation,
  FileFormat,
  NumberArray,
  OpenedMesh,
  RawMesh,
  ReadTools,
} from './format.ts';
import { type AppendedBlock, type ArrayTag, type FileEncoding, readDataArray } from './vtk-xml-arrays.ts';
import { decodeText, walkTags } from './xml-tags.ts';

interface Piece {
  points: number;
  cells: number;
  arrays: Record<string, ArrayTag[]>;
}

interface Structure {
  encoding: FileEncoding;
  appended: AppendedBlock | null;
  pieces: Piece[];
  fieldData: ArrayTag[];
}

const decoder = new TextDecoder();
const sections = ['Points', 'Cells', 'PointData', 'CellData'];

/**
 * VTK XML unstructured grid. Several pieces in one file become one mesh.
 * Ascii, base64 and appended arrays, both header widths, both byte orders, zlib blocks.
 */
export const vtkXmlUnstructured: FileFormat = {
  id: 'vtu',
  name: 'VTK XML unstructured grid',
  extensions: ['.vtu'],
  detect(head) {
    const text = decoder.decode(head.subarray(0, 4096));
    return /<VTKFile[^>]*type\s*=\s*["']UnstructuredGrid["']/.test(text);
  },
  open(bytes, tools) {
    return openStructure(bytes, readStructure(bytes, tools), tools);
  },
};

function readStructure(bytes: Uint8Array, tools: ReadTools): Structure {
  let encoding: FileEncoding | null = null;
  let appended: AppendedBlock | null = null;
  const pieces: Piece[] = [];
  const fieldData: ArrayTag[] = [];
  const path: string[] = [];
  let array: ArrayTag | null = null;
  let unitText: [number, number] | null = null;

  walkTags(
    bytes,
    {
      open(tag) {
        const a = tag.attributes;
        if (tag.name === 'VTKFile') encoding = encodingOf(a);
        else if (tag.name === 'Piece') {
          pieces.push({
            points: wholeNumber(a.NumberOfPoints, 'Piece / NumberOfPoints', bytes.length),
            cells: wholeNumber(a.NumberOfCells, 'Piece / NumberOfCells', bytes.length),
            arrays: { Points: [], Cells: [], PointData: [], CellData: [] },
          });
        } else if (tag.name === 'DataArray') {
          const section = path[path.length - 1] ?? '';
          array = {
            name: a.Name ?? section,
            where: `${section} / ${a.Name ?? 'unnamed array'}`,
            type: a.type ?? 'Float32',
            components: Math.max(1, Math.floor(Number(a.NumberOfComponents ?? 1)) || 1),
            format: a.format ?? 'ascii',
            unit: /\[([^\]]+)\]\s*$/.exec(a.Name ?? '')?.[1] ?? null,
            offset: a.offset === undefined ? null : Number(a.offset),
            text: null,
          };
          if (section === 'FieldData') fieldData.push(array);
          else if (sections.includes(section)) pieces[pieces.length - 1]?.arrays[section].push(array);
        } else if (tag.name === 'InformationKey' && a.name === 'UNITS_LABEL' && array) {
          unitText = [tag.contentStart, tag.contentStart];
        } else if (tag.name === 'AppendedData') {
          const mark = bytes.indexOf(95, tag.contentStart);
          if (mark < 0)
            throw new ReadError(
              'the appended data has no start mark',
              'AppendedData',
              'The file is cut off; copy or write it again.',
            );
          appended = { encoding: a.encoding === 'raw' ? 'raw' : 'base64', start: mark + 1 };
          return 'stop';
        }
        path.push(tag.name);
        return undefined;
      },
      text(from, to) {
        const inside = path[path.length - 1];
        if (inside === 'DataArray' && array && (!array.text || blank(bytes, array.text)))
          array.text = [from, to];
        if (inside === 'InformationKey' && unitText) unitText = [from, to];
      },
      close(name) {
        if (name === 'InformationKey' && unitText && array) {
          const unit = decodeText(decoder.decode(bytes.subarray(...unitText))).trim();
          if (unit) array.unit = unit;
          unitText = null;
        }
        if (name === 'DataArray') array = null;
        path.pop();
      },
    },
    tools.find,
  );
  if (!encoding)
    throw new ReadError('this is not a VTK XML file', 'first tag', 'Check that the right file was chosen.');
  if (pieces.length === 0) {
    throw new ReadError(
      'the file holds no mesh piece',
      'UnstructuredGrid',
      'It may be cut off; write it again.',
    );
  }
  return { encoding, appended, pieces, fieldData };
}

function encodingOf(a: Record<string, string>): FileEncoding {
  const compressor = a.compressor ?? '';
  if (compressor && !/zlib/i.test(compressor)) {
    throw new ReadError(
      `the compression "${compressor}" is not read`,
      'VTKFile',
      'Write the file with zlib or without compression.',
    );
  }
  return {
    littleEndian: a.byte_order !== 'BigEndian',
    headerBytes: a.header_type === 'UInt64' ? 8 : 4,
    compressed: compressor !== '',
  };
}

/** Every point and cell costs at least a byte somewhere, compressed at best 1 to 1032. */
function wholeNumber(text: string | undefined, where: string, fileBytes: number): number {
  const n = Number((text ?? '').trim() || Number.NaN);
  if (!Number.isInteger(n) || n < 0) {
    throw new ReadError(
      `"${text ?? ''}" is not a count`,
      where,
      'The file is damaged; write it again from the solver.',
    );
  }
  if (n > fileBytes * 1040) {
    throw new ReadError(
      `a count of ${n} cannot fit in a file of ${fileBytes} bytes`,
      where,
      'The file is damaged; write it again from the solver.',
    );
  }
  return n;
}

function blank(bytes: Uint8Array, [from, to]: [number, number]): boolean {
  for (let i = from; i < to; i++) if (bytes[i] > 32) return false;
  return true;
}

function openStructure(bytes: Uint8Array, s: Structure, tools: ReadTools): OpenedMesh {
  const findings = new Findings();
  const points = s.pieces.reduce((n, p) => n + p.points, 0);
  const cells = s.pieces.reduce((n, p) => n + p.cells, 0);
  const read = (tag: ArrayTag, count: number | null): NumberArray =>
    readDataArray(bytes, tag, s.encoding, s.appended, count, tools);
  const fields = fieldHeaders(s.pieces, findings);
  if (s.pieces.length > 1) findings.add(`${s.pieces.length} pieces in one file were put together`);
  if (cells === 0) findings.add('the mesh has no cells');
  return {
    kind: 'mesh',
    points,
    cells,
    time: readTime(timeTag(s.fieldData), read),
    lengthUnit: s.pieces[0].arrays.Points[0]?.unit ?? null,
    timeUnit: timeTag(s.fieldData)?.unit ?? null,
    fields,
    findings,
    readMesh: () => readMesh(s.pieces, points, cells, read, findings),
    readField(index) {
      const { name, location, components } = fields[index];
      const section = location === 'point' ? 'PointData' : 'CellData';
      const parts = s.pieces.map((p) => {
        const tag = p.arrays[section].find((t) => t.name === name)!;
        return read(tag, (location === 'point' ? p.points : p.cells) * components);
      });
      return joinArrays(parts);
    },
  };
}

const timeTag = (fieldData: ArrayTag[]): ArrayTag | undefined =>
  fieldData.find((t) => /^time(value)?$/i.test(t.name));

function readTime(
  tag: ArrayTag | undefined,
  read: (tag: ArrayTag, count: number | null) => NumberArray,
): number | null {
  if (!tag) return null;
  const values = read(tag, null);
  return values.length > 0 && Number.isFinite(values[0]) ? values[0] : null;
}

function fieldHeaders(pieces: Piece[], findings: Findings): FieldHeader[] {
  const out: FieldHeader[] = [];
  for (const [section, location] of [
    ['PointData', 'point'],
    ['CellData', 'cell'],
  ] as [string, FieldLocation][]) {
    for (const tag of pieces[0].arrays[section]) {
      if (tag.type === 'String') {
        findings.add(`${tag.where}: text fields are left out`);
        continue;
      }
      if (out.some((f) => f.name === tag.name && f.location === location)) {
        findings.add(`${tag.where} appears twice; the first is used`);
        continue;
      }
      const same = pieces.every((p) =>
        p.arrays[section].some((t) => t.name === tag.name && t.components === tag.components),
      );
      if (!same) findings.add(`${tag.where} is not in every piece and is left out`);
      else out.push({ name: tag.name, location, components: tag.components, unit: tag.unit });
    }
  }
  return out;
}

function readMesh(
  pieces: Piece[],
  pointTotal: number,
  cellTotal: number,
  read: (tag: ArrayTag, count: number | null) => NumberArray,
  findings: Findings,
): RawMesh {
  const coordinates: NumberArray[] = [];
  const named = (piece: Piece, name: string): ArrayTag => {
    const found = piece.arrays.Cells.find((t) => t.name === name);
    if (found) return found;
    throw new ReadError(
      `the mesh has no array "${name}"`,
      'Cells',
      'The file may be cut off; write it again.',
    );
  };
  // Reading the types first proves the announced number of cells before memory is taken for it.
  const joinedTypes = joinArrays(pieces.map((p) => read(named(p, 'types'), p.cells)));
  const types = joinedTypes instanceof Uint8Array ? joinedTypes : Uint8Array.from(joinedTypes);
  const offsets = new Uint32Array(cellTotal + 1);
  const connections: Uint32Array[] = [];
  let pointBase = 0;
  let cellBase = 0;
  let connectionBase = 0;
  for (const piece of pieces) {
    const points = piece.arrays.Points[0];
    if (!points)
      throw new ReadError('the mesh has no points', 'Points', 'The file may be cut off; write it again.');
    coordinates.push(read({ ...points, where: 'Points' }, piece.points * 3));
    const ends = read(named(piece, 'offsets'), piece.cells);
    if (connectionBase === 0 && (ends instanceof Int32Array || ends instanceof Uint32Array)) {
      // A negative offset turns into a huge one, which the check of the cells finds.
      offsets.set(ends, cellBase + 1);
    } else {
      for (let c = 0; c < piece.cells; c++) {
        offsets[cellBase + c + 1] = whole(ends[c], 'Cells / offsets', c) + connectionBase;
      }
    }
    const nodes = read(named(piece, 'connectivity'), null);
    const shifted = shiftedNodes(nodes, pointBase);
    for (let i = 0; i < nodes.length; i++) {
      if (!(nodes[i] >= 0 && nodes[i] < piece.points)) {
        throw new ReadError(
          `node index ${nodes[i]} is out of range: the mesh has ${piece.points} points`,
          `Cells / connectivity, entry ${i}`,
          'The file is inconsistent; write it again from the solver.',
        );
      }
    }
    connections.push(shifted);
    pointBase += piece.points;
    cellBase += piece.cells;
    connectionBase += nodes.length;
  }
  const joined = joinArrays(coordinates);
  const points =
    joined instanceof Float64Array || joined instanceof Float32Array ? joined : Float64Array.from(joined);
  if (points.length !== pointTotal * 3)
    throw new ReadError('the point count does not fit', 'Points', 'Write the file again.');
  const mesh = { points, types, offsets, connectivity: joinArrays(connections) as Uint32Array };
  checkCells(mesh);
  noteUnusual(mesh, findings);
  return mesh;
}

/** Nodes of a piece as unsigned numbers, moved behind the points of the pieces before; without a copy where none is needed. */
function shiftedNodes(nodes: NumberArray, base: number): Uint32Array {
  if (base === 0 && (nodes instanceof Int32Array || nodes instanceof Uint32Array)) {
    return new Uint32Array(nodes.buffer, nodes.byteOffset, nodes.length);
  }
  const out = new Uint32Array(nodes.length);
  for (let i = 0; i < nodes.length; i++) out[i] = nodes[i] + base;
  return out;
}

function noteUnusual(mesh: RawMesh, findings: Findings): void {
  const isQuadratic = Uint8Array.from({ length: 256 }, (_, id) =>
    Number(cellTypes.get(id)?.quadratic ?? false),
  );
  if (mesh.types.some((id) => isQuadratic[id] === 1)) {
    findings.add('quadratic cells are drawn with straight edges for now');
  }
  let bad = 0;
  for (let i = 0; i < mesh.points.length; i++) if (mesh.points[i] - mesh.points[i] !== 0) bad++;
  if (bad > 0) findings.add(`${bad} coordinates are not finite numbers`);
}

function whole(value: number, where: string, entry: number): number {
  if (Number.isInteger(value) && value >= 0 && value <= 0xffffffff) return value;
  throw new ReadError(
    `${value} is not an offset`,
    `${where}, entry ${entry}`,
    'The file is damaged; write it again.',
  );
}

function joinArrays(parts: NumberArray[]): NumberArray {
  if (parts.length === 1) return parts[0];
  const length = parts.reduce((n, p) => n + p.length, 0);
  const Maker = parts[0].constructor as new (length: number) => NumberArray;
  const same = parts.every((p) => p.constructor === parts[0].constructor);
  const out = same ? new Maker(length) : new Float64Array(length);
  let at = 0;
  for (const p of parts) {
    out.set(p, at);
    at += p.length;
  }
  return out;
}
