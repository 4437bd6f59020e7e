import { deflateSync } from 'node:zlib';
import type { RawMesh } from '#core/formats/format.ts';

/** A writer of every encoding the format allows, made for the tests only and apart from the product's own writer. */
export interface BuildOptions {
  format: 'ascii' | 'binary' | 'appended';
  appended?: 'raw' | 'base64';
  header: 4 | 8;
  big: boolean;
  zlib: boolean;
}

interface BuiltField {
  name: string;
  location: 'point' | 'cell';
  components: number;
  type: string;
  data: ArrayLike<number>;
}

const sizes: Record<string, number> = {
  Int8: 1,
  UInt8: 1,
  Int16: 2,
  UInt16: 2,
  Int32: 4,
  UInt32: 4,
  Int64: 8,
  UInt64: 8,
  Float32: 4,
  Float64: 8,
};

function encodeNumbers(data: ArrayLike<number>, type: string, big: boolean): Buffer {
  const size = sizes[type];
  const out = Buffer.alloc(data.length * size);
  const view = new DataView(out.buffer, out.byteOffset, out.length);
  for (let i = 0; i < data.length; i++) {
    const at = i * size;
    if (type === 'Int64') view.setBigInt64(at, BigInt(data[i]), !big);
    else if (type === 'UInt64') view.setBigUint64(at, BigInt(data[i]), !big);
    else if (type === 'Float32') view.setFloat32(at, data[i], !big);
    else if (type === 'Float64') view.setFloat64(at, data[i], !big);
    else if (type === 'Int32') view.setInt32(at, data[i], !big);
    else if (type === 'UInt32') view.setUint32(at, data[i], !big);
    else if (type === 'Int16') view.setInt16(at, data[i], !big);
    else if (type === 'UInt16') view.setUint16(at, data[i], !big);
    else if (type === 'Int8') view.setInt8(at, data[i]);
    else view.setUint8(at, data[i]);
  }
  return out;
}

const BLOCK = 64;

/** Header and body of one binary array; zlib is cut into small blocks so that there are several. */
function pack(data: Buffer, o: BuildOptions): [Buffer, Buffer] {
  const header = (values: number[]): Buffer =>
    encodeNumbers(values, o.header === 8 ? 'UInt64' : 'UInt32', o.big);
  if (!o.zlib) return [header([data.length]), data];
  const blocks: Buffer[] = [];
  for (let i = 0; i < data.length; i += BLOCK) blocks.push(deflateSync(data.subarray(i, i + BLOCK)));
  return [
    header([blocks.length, BLOCK, data.length % BLOCK, ...blocks.map((b) => b.length)]),
    Buffer.concat(blocks),
  ];
}

export function buildVtu(
  mesh: RawMesh,
  fields: BuiltField[],
  o: BuildOptions,
  change: (text: string) => string = (t) => t,
): Buffer {
  const blob: Buffer[] = [];
  let offset = 0;
  const array = (name: string, type: string, components: number, data: ArrayLike<number>): string => {
    const open = `<DataArray type="${type}" Name="${name}" NumberOfComponents="${components}" format="${o.format}"`;
    if (o.format === 'ascii') return `${open}>\n${Array.from(data).join(' ')}\n</DataArray>`;
    const [head, body] = pack(encodeNumbers(data, type, o.big), o);
    const text = o.zlib
      ? head.toString('base64') + body.toString('base64')
      : Buffer.concat([head, body]).toString('base64');
    if (o.format === 'binary') return `${open}>\n  ${text}\n</DataArray>`;
    const bytes = o.appended === 'base64' ? Buffer.from(text) : Buffer.concat([head, body]);
    blob.push(bytes);
    const tag = `${open} offset="${offset}"/>`;
    offset += bytes.length;
    return tag;
  };
  const list = (location: string): string =>
    fields
      .filter((f) => f.location === location)
      .map((f) => array(f.name, f.type, f.components, f.data))
      .join('\n');
  const text = `<?xml version="1.0"?>
<!-- made for a test -->
<VTKFile type="UnstructuredGrid" byte_order="${o.big ? 'BigEndian' : 'LittleEndian'}" header_type="${o.header === 8 ? 'UInt64' : 'UInt32'}"${o.zlib ? ' compressor="vtkZLibDataCompressor"' : ''}>
<UnstructuredGrid><Piece NumberOfPoints="${mesh.points.length / 3}" NumberOfCells="${mesh.types.length}">
<PointData>${list('point')}</PointData><CellData>${list('cell')}</CellData>
<Points>${array('Points', 'Float64', 3, mesh.points)}</Points>
<Cells>${array('connectivity', 'Int64', 1, mesh.connectivity)}${array('offsets', 'Int64', 1, mesh.offsets.subarray(1))}${array('types', 'UInt8', 1, mesh.types)}</Cells>
</Piece></UnstructuredGrid>`;
  const tail =
    o.format === 'appended'
      ? [Buffer.from(`<AppendedData encoding="${o.appended}">\n _`), ...blob, Buffer.from('</AppendedData>')]
      : [];
  return Buffer.concat([Buffer.from(change(text)), ...tail, Buffer.from('</VTKFile>')]);
}

/** A block of unit cells, `n` along each axis, as hexahedra. */
export function hexBlock(n: number, size = 1): RawMesh {
  const points: number[] = [];
  for (let k = 0; k <= n; k++)
    for (let j = 0; j <= n; j++)
      for (let i = 0; i <= n; i++) points.push((i * size) / n, (j * size) / n, (k * size) / n);
  const at = (i: number, j: number, k: number): number => (k * (n + 1) + j) * (n + 1) + i;
  const connectivity: number[] = [];
  for (let k = 0; k < n; k++) {
    for (let j = 0; j < n; j++) {
      for (let i = 0; i < n; i++) {
        for (const z of [k, k + 1])
          connectivity.push(at(i, j, z), at(i + 1, j, z), at(i + 1, j + 1, z), at(i, j + 1, z));
      }
    }
  }
  const cells = n ** 3;
  return {
    points: Float32Array.from(points),
    types: new Uint8Array(cells).fill(12),
    offsets: Uint32Array.from({ length: cells + 1 }, (_, c) => 8 * c),
    connectivity: Uint32Array.from(connectivity),
  };
}
