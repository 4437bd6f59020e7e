import { Document, WebIO } from '@gltf-transform/core';
import { describe, expect, it } from 'vitest';
import { firstMesh } from '../../../tests/open-mesh.ts';
import { dracoPacked, meshoptPacked, sheet } from '../../../tests/sheet-glb.ts';
import { memorySource } from '../bytes/byte-source.ts';
import type { OpenedRun, ReadTools } from '../format.ts';
import { portableTools } from '../portable-tools.ts';
import { gltf } from './gltf.ts';

const open = async (data: Uint8Array, tools: Partial<ReadTools> = {}): Promise<OpenedRun> =>
  (await gltf.open(memorySource(data), { ...portableTools, ...tools })) as OpenedRun;

/** A document of one triangle, with what a test adds. */
function triangle(change: (document: Document) => void = () => undefined): Document {
  const document = new Document();
  const buffer = document.createBuffer();
  const position = document
    .createAccessor()
    .setType('VEC3')
    .setArray(Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0))
    .setBuffer(buffer);
  const primitive = document.createPrimitive().setAttribute('POSITION', position);
  const node = document.createNode('door').setMesh(document.createMesh('mesh').addPrimitive(primitive));
  document.createScene().addChild(node);
  change(document);
  return document;
}
const written = (document: Document): Promise<Uint8Array> => new WebIO().writeBinary(document);
const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);

describe('glTF', () => {
  it('has a triangle in metres, without a name of its own when it is alone', async () => {
    const run = await open(await written(triangle()));
    expect(run.lengthUnit).toBe('m');
    expect(run.parts.map((p) => p.name)).toEqual([null]);
    const mesh = firstMesh(run).readMesh();
    expect(Array.from(mesh.points)).toEqual([0, 0, 0, 1, 0, 0, 0, 1, 0]);
    expect(Array.from(mesh.types)).toEqual([5]);
  });
  it('stands where its node stands: moved, turned and made larger with those above it', async () => {
    const document = triangle((d) => {
      const [node] = d.getRoot().listNodes();
      // A quarter turn about z, then twice as large, then one along x, within a node that is two along y.
      node.setRotation([0, 0, Math.SQRT1_2, Math.SQRT1_2]).setScale([2, 2, 2]).setTranslation([1, 0, 0]);
      const above = d.createNode('frame').setTranslation([0, 2, 0]).addChild(node);
      const [scene] = d.getRoot().listScenes();
      scene.removeChild(node).addChild(above);
    });
    const points = firstMesh(await open(await written(document))).readMesh().points;
    for (const [i, v] of [1, 2, 0, 1, 4, 0, -1, 2, 0].entries()) expect(points[i]).toBeCloseTo(v, 6);
  });
  it('has a part for each primitive, with indices, lines and points', async () => {
    const document = triangle((d) => {
      const [mesh] = d.getRoot().listMeshes();
      const [first] = mesh.listPrimitives();
      const position = first.getAttribute('POSITION')!;
      const buffer = d.getRoot().listBuffers()[0];
      const order = d.createAccessor().setType('SCALAR').setArray(Uint16Array.of(2, 1)).setBuffer(buffer);
      mesh.addPrimitive(d.createPrimitive().setMode(1).setAttribute('POSITION', position).setIndices(order));
      mesh.addPrimitive(d.createPrimitive().setMode(0).setAttribute('POSITION', position));
      mesh.addPrimitive(d.createPrimitive().setMode(3).setAttribute('POSITION', position));
    });
    const run = await open(await written(document));
    expect(run.parts.map((p) => [p.name, Array.from(p.at(0)!.readMesh().types)])).toEqual([
      ['door 1', [5]],
      ['door 2', [3]],
      ['door 3', [1, 1, 1]],
    ]);
    expect(Array.from(run.parts[1].at(0)!.readMesh().connectivity)).toEqual([2, 1]);
    expect(run.findings.list).toEqual(['strips and loops of lines are left out']);
  });
  it.each([
    [5, [0, 1, 2, 1, 3, 2, 2, 3, 4]],
    [6, [0, 1, 2, 0, 2, 3, 0, 3, 4]],
  ])('has the triangles of mode %i as the standard orders them', async (mode, corners) => {
    // Khronos, glTF 2.0, section 3.7.2.1: strips turn about with every triangle, fans share their first point.
    const document = triangle((d) => {
      const [first] = d.getRoot().listMeshes()[0].listPrimitives();
      const five = Float32Array.from([0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 1, 0, 0, 2, 0]);
      first.getAttribute('POSITION')!.setArray(five);
      first.setMode(mode as 5 | 6);
    });
    const mesh = firstMesh(await open(await written(document))).readMesh();
    expect(Array.from(mesh.connectivity)).toEqual(corners);
    expect(Array.from(mesh.types)).toEqual([5, 5, 5]);
  });
  it.each([dracoPacked, meshoptPacked])('%o as results too is read where it is packed', async (pack) => {
    const mesh = firstMesh(await open(await pack(sheet())));
    expect([mesh.points, mesh.cells]).toEqual([81, 128]);
  });
  it('has fields by attributes of its own', async () => {
    const document = triangle((d) => {
      const [primitive] = d.getRoot().listMeshes()[0].listPrimitives();
      const heat = d
        .createAccessor()
        .setType('SCALAR')
        .setArray(Float32Array.of(5, 6, 7));
      primitive.setAttribute('_HEAT', heat.setBuffer(d.getRoot().listBuffers()[0]));
    });
    const mesh = firstMesh(await open(await written(document)));
    expect(mesh.fields.map((f) => [f.name, f.components])).toEqual([['HEAT', 1]]);
    expect(Array.from(mesh.readField(0))).toEqual([5, 6, 7]);
  });
  it('as JSON reads its buffer beside it or in place, and says when it is not there', async () => {
    const { json, resources } = await new WebIO().writeJSON(triangle());
    const [[uri, data]] = Object.entries(resources);
    const text = bytes(JSON.stringify(json));
    expect(gltf.detect(text, 'a.gltf')).toBe(true);
    const run = await open(text, { beside: (path) => (path === uri ? memorySource(data) : null) });
    expect(run.uses).toEqual([uri]);
    expect(firstMesh(run).cells).toBe(1);
    await expect(open(text, { beside: () => null })).rejects.toThrow(/is not there/);
    const inPlace = JSON.parse(JSON.stringify(json));
    inPlace.buffers[0].uri = `data:application/octet-stream;base64,${Buffer.from(data).toString('base64')}`;
    expect(firstMesh(await open(bytes(JSON.stringify(inPlace)))).points).toBe(3);
  });
  it('that is damaged, or holds no mesh, is refused', async () => {
    const whole = await written(triangle());
    await expect(open(whole.subarray(0, whole.length - 8))).rejects.toThrow(/damaged/);
    await expect(open(bytes('{"asset":{"version":"2.0"},"scenes":[]}'))).rejects.toThrow(/no mesh/);
    await expect(open(bytes('{"asset":{"version":"2.0"'))).rejects.toThrow(/damaged/);
  });
});
