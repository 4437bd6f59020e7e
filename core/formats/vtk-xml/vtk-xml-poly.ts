import { LINE, POLYGON, POLYLINE, QUAD, STRIP, TRIANGLE, VERTEX } from '../../model/cell-types.ts';
import { asFloats, asUint32, joinArrays } from '../bytes/binary-numbers.ts';
import { type Cells, joinCells } from '../cells/grid-cells.ts';
import type { Findings } from '../door/findings.ts';
import { admitMesh } from '../door/mesh-door.ts';
import type { FileFormat, OpenedMesh, RawMesh } from '../format.ts';
import {
  countOf,
  fieldHeaders,
  fieldTag,
  isVtkXml,
  openSerialFile,
  type Piece,
  type Structure,
} from './vtk-xml-structure.ts';

/** The lists of cells of poly data, in the order their cell fields follow. */
const lists = ['Verts', 'Lines', 'Strips', 'Polys'] as const;

/** VTK XML poly data: points, lines, strips and polygons. */
export const vtkXmlPoly: FileFormat = {
  id: 'vtp',
  name: 'VTK XML poly data',
  extensions: ['.vtp'],
  detect: (head) => isVtkXml(head, ['PolyData']),
  open: (source, tools) => openSerialFile(source, tools, openedMesh),
};

function openedMesh(s: Structure, findings: Findings): OpenedMesh {
  const count = (p: Piece, of: string): number =>
    countOf(p.attributes[`NumberOf${of}`] ?? '0', `Piece / NumberOf${of}`, s.fileBytes);
  const points = s.pieces.map((p) => count(p, 'Points'));
  const cells = s.pieces.map((p) => lists.reduce((n, l) => n + count(p, l), 0));
  const fields = fieldHeaders(s.pieces, findings);
  return {
    points: points.reduce((a, b) => a + b, 0),
    cells: cells.reduce((a, b) => a + b, 0),
    fields,
    meshKey: null,
    readMesh(): RawMesh {
      let base = 0;
      const all: Cells[] = [];
      const coordinates = s.pieces.map((piece, i) => {
        for (const list of lists) {
          const cellsOfList = readList(s, piece, list, count(piece, list));
          if (base > 0)
            for (let k = 0; k < cellsOfList.connectivity.length; k++) cellsOfList.connectivity[k] += base;
          all.push(cellsOfList);
        }
        base += points[i];
        const tag = piece.arrays.Points?.[0];
        return tag ? s.read({ ...tag, where: 'Points' }, points[i] * 3) : new Float32Array(0);
      });
      return admitMesh({ points: asFloats(joinArrays(coordinates)), ...joinCells(all) }, findings);
    },
    readField(index) {
      const f = fields[index];
      return joinArrays(
        s.pieces.map((p, i) =>
          s.read(fieldTag(p, f), (f.location === 'point' ? points[i] : cells[i]) * f.components),
        ),
      );
    },
  };
}

function readList(s: Structure, piece: Piece, list: (typeof lists)[number], cells: number): Cells {
  const tags = piece.arrays[list] ?? [];
  const ends = tags.find((t) => t.name === 'offsets');
  const nodes = tags.find((t) => t.name === 'connectivity');
  if (cells === 0 || !ends || !nodes) {
    return { types: new Uint8Array(0), offsets: new Uint32Array(1), connectivity: new Uint32Array(0) };
  }
  const offsets = new Uint32Array(cells + 1);
  offsets.set(s.read(ends, cells), 1);
  const types = new Uint8Array(cells);
  for (let c = 0; c < cells; c++) types[c] = polyType(list, offsets[c + 1] - offsets[c]);
  return { types, offsets, connectivity: asUint32(s.read(nodes, null)).slice() };
}

function polyType(list: (typeof lists)[number], nodes: number): number {
  if (list === 'Verts') return nodes === 1 ? VERTEX : 2;
  if (list === 'Lines') return nodes === 2 ? LINE : POLYLINE;
  if (list === 'Strips') return STRIP;
  return nodes === 3 ? TRIANGLE : nodes === 4 ? QUAD : POLYGON;
}
