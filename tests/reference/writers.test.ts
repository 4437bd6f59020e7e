import { type BufferGeometry, type Mesh, type Object3D, Vector3 } from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import { OBJLoader } from 'three/examples/jsm/loaders/OBJLoader.js';
import { PLYLoader } from 'three/examples/jsm/loaders/PLYLoader.js';
import { STLLoader } from 'three/examples/jsm/loaders/STLLoader.js';
import { describe, expect, it } from 'vitest';
import type { RawMesh } from '#core/formats/format.ts';
import type { PartToWrite } from '#core/formats/part-to-write.ts';
import { writers } from '#core/formats/writer.ts';
import { writeStep } from '#core/ops/write-step.ts';
import { openBytes } from '#web/server/reading.ts';
import { firstMesh } from '../open-mesh.ts';
import { temperature } from '../sample-run.ts';
import { hexBlock } from '../vtu-builder.ts';

/** The loaders of three read what we write: they are not ours. */
const mesh = hexBlock(2, 0.5);
const part = (name: string, shift = 0): PartToWrite => {
  const moved: RawMesh = {
    ...mesh,
    points: Float64Array.from(mesh.points, (v, i) => v + (i % 3 === 0 ? shift : 0)),
  };
  const load = {
    name: 'load',
    location: 'cell' as const,
    components: 1,
    unit: null,
    data: Float64Array.from({ length: 8 }, (_, i) => i),
  };
  return { name, mesh: moved, fields: [temperature(moved, (x, y, z) => 20 + x + 2 * y + 3 * z), load] };
};
const write = async (id: string, ...parts: PartToWrite[]): Promise<Uint8Array> =>
  writeStep(writers.find((w) => w.id === id)!, { time: 1.5, units: { length: 'm', time: 's' }, parts });
const buffer = (bytes: Uint8Array): ArrayBuffer => bytes.slice().buffer as ArrayBuffer;

function areaOf(geometry: BufferGeometry): number {
  const position = geometry.getAttribute('position');
  const index = geometry.getIndex();
  const count = index?.count ?? position.count;
  const at = (i: number) => new Vector3().fromBufferAttribute(position, index ? index.getX(i) : i);
  let area = 0;
  for (let i = 0; i < count; i += 3)
    area +=
      at(i + 1)
        .sub(at(i))
        .cross(at(i + 2).sub(at(i)))
        .length() / 2;
  return area;
}
const meshes = (root: Object3D): Mesh[] => {
  const out: Mesh[] = [];
  root.traverse((o) => (o as Mesh).isMesh && out.push(o as Mesh));
  return out;
};

describe('surfaces we write are read by the loaders of three', () => {
  it('STL', async () => {
    const geometry = new STLLoader().parse(buffer(await write('stl', part('tin'))));
    expect(geometry.getAttribute('position').count).toBe(3 * 48);
    expect(areaOf(geometry)).toBeCloseTo(1.5, 6);
  });
  it('PLY', async () => {
    const loader = new PLYLoader();
    loader.setCustomPropertyNameMapping({ heat: ['temperature'] });
    const geometry = loader.parse(buffer(await write('ply', part('tin'))));
    expect(geometry.getAttribute('position').count).toBe(26);
    expect(areaOf(geometry)).toBeCloseTo(1.5, 6);
    const heat = geometry.getAttribute('heat');
    const p = geometry.getAttribute('position');
    for (let i = 0; i < 26; i++)
      expect(heat.getX(i)).toBeCloseTo(20 + p.getX(i) + 2 * p.getY(i) + 3 * p.getZ(i), 5);
  });
  it('OBJ, with a group for each part', async () => {
    const text = new TextDecoder().decode(await write('obj', part('tin'), part('lid', 2)));
    const root = new OBJLoader().parse(text);
    expect(meshes(root).map((m) => m.name)).toEqual(['tin', 'lid']);
    for (const m of meshes(root)) expect(areaOf(m.geometry)).toBeCloseTo(1.5, 6);
  });
  it('GLB, with a node for each part and its fields', async () => {
    const bytes = await write('glb', part('tin'), part('lid', 2));
    const { scene } = await new GLTFLoader().parseAsync(buffer(bytes), '');
    expect(meshes(scene).map((m) => m.name)).toEqual(['tin', 'lid']);
    for (const m of meshes(scene)) {
      expect(areaOf(m.geometry)).toBeCloseTo(1.5, 6);
      expect(m.geometry.getAttribute('_temperature').count).toBe(26);
    }
  });
});

describe('what we write we read', () => {
  it('VTU keeps mesh, fields, units and time', async () => {
    const opened = firstMesh(await openBytes(await write('vtu', part('tin')), 'tin.vtu'));
    expect([opened.time, opened.timeUnit, opened.lengthUnit]).toEqual([1.5, 's', 'm']);
    expect(opened.readMesh().connectivity).toEqual(mesh.connectivity);
    expect(opened.fields.map((f) => [f.name, f.location, f.unit])).toEqual([
      ['temperature', 'point', '°C'],
      ['load', 'cell', null],
    ]);
  });
  it('VTP is the surface, its cell values those of the cells behind', async () => {
    const opened = firstMesh(await openBytes(await write('vtp', part('tin')), 'tin.vtp'));
    expect([opened.points, opened.cells, opened.time]).toEqual([26, 24, 1.5]);
    const load = opened.readField(1);
    // Each corner cell of a block of 2 x 2 x 2 shows three faces.
    for (let c = 0; c < 8; c++) expect(Array.from(load).filter((v) => v === c)).toHaveLength(3);
  });
  it('CSV has units in its names and every point', async () => {
    const opened = await openBytes(await write('csv', part('tin')), 'tin.csv');
    expect(opened).toMatchObject({ kind: 'table', rows: 27, guess: { as: 'points', x: 0, y: 1, z: 2 } });
    if (opened.kind === 'table')
      expect(opened.columns[3]).toMatchObject({ name: 'temperature [°C]', unit: '°C' });
  });
  it('XYZ keeps places, properties and time', async () => {
    const opened = firstMesh(await openBytes(await write('xyz', part('tin')), 'tin.xyz'));
    expect([opened.points, opened.time]).toEqual([27, 1.5]);
    expect(Array.from(opened.readMesh().points)).toEqual(Array.from(part('tin').mesh.points));
    expect(Array.from(opened.readField(1))).toEqual(Array.from(part('tin').fields[0].data));
  });
  for (const id of ['stl', 'ply', 'obj', 'glb']) {
    it(id, async () => {
      const opened = firstMesh(await openBytes(await write(id, part('tin')), `tin.${id}`));
      expect(opened.points).toBe(26);
      expect(opened.readMesh().types.length).toBe(id === 'stl' || id === 'glb' ? 48 : 24);
    });
  }
});
