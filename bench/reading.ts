import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { deflateSync, inflateSync } from 'node:zlib';
import { inferSchema, initParser } from 'udsv';
import type { RawMesh } from '#core/formats/format.ts';
import { portableTools } from '#core/formats/portable-tools.ts';
import { openSource } from '#core/formats/registry.ts';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import type { Mesh } from '#core/model/mesh.ts';
import { fastTools, fileSource } from '#web/server/file-source.ts';
import { fiveFields, tetrahedra } from './made-meshes.ts';
import { compare, timedAsync } from './measure.ts';

/** Reads every array of a file on the disk. */
async function readAll(path: string): Promise<void> {
  const opened = await openSource(fileSource(path), { ...portableTools, ...fastTools, name: path });
  if (opened.kind === 'table') for (const [c] of opened.columns.entries()) opened.numbers(c);
  if (opened.kind !== 'run') return;
  const state = opened.parts[0].at(0)!;
  state.readMesh();
  for (const [f] of state.fields.entries()) state.readField(f);
}

/** Reading files against the bare work their encoding asks for. */
export async function benchReading(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'dresser-bench-'));
  try {
    const mesh = tetrahedra(55);
    const fields = fiveFields(mesh);
    const place = (name: string, bytes: Uint8Array | string): string => {
      writeFileSync(join(folder, name), bytes);
      return join(folder, name);
    };
    const raw = place('raw.vtu', writeVtu(mesh as RawMesh, fields));
    compare(
      'read appended raw, 1e6 tetrahedra, 5 fields / the bytes',
      await timedAsync(() => readAll(raw)),
      await timedAsync(() => readFileSync(raw)),
      'goal: at most 2',
    );
    const base64 = inlineVtu(mesh, fields, false);
    const inPlace = place('base64.vtu', base64.bytes);
    // The bare decode starts where a reader starts: at the bytes of the file.
    const texts = base64.payloads.map((t) => Buffer.from(t, 'latin1'));
    compare(
      'read base64 / bare base64 decode of the read bytes',
      await timedAsync(() => readAll(inPlace), 3),
      await timedAsync(() => {
        readFileSync(inPlace);
        for (const t of texts) Buffer.from(t.toString('latin1'), 'base64');
      }, 3),
      'goal: at most 2',
    );
    const zlib = inlineVtu(mesh, fields, true);
    const packed = place('zlib.vtu', zlib.bytes);
    compare(
      'read zlib / bare inflate',
      await timedAsync(() => readAll(packed), 3),
      await timedAsync(() => zlib.packed.map((p) => inflateSync(p)), 3),
      'goal: at most 1.4',
    );
    const legacy = place('legacy.vtk', legacyVtk(mesh, fields));
    compare(
      'read legacy binary / the bytes',
      await timedAsync(() => readAll(legacy)),
      await timedAsync(() => readFileSync(legacy)),
      'goal: at most 2',
    );
    const csv = place('table.csv', csvText(1e6, 10));
    compare(
      'read CSV, 1e6 rows of 10 columns / uDSV typed columns',
      await timedAsync(() => readAll(csv), 3),
      await timedAsync(() => {
        const text = readFileSync(csv, 'utf8');
        return initParser(inferSchema(text)).typedCols(text);
      }, 3),
      'goal: at most 1',
    );
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

function csvText(rows: number, columns: number): string {
  const lines = [Array.from({ length: columns }, (_, c) => `c${c}`).join(',')];
  for (let r = 0; r < rows; r++) {
    let line = String(r);
    for (let c = 1; c < columns; c++) line += `,${(Math.sin(r * c) * 1000).toFixed(4)}`;
    lines.push(line);
  }
  return `${lines.join('\n')}\n`;
}

/** Legacy VTK is big-endian and begins each cell with its number of nodes. */
function legacyVtk(m: Mesh, fields: ReturnType<typeof fiveFields>): Buffer {
  const swap = (a: Float32Array | Uint32Array): Buffer =>
    Buffer.from(new Uint8Array(a.slice().buffer)).swap32();
  const cells = m.types.length;
  const list = new Uint32Array(5 * cells);
  for (let c = 0; c < cells; c++) {
    list[5 * c] = 4;
    list.set(m.connectivity.subarray(4 * c, 4 * c + 4), 5 * c + 1);
  }
  const n = m.points.length / 3;
  return Buffer.concat([
    Buffer.from(`# vtk DataFile Version 3.0\nbench\nBINARY\nDATASET UNSTRUCTURED_GRID\nPOINTS ${n} float\n`),
    swap(m.points),
    Buffer.from(`\nCELLS ${cells} ${5 * cells}\n`),
    swap(list),
    Buffer.from(`\nCELL_TYPES ${cells}\n`),
    swap(Uint32Array.from(m.types)),
    Buffer.from(`\nPOINT_DATA ${n}\n`),
    ...fields.flatMap((f) => [
      Buffer.from(`SCALARS ${f.name} float 1\nLOOKUP_TABLE default\n`),
      swap(f.data),
      Buffer.from('\n'),
    ]),
  ]);
}

/** A file with arrays in place, so that the yardstick can decode the very same texts. */
function inlineVtu(m: Mesh, list: ReturnType<typeof fiveFields>, zlib: boolean) {
  const encode = (b: Uint8Array): string => Buffer.from(b).toString('base64');
  const payloads: string[] = [];
  const packed: Uint8Array[] = [];
  const array = (
    name: string,
    type: string,
    components: number,
    data: Float32Array | Uint32Array | Uint8Array,
  ): string => {
    const raw = new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
    let text: string;
    if (zlib) {
      const body = deflateSync(raw);
      packed.push(body);
      text = encode(new Uint8Array(Uint32Array.of(1, raw.length, 0, body.length).buffer)) + encode(body);
    } else {
      const joined = new Uint8Array(4 + raw.length);
      joined.set(new Uint8Array(Uint32Array.of(raw.length).buffer));
      joined.set(raw, 4);
      text = encode(joined);
      payloads.push(text);
    }
    return `<DataArray type="${type}" Name="${name}" NumberOfComponents="${components}" format="binary">${text}</DataArray>\n`;
  };
  const text = `<?xml version="1.0"?>\n<VTKFile type="UnstructuredGrid" byte_order="LittleEndian" header_type="UInt32"${zlib ? ' compressor="vtkZLibDataCompressor"' : ''}>
<UnstructuredGrid><Piece NumberOfPoints="${m.points.length / 3}" NumberOfCells="${m.types.length}">
<Points>${array('Points', 'Float32', 3, m.points)}</Points>
<Cells>${array('connectivity', 'UInt32', 1, m.connectivity)}${array('offsets', 'UInt32', 1, m.offsets.subarray(1))}${array('types', 'UInt8', 1, m.types)}</Cells>
<PointData>${list.map((f) => array(f.name, 'Float32', 1, f.data)).join('')}</PointData></Piece></UnstructuredGrid></VTKFile>`;
  return { bytes: new Uint8Array(Buffer.from(text, 'latin1')), payloads, packed };
}
