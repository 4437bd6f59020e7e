import type { NumberArray } from '../../model/arrays.ts';
import { POLYHEDRON } from '../../model/cell-types.ts';
import { CutOffError, ReadError } from '../../model/read-error.ts';
import { asFloats, asUint32, joinArrays } from '../bytes/binary-numbers.ts';
import type { Findings } from '../door/findings.ts';
import { admitMesh } from '../door/mesh-door.ts';
import type { FileFormat, OpenedMesh, RawMesh, RawPolyhedra } from '../format.ts';
import type { ArrayTag } from './vtk-xml-arrays.ts';
import {
  countOf,
  fieldHeaders,
  fieldTag,
  isVtkXml,
  openSerialFile,
  type Piece,
  type Structure,
} from './vtk-xml-structure.ts';

/**
 * VTK XML unstructured grid. Several pieces in one file become one mesh.
 * Ascii, base64 and appended arrays, both header widths, both byte orders, zlib blocks, polyhedra.
 */
export const vtkXmlUnstructured: FileFormat = {
  id: 'vtu',
  name: 'VTK XML unstructured grid',
  extensions: ['.vtu'],
  detect: (head) => isVtkXml(head, ['UnstructuredGrid']),
  open: (source, tools) => openSerialFile(source, tools, openedMesh),
};

function openedMesh(s: Structure, findings: Findings): OpenedMesh {
  const sizes = s.pieces.map((p) => ({
    points: countOf(p.attributes.NumberOfPoints, 'Piece / NumberOfPoints', s.fileBytes),
    cells: countOf(p.attributes.NumberOfCells, 'Piece / NumberOfCells', s.fileBytes),
  }));
  const points = sizes.reduce((n, p) => n + p.points, 0);
  const cells = sizes.reduce((n, p) => n + p.cells, 0);
  const fields = fieldHeaders(s.pieces, findings);
  if (s.pieces.length > 1) findings.add(`${s.pieces.length} pieces in one file were put together`);
  if (cells === 0) findings.add('the mesh has no cells');
  return {
    points,
    cells,
    fields,
    meshKey: null,
    readMesh: () => admitMesh(readMesh(s, sizes), findings),
    readField(index) {
      const field = fields[index];
      const parts = s.pieces.map((p, i) =>
        s.read(
          fieldTag(p, field),
          (field.location === 'point' ? sizes[i].points : sizes[i].cells) * field.components,
        ),
      );
      return joinArrays(parts);
    },
  };
}

interface PieceSize {
  points: number;
  cells: number;
}

function readMesh(s: Structure, sizes: PieceSize[]): RawMesh {
  const cellTotal = sizes.reduce((n, p) => n + p.cells, 0);
  const coordinates: NumberArray[] = [];
  // Reading the types first proves the announced number of cells before memory is taken for it.
  const joinedTypes = joinArrays(s.pieces.map((p, i) => s.read(named(p, 'types'), sizes[i].cells)));
  const types = joinedTypes instanceof Uint8Array ? joinedTypes : Uint8Array.from(joinedTypes);
  const offsets = new Uint32Array(cellTotal + 1);
  const connections: Uint32Array[] = [];
  const polyhedra = types.includes(POLYHEDRON) ? new PolyhedraOfPieces(cellTotal) : null;
  let pointBase = 0;
  let cellBase = 0;
  let connectionBase = 0;
  for (const [i, piece] of s.pieces.entries()) {
    const size = sizes[i];
    const points = piece.arrays.Points?.[0];
    if (!points) throw new CutOffError('the mesh has no points', 'Points');
    coordinates.push(s.read({ ...points, where: 'Points' }, size.points * 3));
    const ends = s.read(named(piece, 'offsets'), size.cells);
    if (connectionBase === 0 && (ends instanceof Int32Array || ends instanceof Uint32Array)) {
      // A negative offset turns into a huge one, which the check of the cells finds.
      offsets.set(ends, cellBase + 1);
    } else {
      for (let c = 0; c < size.cells; c++) {
        offsets[cellBase + c + 1] = whole(ends[c], 'Cells / offsets', c) + connectionBase;
      }
    }
    const nodes = s.read(named(piece, 'connectivity'), null);
    connections.push(shiftedNodes(nodes, pointBase, size.points));
    polyhedra?.add(s, piece, size, pointBase);
    pointBase += size.points;
    cellBase += size.cells;
    connectionBase += nodes.length;
  }
  return {
    points: asFloats(joinArrays(coordinates)),
    types,
    offsets,
    connectivity: joinArrays(connections) as Uint32Array,
    polyhedra: polyhedra?.finish() ?? null,
  };
}

function named(piece: Piece, name: string): ArrayTag {
  const found = piece.arrays.Cells?.find((t) => t.name === name);
  if (found) return found;
  throw new CutOffError(`the mesh has no array "${name}"`, 'Cells');
}

/** Nodes of a piece as unsigned numbers, moved behind the points of the pieces before; without a copy where none is needed. */
function shiftedNodes(nodes: NumberArray, base: number, points: number): Uint32Array {
  if (base === 0 && (nodes instanceof Int32Array || nodes instanceof Uint32Array)) return asUint32(nodes);
  const out = new Uint32Array(nodes.length);
  for (let i = 0; i < nodes.length; i++) {
    if (!(nodes[i] >= 0 && nodes[i] < points)) {
      throw new ReadError(
        `node index ${nodes[i]} is out of range: the mesh has ${points} points`,
        `Cells / connectivity, entry ${i}`,
        'The file is inconsistent; write it again from the solver.',
      );
    }
    out[i] = nodes[i] + base;
  }
  return out;
}

/** Gathers the face lists of polyhedra, which a file gives by the end of each cell's list or -1 for other cells. */
class PolyhedraOfPieces {
  private readonly starts: Uint32Array;
  private readonly faces: Uint32Array[] = [];
  private total = 0;
  private cell = 0;

  constructor(cells: number) {
    this.starts = new Uint32Array(cells + 1);
  }

  add(s: Structure, piece: Piece, size: PieceSize, pointBase: number): void {
    if (!piece.arrays.Cells.some((t) => t.name === 'faces')) {
      for (let c = 0; c < size.cells; c++) this.starts[++this.cell] = this.total;
      return;
    }
    const stream = s.read(named(piece, 'faces'), null);
    const ends = s.read(named(piece, 'faceoffsets'), size.cells);
    const out: number[] = [];
    let at = 0;
    for (let c = 0; c < size.cells; c++) {
      if (ends[c] > 0) {
        const count = stream[at++];
        for (let f = 0; f < count && at < ends[c]; f++) {
          const n = stream[at++];
          out.push(n);
          for (let k = 0; k < n && at < ends[c]; k++) out.push(stream[at++] + pointBase);
        }
        if (at !== ends[c]) {
          throw new ReadError(
            `the faces of cell ${c} end at ${at} instead of ${ends[c]}`,
            'Cells / faceoffsets',
            'The file is inconsistent; write it again from the solver.',
          );
        }
      }
      this.starts[++this.cell] = this.total + out.length;
    }
    this.faces.push(Uint32Array.from(out));
    this.total += out.length;
  }

  finish(): RawPolyhedra {
    return { faces: joinArrays(this.faces) as Uint32Array, starts: this.starts };
  }
}

function whole(value: number, where: string, entry: number): number {
  if (Number.isInteger(value) && value >= 0 && value <= 0xffffffff) return value;
  throw new ReadError(
    `${value} is not an offset`,
    `${where}, entry ${entry}`,
    'The file is damaged; write it again.',
  );
}
