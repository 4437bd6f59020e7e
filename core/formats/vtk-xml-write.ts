import type { FieldLocation, NumberArray, RawMesh } from './format.ts';
import { encodeText } from './xml-tags.ts';

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

/**
 * Writes a VTK XML unstructured grid: little-endian, appended raw, 64-bit headers, no compression.
 * Units are written as `UNITS_LABEL` information keys, times as the field data array `TimeValue`.
 */
export function writeVtu(
  mesh: RawMesh,
  fields: FieldToWrite[],
  time: number | null = null,
  units: { length?: string; time?: string } = {},
): Uint8Array {
  const blocks: NumberArray[] = [];
  let offset = 0;
  const array = (name: string, components: number, data: NumberArray, unit?: string | null): string => {
    const type = typeNames.get(data.constructor);
    const head = `<DataArray type="${type}" Name="${encodeText(name)}" NumberOfComponents="${components}" format="appended" offset="${offset}"`;
    blocks.push(data);
    offset += 8 + data.byteLength;
    if (!unit) return `${head}/>\n`;
    return `${head}><InformationKey name="UNITS_LABEL" location="vtkDataArray">${encodeText(unit)}</InformationKey></DataArray>\n`;
  };
  const list = (location: FieldLocation): string =>
    fields
      .filter((f) => f.location === location)
      .map((f) => array(f.name, f.components, f.data, f.unit))
      .join('');
  const header =
    '<?xml version="1.0"?>\n<VTKFile type="UnstructuredGrid" version="1.0" byte_order="LittleEndian" header_type="UInt64">\n' +
    '<UnstructuredGrid>\n' +
    (time === null
      ? ''
      : `<FieldData>\n${array('TimeValue', 1, Float64Array.of(time), units.time)}</FieldData>\n`) +
    `<Piece NumberOfPoints="${mesh.points.length / 3}" NumberOfCells="${mesh.types.length}">\n` +
    `<Points>\n${array('Points', 3, mesh.points, units.length)}</Points>\n` +
    `<Cells>\n${array('connectivity', 1, mesh.connectivity)}${array('offsets', 1, mesh.offsets.subarray(1))}${array('types', 1, mesh.types)}</Cells>\n` +
    `<PointData>\n${list('point')}</PointData>\n<CellData>\n${list('cell')}</CellData>\n` +
    '</Piece>\n</UnstructuredGrid>\n<AppendedData encoding="raw">\n_';
  const head = new TextEncoder().encode(header);
  const tail = new TextEncoder().encode('\n</AppendedData>\n</VTKFile>\n');
  const out = new Uint8Array(head.length + offset + tail.length);
  out.set(head);
  const view = new DataView(out.buffer);
  let at = head.length;
  for (const data of blocks) {
    view.setBigUint64(at, BigInt(data.byteLength), true);
    out.set(new Uint8Array(data.buffer, data.byteOffset, data.byteLength), at + 8);
    at += 8 + data.byteLength;
  }
  out.set(tail, at);
  return out;
}

export interface CollectionEntry {
  time: number;
  part: number;
  name: string;
  file: string;
}

/** Writes a VTK XML collection file. */
export function writePvd(entries: CollectionEntry[]): string {
  const rows = entries.map(
    (e) =>
      `<DataSet timestep="${e.time}" group="" part="${e.part}" name="${encodeText(e.name)}" file="${encodeText(e.file)}"/>`,
  );
  return `<?xml version="1.0"?>\n<VTKFile type="Collection" version="0.1" byte_order="LittleEndian">\n<Collection>\n${rows.join('\n')}\n</Collection>\n</VTKFile>\n`;
}
