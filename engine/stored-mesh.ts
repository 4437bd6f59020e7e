import type { Mesh } from '#core/model/mesh.ts';
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
  const placed = towards ? mixed(points, await arrays.get(towards.points), towards.share) : points;
  return { points: placed, types, offsets, connectivity, polyhedra } as Mesh;
}

/** Points on their way from one place to another. */
function mixed(from: ArrayLike<number>, to: ArrayLike<number>, share: number): Float32Array {
  const out = new Float32Array(from.length);
  for (let i = 0; i < out.length; i++) out[i] = from[i] + share * (to[i] - from[i]);
  return out;
}
