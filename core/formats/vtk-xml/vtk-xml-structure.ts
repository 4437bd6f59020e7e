import type { NumberArray } from '../../model/arrays.ts';
import { byName } from '../../model/by-name.ts';
import type { FieldHeader, FieldLocation } from '../../model/field.ts';
import { CutOffError, ReadError } from '../../model/read-error.ts';
import type { ByteSource } from '../bytes/byte-source.ts';
import { Findings } from '../door/findings.ts';
import { openedRun, steadyPart } from '../door/opened-run.ts';
import type { OpenedMesh, OpenedRun, ReadTools } from '../format.ts';
import { decodeText, type TagHandler, walkTags } from '../xml/xml-tags.ts';
import { type AppendedBlock, type ArrayTag, type FileEncoding, readDataArray } from './vtk-xml-arrays.ts';

/** A piece of a VTK XML data set: its attributes and, by section, the tags of its arrays. */
export interface Piece {
  attributes: Record<string, string>;
  arrays: Record<string, ArrayTag[]>;
}

/** What stands in a serial VTK XML file, before any number is read. */
export interface Structure {
  /** Attributes of the tag of the data set, such as `WholeExtent`. */
  dataSet: Record<string, string>;
  pieces: Piece[];
  fieldData: ArrayTag[];
  fileBytes: number;
  /** How the file is cut off; null where it is whole. */
  cut: ReadError | null;
  read(tag: ArrayTag, count: number | null): NumberArray;
}

const decoder = new TextDecoder();

/** Whether the head of a file is that of a VTK XML file of one of the types. */
export function isVtkXml(head: Uint8Array, types: readonly string[]): boolean {
  const match = /<VTKFile[^>]*\stype\s*=\s*["'](\w+)["']/.exec(decoder.decode(head.subarray(0, 4096)));
  return match !== null && types.includes(match[1]);
}

/**
 * Reads the tags of a serial VTK XML file of any type.
 *
 * @throws ReadError when the file is cut off, damaged or compressed in an unknown way
 */
export function readStructure(source: ByteSource, tools: ReadTools): Structure {
  let encoding: FileEncoding | null = null;
  let appended: AppendedBlock | null = null;
  let dataSet: Record<string, string> = {};
  let type = '';
  const pieces: Piece[] = [];
  const fieldData: ArrayTag[] = [];
  const path: string[] = [];
  let array: ArrayTag | null = null;
  let unitText: [number, number] | null = null;

  let cut: ReadError | null = null;
  const handler: TagHandler = {
    open(tag) {
      const a = tag.attributes;
      if (tag.name === 'VTKFile') {
        encoding = encodingOf(a);
        type = a.type ?? '';
      } else if (tag.name === type) dataSet = a;
      else if (tag.name === 'Piece') pieces.push({ attributes: a, arrays: byName({}) });
      else if (tag.name === 'DataArray' || tag.name === 'Array') {
        const section = path[path.length - 1] ?? '';
        array = arrayTag(a, section);
        if (section === 'FieldData') fieldData.push(array);
        else {
          const piece = pieces[pieces.length - 1];
          if (piece) (piece.arrays[section] ??= []).push(array);
        }
      } else if (tag.name === 'InformationKey' && a.name === 'UNITS_LABEL' && array) {
        unitText = [tag.contentStart, tag.contentStart];
      } else if (tag.name === 'AppendedData') {
        appended = {
          encoding: a.encoding === 'raw' ? 'raw' : 'base64',
          start: startMark(source, tag.contentStart) + 1,
        };
        return 'stop';
      }
      path.push(tag.name);
      return undefined;
    },
    text(from, to) {
      const inside = path[path.length - 1];
      if ((inside === 'DataArray' || inside === 'Array') && array) {
        if (!array.text || blank(source, array.text)) array.text = [from, to];
      }
      if (inside === 'InformationKey' && unitText) unitText = [from, to];
    },
    close(name) {
      if (name === 'InformationKey' && unitText && array) {
        const unit = decodeText(decoder.decode(source.read(...unitText))).trim();
        if (unit) array.unit = unit;
        unitText = null;
      }
      if (name === 'DataArray' || name === 'Array') array = null;
      path.pop();
    },
  };
  try {
    walkTags(source, handler, tools.find);
  } catch (error) {
    // What is whole before the cut is shown; whether it makes a mesh is seen when it is read.
    if (!(error instanceof ReadError) || pieces.length === 0 || !/cut off/.test(error.remedy)) throw error;
    cut = error;
  }
  if (!encoding)
    throw new ReadError('this is not a VTK XML file', 'first tag', 'Check that the right file was chosen.');
  if (pieces.length === 0) {
    throw new CutOffError('the file holds no mesh piece', type);
  }
  return {
    dataSet,
    pieces,
    fieldData,
    fileBytes: source.length,
    cut,
    read: (tag, count) => readDataArray(source, tag, encoding!, appended, count, tools),
  };
}

function arrayTag(a: Record<string, string>, section: string): ArrayTag {
  return {
    name: a.Name ?? section,
    where: `${section} / ${a.Name ?? 'unnamed array'}`,
    type: a.type ?? 'Float32',
    components: Math.max(1, Math.floor(Number(a.NumberOfComponents ?? 1)) || 1),
    format: a.format ?? 'ascii',
    unit: /\[([^\]]+)\]\s*$/.exec(a.Name ?? '')?.[1] ?? null,
    offset: a.offset === undefined ? null : Number(a.offset),
    text: null,
  };
}

function startMark(source: ByteSource, from: number): number {
  const mark = source.read(from, from + 4096).indexOf(95);
  if (mark >= 0) return from + mark;
  throw new ReadError(
    'the appended data has no start mark',
    'AppendedData',
    'The file is cut off; copy or write it again.',
  );
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

function blank(source: ByteSource, [from, to]: [number, number]): boolean {
  if (to - from > 4096) return false;
  return source.read(from, to).every((c) => c <= 32);
}

/**
 * A count of points or cells. Every one of them costs at least a byte somewhere, compressed at best 1 to 1032.
 *
 * @throws ReadError when it is no count or cannot fit the file
 */
export function countOf(text: string | undefined, where: string, fileBytes: number): number {
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

const timeTag = (fieldData: ArrayTag[]): ArrayTag | undefined =>
  fieldData.find((t) => /^time(value)?$/i.test(t.name));

export interface FieldDataFacts {
  time: number | null;
  timeUnit: string | null;
  facts: Record<string, number>;
}

/** The time of the file and its other single numbers. */
export function readFieldData({ fieldData, read }: Structure): FieldDataFacts {
  const tag = timeTag(fieldData);
  const facts: Record<string, number> = byName({});
  let time: number | null = null;
  for (const t of fieldData) {
    if (t.type === 'String') continue;
    const values = read(t, null);
    if (values.length === 0 || !Number.isFinite(values[0])) continue;
    if (t === tag) time = values[0];
    else if (values.length === 1) facts[t.name] = values[0];
  }
  return { time, timeUnit: tag?.unit ?? null, facts };
}

/** Fields that every piece has, points first. */
export function fieldHeaders(pieces: Piece[], findings: Findings): FieldHeader[] {
  const out: FieldHeader[] = [];
  for (const [section, location] of [
    ['PointData', 'point'],
    ['CellData', 'cell'],
  ] as [string, FieldLocation][]) {
    for (const tag of pieces[0].arrays[section] ?? []) {
      if (tag.type === 'String') {
        findings.add(`${tag.where}: text fields are left out`);
        continue;
      }
      if (out.some((f) => f.name === tag.name && f.location === location)) {
        findings.add(`${tag.where} appears twice; the first is used`);
        continue;
      }
      const same = pieces.every((p) =>
        p.arrays[section]?.some((t) => t.name === tag.name && t.components === tag.components),
      );
      if (!same) findings.add(`${tag.where} is not in every piece and is left out`);
      else out.push({ name: tag.name, location, components: tag.components, unit: tag.unit });
    }
  }
  return out;
}

/** The tag of a field within a piece. */
export function fieldTag(piece: Piece, field: FieldHeader): ArrayTag {
  return piece.arrays[field.location === 'point' ? 'PointData' : 'CellData'].find(
    (t) => t.name === field.name,
  )!;
}

/** Opens a serial VTK XML file as a run of one part at one step; `open` makes its mesh out of the structure. */
export function openSerialFile(
  source: ByteSource,
  tools: ReadTools,
  open: (structure: Structure, findings: Findings) => OpenedMesh,
): OpenedRun {
  const structure = readStructure(source, tools);
  const findings = new Findings();
  const { cut } = structure;
  const whole = <T>(act: () => T): T => {
    try {
      return act();
    } catch (error) {
      // That the file is cut off says more than what is missing because of it.
      throw cut ?? error;
    }
  };
  const { time, timeUnit, facts } = whole(() => readFieldData(structure));
  const mesh = whole(() => open(structure, findings));
  if (cut) {
    whole(() => mesh.readMesh());
    findings.add(`the file is cut off (${cut.reason}): only what stands before the cut is shown`);
  }
  return openedRun([steadyPart(null, mesh)], {
    steps: [time],
    timeUnit,
    facts,
    findings,
    lengthUnit: structure.pieces[0].arrays.Points?.[0]?.unit ?? null,
  });
}
