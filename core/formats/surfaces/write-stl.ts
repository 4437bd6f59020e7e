import { trianglesOf } from '../cells/triangles.ts';
import type { PartToWrite } from '../part-to-write.ts';

/** Writes binary STL: all surfaces as one list of triangles with their normals. */
export function writeStl(parts: Pick<PartToWrite, 'mesh'>[]): Uint8Array {
  const lists = parts.map(({ mesh }) => ({ points: mesh.points, corners: trianglesOf(mesh).corners }));
  const count = lists.reduce((n, l) => n + l.corners.length / 3, 0);
  const out = new Uint8Array(84 + 50 * count);
  const view = new DataView(out.buffer);
  out.set(new TextEncoder().encode('binary surface, lengths as in the results'));
  view.setUint32(80, count, true);
  let at = 84;
  for (const { points: p, corners } of lists) {
    for (let t = 0; t < corners.length; t += 3) {
      const [a, b, c] = [3 * corners[t], 3 * corners[t + 1], 3 * corners[t + 2]];
      const u = [0, 1, 2].map((k) => p[b + k] - p[a + k]);
      const v = [0, 1, 2].map((k) => p[c + k] - p[a + k]);
      const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
      const length = Math.hypot(...n) || 1;
      for (let k = 0; k < 3; k++) view.setFloat32(at + 4 * k, n[k] / length, true);
      for (const [i, corner] of [a, b, c].entries())
        for (let k = 0; k < 3; k++) view.setFloat32(at + 12 + 12 * i + 4 * k, p[corner + k], true);
      at += 50;
    }
  }
  return out;
}
