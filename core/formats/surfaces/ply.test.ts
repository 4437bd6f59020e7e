import { describe, expect, it } from 'vitest';
import { openWith } from '../../../tests/open-mesh.ts';
import { ply } from './ply.ts';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const open = (data: Uint8Array) => openWith(ply, data);

const header = (format: string, more = ''): string =>
  `ply\nformat ${format} 1.0\ncomment by hand\nelement vertex 4\nproperty float x\nproperty float y\nproperty float z\nproperty double heat\n` +
  `element face 2\nproperty list uchar int vertex_indices\nproperty uchar part\n${more}end_header\n`;
const rows = '0 0 0 10\n1 0 0 20\n1 1 0 30\n0 1 0 40\n3 0 1 2 7\n4 0 1 2 3 9\n';
const text = header('ascii') + rows;

/** The same as bytes, in either order. */
function binary(little: boolean): Uint8Array {
  const head = bytes(header(little ? 'binary_little_endian' : 'binary_big_endian'));
  const body = new DataView(new ArrayBuffer(4 * 20 + (1 + 12 + 1) + (1 + 16 + 1)));
  let at = 0;
  for (const [x, y, heat] of [
    [0, 0, 10],
    [1, 0, 20],
    [1, 1, 30],
    [0, 1, 40],
  ]) {
    for (const v of [x, y, 0]) {
      body.setFloat32(at, v, little);
      at += 4;
    }
    body.setFloat64(at, heat, little);
    at += 8;
  }
  for (const [nodes, part] of [
    [[0, 1, 2], 7],
    [[0, 1, 2, 3], 9],
  ] as const) {
    body.setUint8(at++, nodes.length);
    for (const n of nodes) {
      body.setInt32(at, n, little);
      at += 4;
    }
    body.setUint8(at++, part);
  }
  const out = new Uint8Array(head.length + body.byteLength);
  out.set(head);
  out.set(new Uint8Array(body.buffer), head.length);
  return out;
}

describe('PLY', () => {
  it('as text and as bytes of both orders is the same surface with the same fields', () => {
    for (const data of [bytes(text), binary(true), binary(false)]) {
      const opened = open(data);
      const mesh = opened.readMesh();
      expect(Array.from(mesh.points)).toEqual([0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0]);
      expect(Array.from(mesh.types)).toEqual([5, 9]);
      expect(Array.from(mesh.connectivity)).toEqual([0, 1, 2, 0, 1, 2, 3]);
      expect(opened.fields.map((f) => [f.name, f.location])).toEqual([
        ['heat', 'point'],
        ['part', 'cell'],
      ]);
      expect(Array.from(opened.readField(0))).toEqual([10, 20, 30, 40]);
      expect(Array.from(opened.readField(1))).toEqual([7, 9]);
    }
  });
  it('is told by its first line', () => {
    expect(ply.detect(bytes('ply\nformat'), 'x')).toBe(true);
    expect(ply.detect(bytes('plywood\n'), 'a.ply')).toBe(false);
  });
  it('without faces is points; colours and normals are no fields', () => {
    const cloud =
      'ply\nformat ascii 1.0\nelement vertex 2\nproperty float x\nproperty float y\nproperty float z\nproperty float nx\nproperty uchar red\nproperty float age\nend_header\n0 0 0 1 255 3\n1 1 1 0 0 4\n';
    const opened = open(bytes(cloud));
    expect(Array.from(opened.readMesh().types)).toEqual([1, 1]);
    expect(opened.fields.map((f) => f.name)).toEqual(['age']);
  });
  it('with more elements says what is not used', () => {
    const more = open(
      bytes(header('ascii', 'element edge 1\nproperty int vertex1\nproperty int vertex2\n') + rows + '0 1\n'),
    );
    expect(more.findings.list).toEqual(['the element "edge" is not used']);
  });
  it('cut off behind its faces shows them, and says so', () => {
    const cut = open(bytes(header('ascii', 'element edge 2\nproperty int vertex1\n') + rows + '0\n'));
    expect(cut.cells).toBe(2);
    expect(cut.findings.list[0]).toMatch(/cut off in the element "edge"/);
  });
  it('cut off before, or with counts that cannot be, is refused by place', () => {
    expect(() => open(bytes(text.slice(0, -10)))).toThrow(/ends too early|not fit|announced/);
    expect(() => open(binary(true).subarray(0, -5))).toThrow();
    expect(() => open(bytes(text.replace('vertex 4', 'vertex 4000000')))).toThrow(/"4000000" is no count/);
    expect(() => open(bytes('ply\nformat ascii 1.0\nelement vertex 1\n'))).toThrow(/header does not end/);
    expect(() => open(bytes(text.replace('property float x', 'property quux x')))).toThrow(/not understood/);
    expect(() => open(bytes(text.replace('property float z', 'property float w')))).toThrow(
      /no property "z"/,
    );
    expect(() => open(bytes(text.replace('1 0 0 20', '1 0 oops 20')))).toThrow(/"oops" is not a number/);
  });
});
