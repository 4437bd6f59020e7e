import type { Mesh } from '#core/model/mesh.ts';
import { mixedArrays } from '#core/model/moment.ts';
import type { StoredMesh } from '#core/model/run.ts';
import type { ArraySource } from './array-source.ts';

/** Brings a mesh out of the store. */
export async function readStoredMesh(stored: StoredMesh, arrays: ArraySource): Promise<Mesh> {
  const [points, types, offsets, connectivity] = await Promise.all(
    [stored.points, stored.types, stored.offsets, stored.connectivity].map((ref) => arrays.get(ref)),
  );
  const polyhedra =
    stored.faces && stored.faceStarts
      ? { faces: await arrays.get(stored.faces), starts: await arrays.get(stored.faceStarts) }
      : null;
  const { towards } = stored;
  const placed = towards ? mixedArrays(points, await arrays.get(towards.points), towards.share) : points;
  return { points: placed, types, offsets, connectivity, polyhedra } as Mesh;
}
