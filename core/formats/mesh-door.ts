import { cellTypes, POLYHEDRON } from '../model/cell-types.ts';
import { checkCells } from '../model/mesh.ts';
import { ReadError } from '../model/read-error.ts';
import type { Findings } from './findings.ts';
import type { RawMesh } from './format.ts';

/**
 * What every reader passes its mesh through: nodes point at points, cells have the nodes their type asks for, faces
 * of polyhedra are whole. Unusual things are noted, wrong things are refused.
 *
 * @throws ReadError naming the first entry that breaks a rule
 */
export function admitMesh(mesh: RawMesh, findings: Findings): RawMesh {
  const { points, types, offsets, connectivity } = mesh;
  const n = points.length / 3;
  for (let i = 0; i < connectivity.length; i++) {
    if (connectivity[i] >= n) {
      throw new ReadError(
        `node index ${connectivity[i] | 0} is out of range: the mesh has ${n} points`,
        `Cells / connectivity, entry ${i}`,
        'The file is inconsistent; write it again from the solver.',
      );
    }
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

function noteUnusual(mesh: RawMesh, findings: Findings): void {
  const isQuadratic = Uint8Array.from({ length: 256 }, (_, id) =>
    Number(cellTypes.get(id)?.quadratic ?? false),
  );
  for (let c = 0; c < mesh.types.length; c++) {
    if (isQuadratic[mesh.types[c]] === 0) continue;
    findings.add('quadratic cells are drawn with straight edges for now');
    break;
  }
  let bad = 0;
  for (let i = 0; i < mesh.points.length; i++) if (mesh.points[i] - mesh.points[i] !== 0) bad++;
  if (bad > 0) findings.add(`${bad} coordinates are not finite numbers`);
}
