import { describe, expect, it } from 'vitest';
import { openWith } from '../../../tests/open-mesh.ts';
import { vtkXmlPoly } from './vtk-xml-poly.ts';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const array = (name: string, values: number[], components = 1, type = 'Float64'): string =>
  `<DataArray type="${type}" Name="${name}" NumberOfComponents="${components}" format="ascii">${values.join(' ')}</DataArray>`;
const list = (name: string, cells: number[][]): string => {
  let end = 0;
  const ends = cells.map((c) => (end += c.length));
  return `<${name}>${array('connectivity', cells.flat(), 1, 'Int64')}${array('offsets', ends, 1, 'Int64')}</${name}>`;
};
const square = [0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0];
interface Given {
  Verts?: number[][];
  Lines?: number[][];
  Strips?: number[][];
  Polys?: number[][];
}
const piece = (given: Given, more = ''): string => {
  const counts = (['Verts', 'Lines', 'Strips', 'Polys'] as const).map(
    (k) => `NumberOf${k}="${given[k]?.length ?? 0}"`,
  );
  const lists = Object.entries(given).map(([k, cells]) => list(k, cells));
  return `<Piece NumberOfPoints="4" ${counts.join(' ')}><Points>${array('Points', square, 3)}</Points>${lists.join('')}${more}</Piece>`;
};
const open = (pieces: string) =>
  openWith(
    vtkXmlPoly,
    bytes(
      `<?xml version="1.0"?><VTKFile type="PolyData" version="1.0" byte_order="LittleEndian"><PolyData>${pieces}</PolyData></VTKFile>`,
    ),
  );

describe('poly data', () => {
  it('has points, lines, strips and polygons, in the order their values follow', () => {
    const values = `<CellData>${array('n', [1, 2, 3, 4, 5, 6])}</CellData>`;
    const opened = open(
      piece(
        {
          Verts: [[3]],
          Lines: [
            [0, 1],
            [0, 1, 2],
          ],
          Strips: [[0, 1, 3, 2]],
          Polys: [
            [0, 1, 2],
            [0, 1, 2, 3],
          ],
        },
        values,
      ),
    );
    expect(Array.from(opened.readMesh().types)).toEqual([1, 3, 4, 6, 5, 9]);
    expect(Array.from(opened.readField(0))).toEqual([1, 2, 3, 4, 5, 6]);
    expect(opened.cells).toBe(6);
  });
  it('in several pieces counts on in the points of each', () => {
    const opened = open(piece({ Polys: [[0, 1, 2]] }) + piece({ Polys: [[0, 2, 3]] }));
    const mesh = opened.readMesh();
    expect(mesh.points).toHaveLength(24);
    expect(Array.from(mesh.connectivity)).toEqual([0, 1, 2, 4, 6, 7]);
  });
  it('without cells is its points', () => {
    const opened = open(piece({}, `<PointData>${array('heat', [1, 2, 3, 4])}</PointData>`));
    expect(opened.points).toBe(4);
    expect(opened.fields.map((f) => f.name)).toEqual(['heat']);
  });
  it('whose cells use points that are not there, or whose counts cannot be, is refused', () => {
    expect(() => open(piece({ Polys: [[0, 1, 9]] })).readMesh()).toThrow();
    expect(() =>
      open(piece({ Polys: [[0, 1, 2]] }).replace('NumberOfPolys="1"', 'NumberOfPolys="99999999999"')),
    ).toThrow();
    expect(() =>
      open(piece({ Polys: [[0, 1, 2]] }).replace('NumberOfPolys="1"', 'NumberOfPolys="2"')).readMesh(),
    ).toThrow();
  });
});
