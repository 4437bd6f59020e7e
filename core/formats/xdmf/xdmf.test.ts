import { describe, expect, it } from 'vitest';
import { firstMesh } from '../../../tests/open-mesh.ts';
import { memorySource } from '../bytes/byte-source.ts';
import type { OpenedRun, ReadTools } from '../format.ts';
import { portableTools } from '../portable-tools.ts';
import { xdmf } from './xdmf.ts';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const open = async (domain: string, tools: Partial<ReadTools> = {}): Promise<OpenedRun> =>
  (await xdmf.open(
    memorySource(bytes(`<?xml version="1.0"?><Xdmf Version="3.0"><Domain>${domain}</Domain></Xdmf>`)),
    {
      ...portableTools,
      ...tools,
    },
  )) as OpenedRun;

const item = (dims: string, text: string, more = ''): string =>
  `<DataItem Dimensions="${dims}" Format="XML" ${more}>${text}</DataItem>`;
const square = `<Geometry GeometryType="XYZ">${item('4 3', '0 0 0 1 0 0 1 1 0 0 1 0')}</Geometry>`;
const quad = `<Topology TopologyType="Quadrilateral" NumberOfElements="1">${item('1 4', '0 1 2 3')}</Topology>`;
const grid = (inner: string, name = 'oven'): string =>
  `<Grid Name="${name}" GridType="Uniform">${inner}</Grid>`;

describe('XDMF', () => {
  it('has cells of one kind, and of mixed kinds with their numbers', async () => {
    const one = firstMesh(await open(grid(square + quad))).readMesh();
    expect(Array.from(one.types)).toEqual([9]);
    // 4 is a triangle, 5 a quadrilateral, 2 a polyline with its length, 1 a vertex with its length.
    const mixed = `<Topology TopologyType="Mixed">${item('16', '4 0 1 2 5 0 1 2 3 2 2 0 1 1 1 3')}</Topology>`;
    const mesh = firstMesh(await open(grid(square + mixed))).readMesh();
    expect(Array.from(mesh.types)).toEqual([5, 9, 3, 1]);
    expect(Array.from(mesh.offsets)).toEqual([0, 3, 7, 9, 10]);
  });
  it('has regular grids, whose numbers stand in the order z, y, x', async () => {
    const regular =
      '<Topology TopologyType="3DCoRectMesh" Dimensions="2 2 3"/>' +
      `<Geometry GeometryType="ORIGIN_DXDYDZ">${item('3', '30 20 10')}${item('3', '3 2 1')}</Geometry>`;
    const mesh = firstMesh(await open(grid(regular))).readMesh();
    expect(Array.from(mesh.types)).toEqual([12, 12]);
    expect(Array.from(mesh.points.subarray(0, 6))).toEqual([10, 20, 30, 11, 20, 30]);
    expect(Array.from(mesh.points.subarray(33))).toEqual([12, 22, 33]);
    const axes =
      '<Topology TopologyType="2DRectMesh" Dimensions="2 3"/>' +
      `<Geometry GeometryType="VXVY">${item('3', '0 1 5')}${item('2', '0 2')}</Geometry>`;
    expect(
      Array.from(
        firstMesh(await open(grid(axes)))
          .readMesh()
          .points.subarray(15),
      ),
    ).toEqual([5, 2, 0]);
  });
  it('has points as pairs, as triples and axis by axis', async () => {
    const place = async (type: string, data: string): Promise<number[]> => {
      const text = `<Geometry GeometryType="${type}">${data}</Geometry><Topology TopologyType="Polyvertex"/>`;
      return Array.from(firstMesh(await open(grid(text))).readMesh().points);
    };
    expect(await place('XY', item('2 2', '1 2 3 4'))).toEqual([1, 2, 0, 3, 4, 0]);
    expect(await place('X_Y_Z', ['1 2', '3 4', '5 6'].map((t) => item('2', t)).join(''))).toEqual([
      1, 3, 5, 2, 4, 6,
    ]);
    await expect(place('SPHERE', item('2 2', '1 2 3 4'))).rejects.toThrow(/geometry "SPHERE"/);
  });
  it('has values on points, in cells and of the whole; others are left out and told', async () => {
    const attributes =
      `<Attribute Name="heat" Center="Node">${item('4', '1 2 3 4')}</Attribute>` +
      `<Attribute Name="flow" Center="Cell" AttributeType="Vector">${item('1 3', '5 6 7')}</Attribute>` +
      `<Attribute Name="edges" Center="Edge">${item('4', '1 2 3 4')}</Attribute>`;
    const mesh = firstMesh(await open(grid(square + quad + attributes)));
    expect(mesh.fields.map((f) => [f.name, f.location, f.components])).toEqual([
      ['heat', 'point', 1],
      ['flow', 'cell', 3],
    ]);
    expect(Array.from(mesh.readField(1))).toEqual([5, 6, 7]);
    expect(mesh.findings.list.join()).toMatch(/edges: values on edges are left out/);
  });
  it('has steps in order of time, each with its parts', async () => {
    const at = (time: number): string => grid(`<Time Value="${time}"/>${square}${quad}`);
    const run = await open(`<Grid GridType="Collection" CollectionType="Temporal">${at(2)}${at(0.5)}</Grid>`);
    expect(run.steps).toEqual([0.5, 2]);
    const listed = `<Grid GridType="Collection" CollectionType="Temporal"><Time TimeType="List">${item('2', '3 4')}</Time>${grid(square + quad)}${grid(square + quad)}</Grid>`;
    expect((await open(listed)).steps).toEqual([3, 4]);
    const spatial = `<Grid GridType="Collection" CollectionType="Spatial">${grid(square + quad, 'door')}${grid(square + quad, 'rack')}</Grid>`;
    expect((await open(spatial)).parts.map((p) => p.name)).toEqual(['door', 'rack']);
  });
  it('reads binary files beside it, and says when they are not there', async () => {
    const data = new Uint8Array(Float32Array.of(0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0).buffer);
    const beside = `<Geometry GeometryType="XYZ"><DataItem Dimensions="4 3" NumberType="Float" Precision="4" Format="Binary" Endian="Little">points.bin</DataItem></Geometry>`;
    const run = await open(grid(beside + quad), {
      beside: (p) => (p === 'points.bin' ? memorySource(data) : null),
    });
    expect(Array.from(firstMesh(run).readMesh().points.subarray(6, 9))).toEqual([1, 1, 0]);
    expect(run.uses).toEqual(['points.bin']);
    await expect(
      open(grid(beside + quad), { beside: () => null }).then((r) => firstMesh(r).readMesh()),
    ).rejects.toThrow(/points.bin/);
  });
  it('that describes nothing, or what is not read, is refused', async () => {
    await expect(open('')).rejects.toThrow(/describes no grid/);
    const odd = `<Topology TopologyType="Blob">${item('1 4', '0 1 2 3')}</Topology>`;
    await expect(open(grid(square + odd)).then((r) => firstMesh(r).readMesh())).rejects.toThrow(
      /topology "blob"/,
    );
    await expect(open(grid(quad)).then((r) => firstMesh(r).readMesh())).rejects.toThrow(/no geometry/);
    const cut = `<Topology TopologyType="Mixed">${item('3', '9 0 1')}</Topology>`;
    await expect(open(grid(square + cut)).then((r) => firstMesh(r).readMesh())).rejects.toThrow(
      /ends too early/,
    );
  });
});
