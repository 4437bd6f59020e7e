import { describe, expect, it } from 'vitest';
import { openWith } from '../../../tests/open-mesh.ts';
import { vtkXmlGrids } from './vtk-xml-grids.ts';

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const file = (type: string, attributes: string, pieces: string): Uint8Array =>
  bytes(
    `<?xml version="1.0"?><VTKFile type="${type}" version="1.0" byte_order="LittleEndian"><${type} ${attributes}>${pieces}</${type}></VTKFile>`,
  );
const array = (name: string, values: (string | number)[], components = 1, type = 'Float64'): string =>
  `<DataArray type="${type}" Name="${name}" NumberOfComponents="${components}" format="ascii">${values.join(' ')}</DataArray>`;
const range = (n: number): number[] => Array.from({ length: n }, (_, i) => i);

describe('regular grids', () => {
  it('of images stand on origin and spacing, within the extent of their piece', () => {
    const opened = openWith(
      vtkXmlGrids,
      file(
        'ImageData',
        'WholeExtent="0 3 0 1 0 1" Origin="1 2 3" Spacing="2 1 0.5"',
        `<Piece Extent="1 3 0 1 0 1"><PointData>${array('heat', range(12))}</PointData><CellData>${array('part', [7, 8])}</CellData></Piece>`,
      ),
    );
    const mesh = opened.readMesh();
    expect(Array.from(mesh.types)).toEqual([12, 12]);
    expect(Array.from(mesh.points.subarray(0, 3))).toEqual([3, 2, 3]);
    expect(Array.from(mesh.points.subarray(33))).toEqual([7, 3, 3.5]);
    expect(opened.fields.map((f) => [f.name, f.location])).toEqual([
      ['heat', 'point'],
      ['part', 'cell'],
    ]);
    expect(Array.from(opened.readField(1))).toEqual([7, 8]);
  });
  it('of images may be turned', () => {
    const mesh = openWith(
      vtkXmlGrids,
      file(
        'ImageData',
        'WholeExtent="0 1 0 1 0 0" Origin="0 0 0" Spacing="1 1 1" Direction="0 -1 0 1 0 0 0 0 1"',
        '<Piece Extent="0 1 0 1 0 0"></Piece>',
      ),
    ).readMesh();
    // A quarter turn about z: the step along the first axis leads along y.
    expect(Array.from(mesh.points)).toEqual([0, 0, 0, 0, 1, 0, -1, 0, 0, -1, 1, 0].map((v) => v + 0));
    expect(Array.from(mesh.types)).toEqual([9]);
  });
  it('of rectilinear grids have three axes', () => {
    const axes = (z: string): string =>
      `<Coordinates>${array('x', [0, 1, 5])}${array('y', [2, 3])}${z}</Coordinates>`;
    const open = (z: string) =>
      openWith(
        vtkXmlGrids,
        file(
          'RectilinearGrid',
          'WholeExtent="0 2 0 1 0 0"',
          `<Piece Extent="0 2 0 1 0 0">${axes(z)}</Piece>`,
        ),
      ).readMesh();
    expect(Array.from(open(array('z', [9])).points.subarray(15))).toEqual([5, 3, 9]);
    expect(() => open('')).toThrow(/fewer than three axes/);
  });
  it('of structured grids have their points, and lines where there is one dimension', () => {
    const mesh = openWith(
      vtkXmlGrids,
      file(
        'StructuredGrid',
        'WholeExtent="0 2 0 0 0 0"',
        `<Piece Extent="0 2 0 0 0 0"><Points>${array('Points', [0, 0, 0, 1, 1, 0, 2, 0, 0], 3)}</Points></Piece>`,
      ),
    ).readMesh();
    expect(Array.from(mesh.types)).toEqual([3, 3]);
    expect(Array.from(mesh.connectivity)).toEqual([0, 1, 1, 2]);
  });
  it('in pieces are joined, with the values of each', () => {
    const piece = (from: number, to: number): string =>
      `<Piece Extent="${from} ${to} 0 1 0 0"><CellData>${array(
        'n',
        range(to - from).map((i) => i + from),
      )}</CellData></Piece>`;
    const opened = openWith(
      vtkXmlGrids,
      file(
        'ImageData',
        'WholeExtent="0 4 0 1 0 0" Origin="0 0 0" Spacing="1 1 1"',
        piece(0, 2) + piece(2, 4),
      ),
    );
    expect(opened.cells).toBe(4);
    expect(Array.from(opened.readField(0))).toEqual([0, 1, 2, 3]);
  });
  it('that cannot be as large as they say are refused', () => {
    const huge =
      (inner: string): (() => unknown) =>
      () =>
        openWith(
          vtkXmlGrids,
          file(
            'ImageData',
            'WholeExtent="0 9999 0 9999 0 9999"',
            `<Piece Extent="0 9999 0 9999 0 9999">${inner}</Piece>`,
          ),
        );
    expect(huge('')).toThrow(/too large/);
    expect(huge(`<PointData>${array('a', [1])}</PointData>`)).toThrow(/cannot fit/);
    expect(() =>
      openWith(vtkXmlGrids, file('ImageData', 'WholeExtent="0 1"', '<Piece Extent="0 1"></Piece>')),
    ).toThrow();
  });
});
