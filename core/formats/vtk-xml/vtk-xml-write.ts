import type { NumberArray } from '../../model/arrays.ts';
import { cellTypes, POLYHEDRON } from '../../model/cell-types.ts';
import type { FieldLocation } from '../../model/field.ts';
import type { RawMesh } from '../format.ts';
import { encodeText } from '../xml/xml-tags.ts';

export interface FieldToWrite {
  name: string;
  location: FieldLocation;
  components: number;
  unit?: string | null;
  data: NumberArray;
}

const typeNames = new Map<unknown, string>([
  [Int8Array, 'Int8'],
  [Uint8Array, 'UInt8'],
  [Int16Array, 'Int16'],
  [Uint16Array, 'UInt16'],
  [Int32Array, 'Int32'],
  [Uint32Array, 'UInt32'],
  [Float32Array, 'Float32'],
  [Float64Array, 'Float64'],
]);

/** Arrays that stand behind each other in the appended block of a file. */
class AppendedArrays {
  private readonly blocks: NumberArray[] = [];
  private offset = 0;

  /** Takes an array and gives its tag. */
  tag(name: string, components: number, data: NumberArray, unit?: string | null): string {
    const type = typeNames.get(data.constructor);
    const head = `<DataArray type="${type}" Name="${encodeText(name)}" NumberOfComponents="${components}" format="appended" offset="${this.offset}"`;
    this.blocks.push(data);
    this.offset += 8 + data.byteLength;
    if (!unit) return `${head}/>\n`;
    return `${head}><InformationKey name="UNITS_LABEL" location="vtkDataArray">${encodeText(unit)}</InformationKey></DataArray>\n`;
  }

  fields(fields: FieldToWrite[], location: FieldLocation): string {
    return fields
      .filter((f) => f.location === location)
      .map((f) => this.tag(f.name, f.components, f.data, f.unit))
      .join('');
  }

  /** The whole file: its tags, and the arrays behind them. */
  file(type: string, inner: string): Uint8Array {
    const head = new TextEncoder().encode(
      `<?xml version="1.0"?>\n<VTKFile type="${type}" version="1.0" byte_order="LittleEndian" header_type="UInt64">\n` +
        `<${type}>\n${inner}</${type}>\n<AppendedData encoding="raw">\n_`,
    );
    const tail = new TextEncoder().encode('\n</AppendedData>\n</VTKFile>\n');
    const out = new Uint8Array(head.length + this.offset + tail.length);
    out.set(head);
    const view = new DataView(out.buffer);
    let at = head.length;
    for (const data of this.blocks) {
      view.setBigUint64(at, BigInt(data.byteLength), true);
      out.set(new Uint8Array(data.buffer, data.byteOffset, data.byteLength), at + 8);
      at += 8 + data.byteLength;
    }
    out.set(tail, at);
    return out;
  }
}

/** Units of coordinates and time, written into the file. */
export interface UnitsToWrite {
  length?: string;
  time?: string;
}

const timeData = (arrays: AppendedArrays, time: number | null, units: UnitsToWrite): string =>
  time === null
    ? ''
    : `<FieldData>\n${arrays.tag('TimeValue', 1, Float64Array.of(time), units.time)}</FieldData>\n`;

/**
 * Writes a VTK XML unstructured grid: little-endian, appended raw, 64-bit headers, no compression.
 * Units are written as `UNITS_LABEL` information keys, times as the field data array `TimeValue`.
 */
export function writeVtu(
  mesh: RawMesh,
  fields: FieldToWrite[],
  time: number | null = null,
  units: UnitsToWrite = {},
): Uint8Array {
  const arrays = new AppendedArrays();
  const inner =
    timeData(arrays, time, units) +
    `<Piece NumberOfPoints="${mesh.points.length / 3}" NumberOfCells="${mesh.types.length}">\n` +
    `<Points>\n${arrays.tag('Points', 3, mesh.points, units.length)}</Points>\n` +
    `<Cells>\n${arrays.tag('connectivity', 1, mesh.connectivity)}${arrays.tag('offsets', 1, mesh.offsets.subarray(1))}${arrays.tag('types', 1, mesh.types)}${polyhedraTags(arrays, mesh)}</Cells>\n` +
    `<PointData>\n${arrays.fields(fields, 'point')}</PointData>\n<CellData>\n${arrays.fields(fields, 'cell')}</CellData>\n` +
    '</Piece>\n';
  return arrays.file('UnstructuredGrid', inner);
}

/** The faces of polyhedra: each cell's list begins with the number of its faces; other cells have the end -1. */
function polyhedraTags(arrays: AppendedArrays, { types, polyhedra }: RawMesh): string {
  if (!polyhedra) return '';
  const faces: number[] = [];
  const ends = new Int32Array(types.length).fill(-1);
  for (let c = 0; c < types.length; c++) {
    if (types[c] !== POLYHEDRON) continue;
    const head = faces.push(0) - 1;
    for (let at = polyhedra.starts[c]; at < polyhedra.starts[c + 1]; faces[head]++) {
      const n = polyhedra.faces[at];
      for (let k = 0; k <= n; k++) faces.push(polyhedra.faces[at++]);
    }
    ends[c] = faces.length;
  }
  return arrays.tag('faces', 1, Int32Array.from(faces)) + arrays.tag('faceoffsets', 1, ends);
}

/** Writes surfaces, lines and points as VTK XML poly data; its cells come in the order points, lines, polygons. */
export function writeVtp(
  mesh: RawMesh,
  fields: FieldToWrite[],
  time: number | null = null,
  units: UnitsToWrite = {},
): Uint8Array {
  const arrays = new AppendedArrays();
  const lists = [0, 1, 2].map((dimension) => {
    const cells: number[] = [];
    for (let c = 0; c < mesh.types.length; c++)
      if (cellTypes.get(mesh.types[c])?.dimension === dimension) cells.push(c);
    return cells;
  });
  const order = lists.flat();
  const names = ['Verts', 'Lines', 'Polys'];
  const tags = lists.map((cells, n) => {
    const nodes: number[] = [];
    const ends = Uint32Array.from(cells, (c) => {
      const { loop } = cellTypes.get(mesh.types[c])!;
      const size = cellTypes.get(mesh.types[c])!.corners || mesh.offsets[c + 1] - mesh.offsets[c];
      for (let k = 0; k < size; k++) nodes.push(mesh.connectivity[mesh.offsets[c] + (loop[k] ?? k)]);
      return nodes.length;
    });
    return `<${names[n]}>\n${arrays.tag('connectivity', 1, Uint32Array.from(nodes))}${arrays.tag('offsets', 1, ends)}</${names[n]}>\n`;
  });
  const inOrder = fields.map((f) =>
    f.location === 'point'
      ? f
      : {
          ...f,
          data: Float64Array.from(
            { length: order.length * f.components },
            (_, i) => f.data[order[Math.floor(i / f.components)] * f.components + (i % f.components)],
          ),
        },
  );
  const inner =
    timeData(arrays, time, units) +
    `<Piece NumberOfPoints="${mesh.points.length / 3}" ${lists.map((l, n) => `NumberOf${names[n]}="${l.length}"`).join(' ')} NumberOfStrips="0">\n` +
    `<Points>\n${arrays.tag('Points', 3, mesh.points, units.length)}</Points>\n${tags.join('')}` +
    `<PointData>\n${arrays.fields(inOrder, 'point')}</PointData>\n<CellData>\n${arrays.fields(inOrder, 'cell')}</CellData>\n` +
    '</Piece>\n';
  return arrays.file('PolyData', inner);
}

export interface CollectionRow {
  time: number;
  part: number;
  name: string;
  file: string;
}

/** Writes a VTK XML collection file. */
export function writePvd(entries: CollectionRow[]): string {
  const rows = entries.map(
    (e) =>
      `<DataSet timestep="${e.time}" group="" part="${e.part}" name="${encodeText(e.name)}" file="${encodeText(e.file)}"/>`,
  );
  return `<?xml version="1.0"?>\n<VTKFile type="Collection" version="0.1" byte_order="LittleEndian">\n<Collection>\n${rows.join('\n')}\n</Collection>\n</VTKFile>\n`;
}
