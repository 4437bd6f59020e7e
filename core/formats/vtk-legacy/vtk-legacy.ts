import type { NumberArray } from '../../model/arrays.ts';
import {
  LINE,
  POLYGON,
  POLYHEDRON,
  POLYLINE,
  QUAD,
  STRIP,
  TRIANGLE,
  VERTEX,
} from '../../model/cell-types.ts';
import type { FieldHeader, FieldLocation } from '../../model/field.ts';
import { CutOffError, ReadError } from '../../model/read-error.ts';
import { asFloats, asUint32, joinArrays } from '../bytes/binary-numbers.ts';
import { checkStarts } from '../bytes/counts.ts';
import { type Cells, gridCellCount, gridCells, joinCells, sameSizeOffsets } from '../cells/grid-cells.ts';
import { Findings } from '../door/findings.ts';
import { wholeMesh } from '../door/join-pieces.ts';
import { admitMesh } from '../door/mesh-door.ts';
import { openedRun, steadyPart } from '../door/opened-run.ts';
import type { FileFormat, OpenedMesh, RawMesh } from '../format.ts';
import { latticePoints } from '../vtk-xml/vtk-xml-grids.ts';
import { LegacyCursor } from './vtk-legacy-cursor.ts';

/** Legacy VTK files, ascii and binary, versions 2 to 5.1, of all five kinds of data sets. */
export const vtkLegacy: FileFormat = {
  id: 'vtk',
  name: 'legacy VTK file',
  extensions: ['.vtk'],
  detect: (head) => /^# vtk DataFile Version/i.test(String.fromCharCode(...head.subarray(0, 32))),
  open(source) {
    const findings = new Findings();
    const content = emptyContent();
    const cursor = new LegacyCursor(source);
    try {
      readContent(cursor, content, findings);
    } catch (error) {
      // A mesh that is whole is worth showing though its fields are cut off.
      const whole = content.points !== null && content.lists.length > 0 && content.cellTypes !== null;
      if (!(error instanceof CutOffError) || !whole) throw error;
      findings.add(`the file is cut off (${error.where}: ${error.reason}): only what stands before is shown`);
    }
    const mesh = openedMesh(content, findings);
    return openedRun([steadyPart(null, wholeMesh([mesh], findings))], {
      steps: [content.time],
      facts: content.facts,
      findings,
    });
  },
};

/** Reads an array when asked for. */
type Later = () => NumberArray;

interface Content {
  dataSet: string;
  dims: number[];
  origin: number[];
  spacing: number[];
  points: { count: number; read: Later } | null;
  axes: Later[];
  lists: { kind: string; read: () => Cells }[];
  cellTypes: Later | null;
  fields: { header: FieldHeader; read: Later }[];
  time: number | null;
  facts: Record<string, number>;
}

const emptyContent = (): Content => ({
  dataSet: '',
  dims: [1, 1, 1],
  origin: [0, 0, 0],
  spacing: [1, 1, 1],
  points: null,
  axes: [],
  lists: [],
  cellTypes: null,
  fields: [],
  time: null,
  facts: {},
});

function readContent(cursor: LegacyCursor, out: Content, findings: Findings): void {
  let location: FieldLocation | null = null;
  let tuples = 0;
  let announced: string | null = null;
  for (let words = cursor.line(); words !== null; words = cursor.line()) {
    const [key, ...rest] = words;
    const add = (name: string, components: number, type: string, more: Partial<FieldHeader> = {}): void => {
      const read = cursor.array(
        tuples * components,
        type,
        `${location === 'cell' ? 'CELL_DATA' : 'POINT_DATA'} / ${name}`,
      );
      if (location)
        addField(out, { name: decodeName(name), location, components, unit: null, ...more }, read, findings);
    };
    announced = /^(POINT|CELL)_DATA$/i.test(key) ? key : null;
    switch (key.toUpperCase()) {
      case 'DATASET':
        out.dataSet = rest[0]?.toUpperCase() ?? '';
        break;
      case 'DIMENSIONS':
        out.dims = cursor.counts(rest, 3, 'DIMENSIONS');
        break;
      case 'ORIGIN':
        out.origin = rest.map(Number);
        break;
      case 'SPACING':
      case 'ASPECT_RATIO':
        out.spacing = rest.map(Number);
        break;
      case 'POINTS': {
        const count = cursor.count(rest[0], 'POINTS');
        out.points = { count, read: cursor.array(3 * count, rest[1], 'POINTS') };
        break;
      }
      case 'X_COORDINATES':
      case 'Y_COORDINATES':
      case 'Z_COORDINATES':
        out.axes['XYZ'.indexOf(key[0].toUpperCase())] = cursor.array(
          cursor.count(rest[0], key),
          rest[1],
          key,
        );
        break;
      case 'VERTICES':
      case 'LINES':
      case 'POLYGONS':
      case 'TRIANGLE_STRIPS':
      case 'CELLS':
        out.lists.push({ kind: key.toUpperCase(), read: readList(cursor, rest, key.toUpperCase()) });
        break;
      case 'CELL_TYPES':
        out.cellTypes = cursor.array(cursor.count(rest[0], 'CELL_TYPES'), 'int', 'CELL_TYPES');
        break;
      case 'POINT_DATA':
      case 'CELL_DATA':
        location = key.toUpperCase() === 'POINT_DATA' ? 'point' : 'cell';
        tuples = cursor.count(rest[0], key.toUpperCase());
        break;
      case 'SCALARS':
        // The name of a colour table stands between the header and the numbers.
        cursor.skipLine('LOOKUP_TABLE');
        add(rest[0], Number(rest[2] ?? 1) || 1, rest[1]);
        break;
      case 'VECTORS':
      case 'NORMALS':
        add(rest[0], 3, rest[1]);
        break;
      case 'TENSORS':
        add(rest[0], 9, rest[1]);
        break;
      case 'TENSORS6':
        add(rest[0], 6, rest[1], { tensor: true });
        break;
      case 'TEXTURE_COORDINATES':
        add(rest[0], Number(rest[1]) || 2, rest[2]);
        break;
      case 'COLOR_SCALARS':
        add(rest[0], Number(rest[1]) || 3, cursor.binary ? 'unsigned_char' : 'float');
        break;
      case 'GLOBAL_IDS':
      case 'PEDIGREE_IDS':
      case 'EDGE_FLAGS':
        add(rest[0], 1, rest[1]);
        break;
      case 'LOOKUP_TABLE':
        if (rest.length > 1 && Number(rest[1]) > 0) {
          cursor.array(
            4 * cursor.count(rest[1], 'LOOKUP_TABLE'),
            cursor.binary ? 'unsigned_char' : 'float',
            'LOOKUP_TABLE',
          );
          findings.add('the colour table of the file is not used; choose a colour map instead');
        }
        break;
      case 'FIELD':
        readFieldArrays(cursor, cursor.count(rest[1], 'FIELD'), location, out, findings);
        break;
      case 'METADATA':
        cursor.skipToBlankLine();
        break;
      default:
        throw new ReadError(
          `"${key.slice(0, 40)}" is not a word of this format`,
          `byte ${cursor.lineStart}`,
          'An array before it may be shorter than announced; write the file again.',
        );
    }
  }
  if (!out.dataSet) throw new CutOffError('the file names no kind of data set', 'DATASET');
  if (out.dataSet === 'UNSTRUCTURED_GRID' && out.lists.length === 0)
    findings.add('the grid has points but no cells: the points are shown; the file may be cut off');
  if (announced && tuples > 0) throw new CutOffError('no array follows', announced);
}

function addField(out: Content, header: FieldHeader, read: Later, findings: Findings): void {
  if (out.fields.some((f) => f.header.name === header.name && f.header.location === header.location))
    findings.add(`${header.name} appears twice; the first is used`);
  else out.fields.push({ header, read });
}

function readFieldArrays(
  cursor: LegacyCursor,
  count: number,
  location: FieldLocation | null,
  out: Content,
  findings: Findings,
): void {
  for (let i = 0; i < count; i++) {
    let words = cursor.line();
    if (words?.[0] === 'METADATA') {
      cursor.skipToBlankLine();
      words = cursor.line();
    }
    if (!words || words.length < 4)
      throw new CutOffError('a field array has no header', `FIELD, array ${i + 1}`);
    const [name, components, tuples, type] = words;
    const n = cursor.count(components, `FIELD / ${name}`) * cursor.count(tuples, `FIELD / ${name}`);
    const read = cursor.array(n, type, `FIELD / ${name}`);
    if (location) {
      addField(
        out,
        { name: decodeName(name), location, components: Number(components), unit: null },
        read,
        findings,
      );
    } else if (n === 1) {
      const [value] = read();
      if (/^time(value)?$/i.test(name)) out.time = value;
      else out.facts[decodeName(name)] = value;
    }
  }
}

function decodeName(name: string): string {
  try {
    return decodeURIComponent(name);
  } catch {
    return name;
  }
}

/** Cells as lists that begin with their length, or, from version 5 on, as offsets and connectivity. */
function readList(cursor: LegacyCursor, words: string[], kind: string): () => Cells {
  if (cursor.version >= 5) {
    const offsetCount = cursor.count(words[0], kind);
    const nodes = cursor.count(words[1], kind);
    const offsets = cursor.array(offsetCount, cursor.line()?.[1] ?? 'int', `${kind} / OFFSETS`);
    const connectivity = cursor.array(nodes, cursor.line()?.[1] ?? 'int', `${kind} / CONNECTIVITY`);
    return () => {
      const starts = offsetCount > 0 ? new Uint32Array(offsets()) : new Uint32Array(1);
      checkStarts(starts, nodes, `${kind} / OFFSETS`);
      return typedCells(kind, starts, asUint32(connectivity()));
    };
  }
  const cells = cursor.count(words[0], kind);
  const size = cursor.count(words[1], kind);
  const list = cursor.array(size, 'int', kind);
  return () => {
    const flat = asUint32(list());
    const same = sameSizeCells(flat, cells);
    if (same) return typedCells(kind, sameSizeOffsets(cells, flat[0]), same);
    const starts = new Uint32Array(cells + 1);
    const connectivity = new Uint32Array(Math.max(0, size - cells));
    let at = 0;
    let n = 0;
    for (let c = 0; c < cells; c++) {
      const length = flat[at++];
      if (length === undefined || at + length > size)
        throw new CutOffError(`cell ${c} reaches behind the end of the list`, kind);
      for (let k = 0; k < length; k++) connectivity[n++] = flat[at++];
      starts[c + 1] = n;
    }
    return typedCells(kind, starts, connectivity);
  };
}

/** The nodes of a list whose cells all have as many as the first; null when they do not. */
function sameSizeCells(flat: Uint32Array, cells: number): Uint32Array | null {
  const width = flat[0];
  if (cells === 0 || flat.length !== cells * (width + 1)) return null;
  const out = new Uint32Array(cells * width);
  let wrong = 0;
  for (let c = 0, at = 0, n = 0; c < cells; c++) {
    if (flat[at++] !== width) wrong++;
    for (let k = 0; k < width; k++) out[n++] = flat[at++];
  }
  return wrong === 0 ? out : null;
}

function typedCells(kind: string, offsets: Uint32Array, connectivity: Uint32Array): Cells {
  const types = new Uint8Array(offsets.length - 1);
  // The types of general cells stand in a list of their own.
  if (kind === 'CELLS') return { types, offsets, connectivity };
  for (let c = 0; c < types.length; c++) {
    const n = offsets[c + 1] - offsets[c];
    if (kind === 'VERTICES') types[c] = n === 1 ? VERTEX : 2;
    else if (kind === 'LINES') types[c] = n === 2 ? LINE : POLYLINE;
    else if (kind === 'TRIANGLE_STRIPS') types[c] = STRIP;
    else if (kind === 'POLYGONS') types[c] = n === 3 ? TRIANGLE : n === 4 ? QUAD : POLYGON;
  }
  return { types, offsets, connectivity };
}

const listOrder = ['VERTICES', 'LINES', 'POLYGONS', 'TRIANGLE_STRIPS'];

function openedMesh(content: Content, findings: Findings): OpenedMesh {
  const grid = /^STRUCTURED_POINTS$|^STRUCTURED_GRID$|^RECTILINEAR_GRID$/.test(content.dataSet);
  const points = content.points?.count ?? content.dims.reduce((a, b) => a * b, 1);
  const cells = grid ? () => gridCellCount(content.dims) : null;
  const headers = content.fields.map((f) => f.header);
  let known: RawMesh | null = null;
  const mesh = (): RawMesh => (known ??= admitMesh(readMesh(content, grid), findings));
  return {
    points,
    get cells() {
      return cells ? cells() : content.cellTypes ? content.cellTypes().length : mesh().types.length;
    },
    fields: headers,
    meshKey: null,
    readMesh: mesh,
    readField: (index) => content.fields[index].read(),
  };
}

function readMesh(content: Content, grid: boolean): RawMesh {
  if (grid) return { points: gridPoints(content), ...gridCells(content.dims) };
  if (!content.points) throw new CutOffError('the file has no points', 'POINTS');
  const lists = [...content.lists].sort((a, b) => listOrder.indexOf(a.kind) - listOrder.indexOf(b.kind));
  const cells = joinCells(lists.map((l) => l.read()));
  const types = content.cellTypes ? new Uint8Array(content.cellTypes()) : cells.types;
  const mesh: RawMesh = { points: asFloats(content.points.read()), ...cells, types };
  return types.includes(POLYHEDRON) ? withPolyhedra(mesh) : mesh;
}

/** Polyhedra stand in the list of cells as the number of their faces and then each face with its length. */
function withPolyhedra(mesh: RawMesh): RawMesh {
  const faces: number[] = [];
  const nodes: NumberArray[] = [];
  const starts = new Uint32Array(mesh.types.length + 1);
  const offsets = new Uint32Array(mesh.types.length + 1);
  for (let c = 0; c < mesh.types.length; c++) {
    const own = mesh.connectivity.subarray(mesh.offsets[c], mesh.offsets[c + 1]);
    if (mesh.types[c] === POLYHEDRON) {
      const seen = new Set<number>();
      for (let at = 1; at < own.length; at += own[at] + 1) {
        faces.push(own[at]);
        for (const p of own.subarray(at + 1, at + 1 + own[at])) {
          faces.push(p);
          seen.add(p);
        }
      }
      nodes.push(Uint32Array.from(seen));
    } else nodes.push(own);
    offsets[c + 1] = offsets[c] + nodes[c].length;
    starts[c + 1] = faces.length;
  }
  return {
    ...mesh,
    offsets,
    connectivity: joinArrays(nodes) as Uint32Array,
    polyhedra: { faces: Uint32Array.from(faces), starts },
  };
}

function gridPoints({ dims, origin, spacing, points, axes }: Content): Float32Array | Float64Array {
  const count = dims[0] * dims[1] * dims[2];
  if (points) {
    if (points.count === count) return asFloats(points.read());
    throw new ReadError(
      `${dims.join(' x ')} points are announced but ${points.count} are there`,
      'DIMENSIONS',
      'The file is inconsistent; write it again.',
    );
  }
  if (count > 2 ** 28)
    throw new ReadError(
      `a grid of ${dims.join(' x ')} points is too large to be read`,
      'DIMENSIONS',
      'Write a part of it.',
    );
  if (axes.length > 0) {
    const [x, y, z] = [0, 1, 2].map((k) => axes[k]?.() ?? new Float64Array(1));
    if (x.length !== dims[0] || y.length !== dims[1] || z.length !== dims[2])
      throw new ReadError('the axes do not fit the dimensions', 'DIMENSIONS', 'Write the file again.');
    return latticePoints(dims, (i, j, k, out, at) => {
      out[at] = x[i];
      out[at + 1] = y[j];
      out[at + 2] = z[k];
    });
  }
  return latticePoints(dims, (i, j, k, out, at) => {
    out[at] = origin[0] + i * spacing[0];
    out[at + 1] = origin[1] + j * spacing[1];
    out[at + 2] = origin[2] + k * spacing[2];
  });
}
