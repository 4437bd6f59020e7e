import { normalsAtPoints } from '../../fields/surfaces/outward-normals.ts';
import type { MeshField } from '../../model/field.ts';
import type { Mesh } from '../../model/mesh.ts';
import type { OperationInput } from '../chain/operation.ts';
import { HERE, MeshFlow } from './flow.ts';

/** So far off the wall, in parts of the size of the cell there, the flow is compared with that at the wall. */
const OFF_WALL = 0.2;

/** A change that is so small a part of the velocity is what single precision makes of none. */
const ROUNDING = 2 ** -20;

/** At each point of the walls how fast the velocity along them grows with the distance from them, in its unit by length. */
export function wallShear(input: OperationInput, walls: Mesh, field: MeshField): MeshField {
  const normals = normalsAtPoints(walls);
  const flow = new MeshFlow(input.mesh, input.blocks(), field);
  const n = walls.points.length / 3;
  const data = new Float32Array(3 * n).fill(Number.NaN);
  const [at, off] = [new Float64Array(3), new Float64Array(3)];
  for (let i = 0; i < n; i++) {
    const place = walls.points.subarray(3 * i, 3 * i + 3);
    const normal = normals.subarray(3 * i, 3 * i + 3);
    if (flow.at(place[0], place[1], place[2], 0, at) !== HERE) continue;
    const way = OFF_WALL * flow.reach();
    const [x, y, z] = [0, 1, 2].map((k) => place[k] - way * normal[k]);
    if (flow.at(x, y, z, 0, off) !== HERE) continue;
    const change = [0, 1, 2].map((k) => (off[k] - at[k]) / way);
    const across = change[0] * normal[0] + change[1] * normal[1] + change[2] * normal[2];
    const along = change.map((c, k) => c - across * normal[k]);
    const least = (ROUNDING * (Math.hypot(...off) + Math.hypot(...at))) / way;
    data.set(Math.hypot(...along) > least ? along : [0, 0, 0], 3 * i);
  }
  return { location: 'point', components: 3, axial: false, data };
}
