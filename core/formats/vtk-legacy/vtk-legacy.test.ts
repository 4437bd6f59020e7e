import { describe, expect, it } from 'vitest';
import { openWith } from '../../../tests/open-mesh.ts';
import { vtkLegacy } from './vtk-legacy.ts';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const file = (body: string, version = '3.0'): Uint8Array =>
  bytes(`# vtk DataFile Version ${version}\noven\nASCII\n${body}`);
const open = (body: string, version?: string) => openWith(vtkLegacy, file(body, version));

const points = 'POINTS 4 float\n0 0 0 1 0 0 1 1 0 0 1 0\n';

describe('legacy files', () => {
  it('of regular points stand on origin and spacing', () => {
    const opened = open('DATASET STRUCTURED_POINTS\nDIMENSIONS 3 2 1\nORIGIN 1 2 3\nSPACING 0.5 2 1\n');
    const mesh = opened.readMesh();
    expect(Array.from(mesh.points)).toEqual([1, 2, 3, 1.5, 2, 3, 2, 2, 3, 1, 4, 3, 1.5, 4, 3, 2, 4, 3]);
    expect(Array.from(mesh.types)).toEqual([9, 9]);
    expect(opened.cells).toBe(2);
  });
  it('of rectilinear and structured grids stand where their axes or points say', () => {
    const lines = open(
      'DATASET RECTILINEAR_GRID\nDIMENSIONS 2 2 2\nX_COORDINATES 2 float\n0 3\nY_COORDINATES 2 float\n1 2\nZ_COORDINATES 2 float\n5 9\n',
    ).readMesh();
    expect(Array.from(lines.types)).toEqual([12]);
    expect(Array.from(lines.points.subarray(21))).toEqual([3, 2, 9]);
    const grid = open(`DATASET STRUCTURED_GRID\nDIMENSIONS 2 2 1\n${points}`).readMesh();
    expect(Array.from(grid.types)).toEqual([9]);
    expect(() => open(`DATASET STRUCTURED_GRID\nDIMENSIONS 3 2 1\n${points}`).readMesh()).toThrow(
      /3 x 2 x 1 points are announced but 4/,
    );
  });
  it('of polygons have vertices, lines, faces and strips in this order', () => {
    const mesh = open(
      `DATASET POLYDATA\n${points}POLYGONS 2 9\n4 0 1 2 3\n3 0 1 2\nVERTICES 1 2\n1 3\nLINES 1 4\n3 0 1 2\nTRIANGLE_STRIPS 1 5\n4 0 1 3 2\n`,
    ).readMesh();
    expect(Array.from(mesh.types)).toEqual([1, 4, 9, 5, 6]);
  });
  it('of version 5 have offsets and connectivity', () => {
    const mesh = open(
      `DATASET UNSTRUCTURED_GRID\n${points}CELLS 3 7\nOFFSETS vtktypeint64\n0 4 7\nCONNECTIVITY vtktypeint64\n0 1 2 3 0 1 2\nCELL_TYPES 2\n9 5\n`,
      '5.1',
    ).readMesh();
    expect(Array.from(mesh.types)).toEqual([9, 5]);
    expect(Array.from(mesh.offsets)).toEqual([0, 4, 7]);
  });
  it('have every kind of array, named as the file says', () => {
    const opened = open(
      `DATASET POLYDATA\n${points}POLYGONS 1 5\n4 0 1 2 3\nPOINT_DATA 4\nSCALARS heat double 1\nLOOKUP_TABLE default\n1 2 3 4\n` +
        'VECTORS air%20flow float\n1 0 0 0 1 0 0 0 1 1 1 1\nTENSORS load float\n' +
        `${Array.from({ length: 36 }, (_, i) => i).join(' ')}\nFIELD more 1\npair 2 4 int\n1 2 3 4 5 6 7 8\n` +
        'CELL_DATA 1\nSCALARS part int 1\nLOOKUP_TABLE default\n7\n',
    );
    expect(opened.fields.map((f) => [f.name, f.location, f.components])).toEqual([
      ['heat', 'point', 1],
      ['air flow', 'point', 3],
      ['load', 'point', 9],
      ['pair', 'point', 2],
      ['part', 'cell', 1],
    ]);
    expect(Array.from(opened.readField(3))).toEqual([1, 2, 3, 4, 5, 6, 7, 8]);
  });
  it('state their time and facts in a field of the whole', () => {
    const opened = open(
      `DATASET POLYDATA\nFIELD FieldData 2\nTIME 1 1 double\n2.5\nfan 1 1 double\n900\n${points}POLYGONS 1 5\n4 0 1 2 3\n`,
    );
    expect(opened.time).toBe(2.5);
    expect(opened.run.facts).toEqual({ fan: 900 });
  });
  it('have polyhedra by their faces', () => {
    const tetra = '4 3 0 2 1 3 0 1 3 3 1 2 3 3 0 3 2';
    const mesh = open(
      `DATASET UNSTRUCTURED_GRID\nPOINTS 4 float\n0 0 0 1 0 0 0 1 0 0 0 1\nCELLS 1 18\n17 ${tetra}\nCELL_TYPES 1\n42\n`,
    ).readMesh();
    expect(Array.from(mesh.types)).toEqual([42]);
    expect(mesh.polyhedra!.faces).toHaveLength(16);
    expect(Array.from(mesh.connectivity).sort()).toEqual([0, 1, 2, 3]);
  });
  it('as bytes are big-endian', () => {
    const head = bytes('# vtk DataFile Version 3.0\noven\nBINARY\nDATASET POLYDATA\nPOINTS 1 float\n');
    const body = new DataView(new ArrayBuffer(12));
    for (const [i, v] of [1, 2, 3].entries()) body.setFloat32(4 * i, v, false);
    const tail = bytes('\nVERTICES 1 2\n');
    const list = new DataView(new ArrayBuffer(8));
    list.setInt32(0, 1, false);
    const parts = [head, new Uint8Array(body.buffer), tail, new Uint8Array(list.buffer)];
    const all = new Uint8Array(parts.reduce((n, p) => n + p.length, 0));
    let at = 0;
    for (const p of parts) {
      all.set(p, at);
      at += p.length;
    }
    const mesh = openWith(vtkLegacy, all).readMesh();
    expect(Array.from(mesh.points)).toEqual([1, 2, 3]);
    expect(Array.from(mesh.types)).toEqual([1]);
  });
  it('cut off in a field show what stands before, and say so', () => {
    const opened = open(
      `DATASET UNSTRUCTURED_GRID\n${points}CELLS 1 5\n4 0 1 2 3\nCELL_TYPES 1\n9\nPOINT_DATA 4\nSCALARS heat float 1\nLOOKUP_TABLE default\n1 2\n`,
    );
    expect(opened.cells).toBe(1);
    expect(opened.findings.list.join()).toMatch(/cut off/);
  });
  it('with the same name twice, or a colour table, say what is not used', () => {
    const opened = open(
      `DATASET POLYDATA\n${points}POLYGONS 1 5\n4 0 1 2 3\nPOINT_DATA 4\nSCALARS a float 1\nLOOKUP_TABLE t\n1 2 3 4\nSCALARS a float 1\nLOOKUP_TABLE t\n5 6 7 8\nLOOKUP_TABLE t 1\n0 0 0 1\n`,
    );
    expect(opened.fields).toHaveLength(1);
    expect(opened.findings.list.join()).toMatch(/a appears twice.*colour table/);
  });
  it('with words that are none, or no data set, are refused by place', () => {
    expect(() => open(`DATASET POLYDATA\n${points}MELT 3\n`)).toThrow(/"MELT" is not a word of this format/);
    expect(() => open('')).toThrow(/names no kind of data set/);
    expect(() => open('DATASET UNSTRUCTURED_GRID\nCELLS 1 2\n1 0\nCELL_TYPES 1\n1\n').readMesh()).toThrow(
      /no points/,
    );
    expect(() => open('DATASET STRUCTURED_POINTS\nDIMENSIONS 9999 9999 9999\n').readMesh()).toThrow(
      /is not a count that fits/,
    );
  });
});
