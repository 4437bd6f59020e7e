import { boundsDiagonal, boundsOf } from '../../model/mesh.ts';
import type { OperationInput } from '../chain/operation.ts';
import { placeNumbers } from './place-index.ts';
import { subsetCells } from './subset-cells.ts';

/**
 * Leaves out faces that stand there twice: where the outer faces of two copies meet, the inside of the joined body
 * lies between them.
 */
export function withoutTwins(piece: OperationInput): OperationInput {
  const { offsets, connectivity, types, points } = piece.mesh;
  const places = placeNumbers(points, 1e-5 * (boundsDiagonal(boundsOf(points)) || 1));
  const first = new Map<string, number>();
  const twin = new Uint8Array(types.length);
  let twins = 0;
  for (let c = 0; c < types.length; c++) {
    const key = connectivity
      .slice(offsets[c], offsets[c + 1])
      .map((p) => places[p])
      .sort()
      .join();
    const other = first.get(key);
    if (other === undefined) first.set(key, c);
    else {
      twin[c] = twin[other] = 1;
      twins++;
    }
  }
  if (twins === 0) return piece;
  const rest: number[] = [];
  for (let c = 0; c < types.length; c++) if (!twin[c]) rest.push(c);
  return piece.derive(subsetCells(piece.mesh, Uint32Array.from(rest)));
}
