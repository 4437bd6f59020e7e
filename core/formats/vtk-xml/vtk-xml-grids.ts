import { ReadError } from '../../model/read-error.ts';
import { asFloats } from '../bytes/binary-numbers.ts';
import { countByRule } from '../bytes/counts.ts';
import { gridCellCount, gridCells } from '../cells/grid-cells.ts';
import type { Findings } from '../door/findings.ts';
import { joinPieces } from '../door/join-pieces.ts';
import { admitMesh } from '../door/mesh-door.ts';
import type { FileFormat, OpenedMesh } from '../format.ts';
import {
  fieldHeaders,
  fieldTag,
  isVtkXml,
  openSerialFile,
  type Piece,
  type Structure,
} from './vtk-xml-structure.ts';

/** VTK XML image data, rectilinear and structured grids; they become meshes of hexahedra, quads or lines. */
export const vtkXmlGrids: FileFormat = {
  id: 'vtk-grids',
  name: 'VTK XML image, rectilinear or structured grid',
  extensions: ['.vti', '.vtr', '.vts'],
  detect: (head) => isVtkXml(head, ['ImageData', 'RectilinearGrid', 'StructuredGrid']),
  open: (source, tools) =>
    openSerialFile(source, tools, (structure, findings) => {
      const pieces = structure.pieces.map((p) => openedPiece(structure, p, findings));
      return pieces.length === 1 ? pieces[0] : joinPieces(pieces, findings);
    }),
};

function openedPiece(s: Structure, piece: Piece, findings: Findings): OpenedMesh {
  const extent = numbersIn(piece.attributes.Extent ?? s.dataSet.WholeExtent, 6, 'Piece / Extent');
  const dims = [0, 1, 2].map((k) => extent[2 * k + 1] - extent[2 * k] + 1);
  const points = dims.reduce((n, d) => n * Math.max(0, d), 1);
  if (points > s.fileBytes * 1040 && (piece.arrays.Points || piece.arrays.PointData)) {
    throw new ReadError(
      `${points} points cannot fit in a file of ${s.fileBytes} bytes`,
      'Piece / Extent',
      'The file is damaged; write it again.',
    );
  }
  if (points > 2 ** 28) {
    throw new ReadError(
      `a grid of ${dims.join(' x ')} points is too large to be read`,
      'Piece / Extent',
      'Write a part of it, or every other point.',
    );
  }
  const cells = gridCellCount(dims);
  const fields = fieldHeaders([piece], findings);
  return {
    points,
    cells,
    fields,
    meshKey: null,
    readMesh: () => admitMesh({ points: gridPoints(s, piece, extent, dims), ...gridCells(dims) }, findings),
    readField: (index) =>
      s.read(
        fieldTag(piece, fields[index]),
        (fields[index].location === 'point' ? points : cells) * fields[index].components,
      ),
  };
}

function gridPoints(
  s: Structure,
  piece: Piece,
  extent: number[],
  dims: number[],
): Float32Array | Float64Array {
  const stated = piece.arrays.Points?.[0];
  if (stated) return asFloats(s.read({ ...stated, where: 'Points' }, 3 * dims.reduce((n, d) => n * d, 1)));
  const axes = piece.arrays.Coordinates;
  if (axes) {
    const [x, y, z] = [0, 1, 2].map((k) => {
      if (!axes[k])
        throw new ReadError('the grid has fewer than three axes', 'Coordinates', 'Write it again.');
      return s.read(axes[k], dims[k]);
    });
    return latticePoints(dims, (i, j, k, out, at) => {
      out[at] = x[i];
      out[at + 1] = y[j];
      out[at + 2] = z[k];
    });
  }
  const origin = numbersIn(s.dataSet.Origin ?? '0 0 0', 3, 'ImageData / Origin');
  const spacing = numbersIn(s.dataSet.Spacing ?? '1 1 1', 3, 'ImageData / Spacing');
  const turn = numbersIn(s.dataSet.Direction ?? '1 0 0 0 1 0 0 0 1', 9, 'ImageData / Direction');
  return latticePoints(dims, (i, j, k, out, at) => {
    const a = (extent[0] + i) * spacing[0];
    const b = (extent[2] + j) * spacing[1];
    const c = (extent[4] + k) * spacing[2];
    for (let n = 0; n < 3; n++)
      out[at + n] = origin[n] + turn[3 * n] * a + turn[3 * n + 1] * b + turn[3 * n + 2] * c;
  });
}

/** Points of a lattice, i fastest; `place` writes the three coordinates at `at`. */
export function latticePoints(
  dims: readonly number[],
  place: (i: number, j: number, k: number, out: Float64Array, at: number) => void,
): Float64Array {
  const out = new Float64Array(3 * countByRule(dims[0] * dims[1] * dims[2], 'points of the grid'));
  let at = 0;
  for (let k = 0; k < dims[2]; k++)
    for (let j = 0; j < dims[1]; j++) for (let i = 0; i < dims[0]; i++, at += 3) place(i, j, k, out, at);
  return out;
}

function numbersIn(text: string | undefined, count: number, where: string): number[] {
  const out = (text ?? '').trim().split(/\s+/).map(Number);
  if (out.length === count && out.every(Number.isFinite)) return out;
  throw new ReadError(
    `"${text ?? ''}" should be ${count} numbers`,
    where,
    'The file is damaged; write it again.',
  );
}
