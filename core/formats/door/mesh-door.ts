import { cellTypes, POLYHEDRON } from '../../model/cell-types.ts';
import { checkCells } from '../../model/mesh.ts';
import { ReadError } from '../../model/read-error.ts';
import type { RawMesh } from '../format.ts';
import type { Findings } from './findings.ts';

/**
 * What every reader passes its mesh through: nodes point at points, cells have the nodes their type asks for, faces
 * of polyhedra are whole. Unusual things are noted, wrong things are refused.
 *
 * @throws ReadError naming the first entry that breaks a rule
 */
export function admitMesh(mesh: RawMesh, findings: Findings): RawMesh {
  const { points, types, offsets, connectivity } = mesh;
  const n = Math.floor(points.length / 3);
  if (highest(connectivity) >= n && connectivity.length > 0) {
    const i = connectivity.findIndex((node) => node >= n);
    throw new ReadError(
      `node index ${connectivity[i] | 0} is out of range: the mesh has ${n} points`,
      `Cells / connectivity, entry ${i}`,
      'The file is inconsistent; write it again from the solver.',
    );
  }
  if (offsets.length !== types.length + 1) {
    throw new ReadError(
      `${types.length} cells need ${types.length + 1} offsets, not ${offsets.length}`,
      'Cells / offsets',
      'The file is inconsistent; write it again from the solver.',
    );
  }
  checkCells(mesh);
  if (mesh.polyhedra) checkPolyhedra(mesh, n);
  noteUnusual(mesh, findings);
  return mesh;
}

/** The highest entry; four at a time, for this runs over every node of every cell. */
function highest(list: Uint32Array): number {
  let a = 0;
  let b = 0;
  let c = 0;
  let d = 0;
  const whole = list.length & ~3;
  for (let i = 0; i < whole; i += 4) {
    if (list[i] > a) a = list[i];
    if (list[i + 1] > b) b = list[i + 1];
    if (list[i + 2] > c) c = list[i + 2];
    if (list[i + 3] > d) d = list[i + 3];
  }
  for (let i = whole; i < list.length; i++) if (list[i] > a) a = list[i];
  return Math.max(a, b, c, d);
}

function checkPolyhedra({ types, polyhedra }: RawMesh, points: number): void {
  const { faces, starts } = polyhedra!;
  for (let c = 0; c < types.length; c++) {
    if (types[c] !== POLYHEDRON) continue;
    let at = starts[c];
    const end = starts[c + 1];
    while (at < end) {
      const size = faces[at];
      const stop = at + 1 + size;
      if (size < 3 || stop > end || stop > faces.length) {
        throw new ReadError(
          `a face of ${size} nodes does not fit into cell ${c}`,
          `Cells / faces, entry ${at}`,
          'The file is inconsistent; write it again from the solver.',
        );
      }
      for (at++; at < stop; at++) {
        if (faces[at] >= points) {
          throw new ReadError(
            `node index ${faces[at] | 0} is out of range: the mesh has ${points} points`,
            `Cells / faces, entry ${at}`,
            'The file is inconsistent; write it again from the solver.',
          );
        }
      }
    }
  }
}

function noteUnusual({ types, points }: RawMesh, findings: Findings): void {
  const seen = new Uint8Array(256);
  for (let c = 0; c < types.length; c++) seen[types[c]] = 1;
  if (seen.some((there, id) => there === 1 && cellTypes.get(id)?.quadratic))
    findings.add('quadratic cells are drawn with straight edges for now');
  // A sum is finite only when all of it is; the count is made only when it is needed.
  let sum = 0;
  for (let i = 0; i < points.length; i++) sum += points[i] * 0;
  if (sum === 0) return;
  let bad = 0;
  for (let i = 0; i < points.length; i++) if (points[i] - points[i] !== 0) bad++;
  findings.add(`${bad} coordinates are not finite numbers`);
}
