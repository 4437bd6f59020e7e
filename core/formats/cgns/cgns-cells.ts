import { POLYGON } from '../../model/cell-types.ts';
import { ReadError } from '../../model/read-error.ts';
import { checkStarts } from '../bytes/counts.ts';
import { type Cells, uniformCells } from '../cells/grid-cells.ts';
import { verticalFirst } from '../door/component-names.ts';

/** Element types of the CGNS standard: cell type and number of nodes. */
const elements: Record<number, [type: number, nodes: number]> = {
  2: [1, 1],
  3: [3, 2],
  4: [21, 3],
  5: [5, 3],
  6: [22, 6],
  7: [9, 4],
  8: [23, 8],
  9: [28, 9],
  10: [10, 4],
  11: [24, 10],
  12: [14, 5],
  14: [13, 6],
  15: [26, 15],
  17: [12, 8],
  18: [25, 20],
  21: [27, 13],
};
export const MIXED = 20;
export const NGON = 22;
export const NFACE = 23;

const unknown = (element: number, where: string): ReadError =>
  new ReadError(`elements of type ${element} are not read`, where, 'Write linear or quadratic elements.');

/** Cells of a section, nodes counted from 0. */
export function sectionCells(
  element: number,
  table: ArrayLike<number>,
  starts: ArrayLike<number> | null,
  where: string,
): Cells {
  if (element === MIXED) return mixedCells(table, where);
  if (element === NGON) return polygonCells(table, starts);
  const known = elements[element];
  if (!known) throw unknown(element, where);
  const [type, width] = known;
  const order = verticalFirst[type];
  const nodes = new Uint32Array(table.length - (table.length % width));
  for (let i = 0; i < nodes.length; i += width)
    for (let k = 0; k < width; k++) nodes[i + k] = table[i + (order ? order[k] : k)] - 1;
  return uniformCells(type, width, nodes);
}

function mixedCells(table: ArrayLike<number>, where: string): Cells {
  const types: number[] = [];
  const nodes: number[] = [];
  const ends: number[] = [0];
  for (let at = 0; at < table.length; ) {
    const known = elements[table[at]];
    if (!known) throw unknown(table[at], where);
    const [type, width] = known;
    if (at + 1 + width > table.length)
      throw new ReadError(
        'the list of elements ends too early',
        where,
        'The file is damaged; write it again.',
      );
    const order = verticalFirst[type];
    for (let k = 0; k < width; k++) nodes.push(table[at + 1 + (order ? order[k] : k)] - 1);
    types.push(type);
    ends.push(nodes.length);
    at += 1 + width;
  }
  return {
    types: Uint8Array.from(types),
    offsets: Uint32Array.from(ends),
    connectivity: Uint32Array.from(nodes),
  };
}

/** Polygons; without offsets each begins with its number of nodes, as older files have it. */
function polygonCells(table: ArrayLike<number>, starts: ArrayLike<number> | null): Cells {
  const nodes: number[] = [];
  const ends: number[] = [0];
  if (starts) {
    checkStarts(starts, table.length, 'ElementStartOffset');
    for (let c = 0; c + 1 < starts.length; c++) {
      for (let i = starts[c]; i < starts[c + 1]; i++) nodes.push(table[i] - 1);
      ends.push(nodes.length);
    }
  } else {
    for (let at = 0; at < table.length; ) {
      const n = table[at++];
      for (let k = 0; k < n && at < table.length; k++) nodes.push(table[at++] - 1);
      ends.push(nodes.length);
    }
  }
  return {
    types: new Uint8Array(ends.length - 1).fill(POLYGON),
    offsets: Uint32Array.from(ends),
    connectivity: Uint32Array.from(nodes),
  };
}
