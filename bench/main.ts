import { deflateSync, inflateSync } from 'node:zlib';
import type { RawMesh } from '#core/formats/format.ts';
import { vtkXmlUnstructured } from '#core/formats/vtk-xml-unstructured.ts';
import { writeVtu } from '#core/formats/vtk-xml-write.ts';
import { buildBlocks } from '#core/model/blocks.ts';
import { buildDrawable } from '#core/model/drawable.ts';
import type { Mesh } from '#core/model/mesh.ts';
import { replay } from '#core/model/recipe.ts';
import { ChainSource } from '#core/ops/chain.ts';
import { section } from '#core/ops/section.ts';
import { surface } from '#core/ops/surface.ts';
import { fastTools } from '#web/server/file-source.ts';
import { openWith } from '../tests/open-mesh.ts';
import { compare, timed } from './measure.ts';
import { plainSection } from './plain-section.ts';

/** A block of n x n x n hexahedra over the unit cube. */
function block(n: number): Mesh {
  const points = new Float32Array((n + 1) ** 3 * 3);
  for (let k = 0, i = 0; k <= n; k++) {
    for (let j = 0; j <= n; j++) {
      for (let x = 0; x <= n; x++, i += 3) {
        points[i] = x / n;
        points[i + 1] = j / n;
        points[i + 2] = k / n;
      }
    }
  }
  const connectivity = new Uint32Array(8 * n ** 3);
  const at = (i: number, j: number, k: number): number => (k * (n + 1) + j) * (n + 1) + i;
  for (let k = 0, c = 0; k < n; k++) {
    for (let j = 0; j < n; j++) {
      for (let i = 0; i < n; i++, c += 8) {
        connectivity.set([at(i, j, k), at(i + 1, j, k), at(i + 1, j + 1, k), at(i, j + 1, k)], c);
        connectivity.set(
          [at(i, j, k + 1), at(i + 1, j, k + 1), at(i + 1, j + 1, k + 1), at(i, j + 1, k + 1)],
          c + 4,
        );
      }
    }
  }
  const cells = n ** 3;
  return {
    points,
    types: new Uint8Array(cells).fill(12),
    offsets: Uint32Array.from({ length: cells + 1 }, (_, c) => 8 * c),
    connectivity,
  };
}

const readAll = (bytes: Uint8Array): void => {
  const opened = openWith(vtkXmlUnstructured, bytes, fastTools);
  opened.readMesh();
  opened.fields.forEach((_, i) => void opened.readField(i));
};

console.log('Dresser benchmarks: ours, the yardstick beside it in the same run, and their ratio\n');

const mesh = block(100);
const points = mesh.points.length / 3;
const fields = ['a', 'b', 'c', 'd', 'e'].map((name, f) => ({
  name,
  location: 'point' as const,
  components: 1,
  data: Float32Array.from({ length: points }, (_, i) => Math.sin(i * 0.001 * (f + 1))),
}));

{
  const bytes = writeVtu(mesh as RawMesh, fields);
  compare(
    'read appended raw, 1e6 hexahedra, 5 fields / copy the bytes',
    timed(() => readAll(bytes)),
    timed(() => bytes.slice()),
    'goal: at most 2',
  );
  const base64 = inlineVtu(mesh, fields, (b) => Buffer.from(b).toString('base64'));
  // The bare decode starts where a reader starts: at the bytes of the file.
  const texts = base64.payloads.map((t) => Buffer.from(t, 'latin1'));
  compare(
    'read base64 / bare base64 decode',
    timed(() => readAll(base64.bytes), 3),
    timed(() => texts.map((t) => Buffer.from(t.toString('latin1'), 'base64')), 3),
    'goal: at most 2',
  );
}
{
  const bytes = inlineVtu(block(50), [], (b) => Buffer.from(b).toString('base64'), true);
  compare(
    'read zlib, 125,000 hexahedra / bare inflate',
    timed(() => readAll(bytes.bytes), 3),
    timed(() => bytes.packed.map((p) => inflateSync(p)), 3),
    'goal of a later issue: at most 1.4',
  );
}
{
  const source = new ChainSource(mesh, [0, 0, 0]);
  const plane = (offset: number) => ({
    normal: [0.48, 0.6, 0.64] as [number, number, number],
    offset,
    locked: false,
  });
  const plain = timed(() => plainSection(mesh, plane(0).normal, 0.83), 3);
  compare(
    'section of 1e6 cells, first time with blocks / plain scan',
    timed(() => {
      buildBlocks(mesh);
      section.run(source, plane(0.83));
    }, 3),
    plain,
    '',
  );
  let move = 0.8;
  const again = timed(() => section.run(source, plane((move += 0.003))), 9);
  compare(
    'section of 1e6 cells, after a small move / plain scan',
    again,
    plain,
    `${(1000 / again).toFixed(0)} a second; goal: 10`,
  );
  const cut = section.run(source, plane(0.83));
  compare(
    '  the same made ready to draw / plain scan',
    timed(() => buildDrawable(section.run(source, plane(0.83)).mesh, false), 5),
    plain,
    '',
  );

  const { index, weight } = cut.recipe.points;
  const out = new Float32Array(index.length / 2);
  const field = fields[0].data;
  const bare = timed(() => {
    for (let r = 0; r < 200; r++)
      for (let v = 0, i = 0; v < out.length; v++, i += 2)
        out[v] = weight![i] * field[index[i]] + weight![i + 1] * field[index[i + 1]];
  });
  const recipe = timed(() => {
    for (let r = 0; r < 200; r++) replay(cut.recipe.points, field, 1, 0, out);
  });
  compare('200 step changes through a recipe / bare gather', recipe, bare, 'goal: at most 1.5');
  const skin = timed(() => surface.run(source, {}), 3);
  compare('surface of 1e6 cells / plain section scan', skin, plain, '');
}

/** A file with arrays in place, so that the yardstick can decode the very same texts. */
function inlineVtu(m: Mesh, list: typeof fields, encode: (bytes: Uint8Array) => string, zlib = false) {
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
