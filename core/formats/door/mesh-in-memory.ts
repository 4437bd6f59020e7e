import type { NumberArray } from '../../model/arrays.ts';
import { GrowingUint32 } from '../../model/arrays.ts';
import { TRIANGLE } from '../../model/cell-types.ts';
import type { FieldHeader } from '../../model/field.ts';
import { uniformCells } from '../cells/grid-cells.ts';
import type { OpenedMesh, RawMesh } from '../format.ts';
import type { Findings } from './findings.ts';
import { admitMesh } from './mesh-door.ts';

/** A mesh that is in memory already, with its fields. */
export function meshInMemory(
  raw: RawMesh,
  fields: { header: FieldHeader; data: NumberArray }[],
  findings: Findings,
): OpenedMesh {
  const mesh = admitMesh(raw, findings);
  return {
    points: mesh.points.length / 3,
    cells: mesh.types.length,
    fields: fields.map((f) => f.header),
    meshKey: 'whole',
    readMesh: () => mesh,
    readField: (index) => fields[index].data,
  };
}

/** Triangles given by corners; corners with equal coordinates become one point. */
export function weld(corners: Float32Array | Float64Array): RawMesh {
  const n = corners.length / 3;
  let size = 16;
  while (size < 2 * n) size *= 2;
  const slots = new Int32Array(size).fill(-1);
  const unique = new GrowingUint32(n || 1);
  const connectivity = new Uint32Array(n);
  const words = new Uint32Array(6);
  const numbers = new Float64Array(words.buffer);
  for (let i = 0; i < n; i++) {
    let h = 2166136261;
    for (let k = 0; k < 3; k++) numbers[k] = corners[3 * i + k] + 0;
    for (let k = 0; k < 6; k++) h = Math.imul(h ^ words[k], 16777619) ^ (h >>> 15);
    let s = h & (size - 1);
    for (; slots[s] >= 0; s = (s + 1) & (size - 1)) {
      const q = 3 * unique.data[slots[s]];
      if (
        corners[q] === corners[3 * i] &&
        corners[q + 1] === corners[3 * i + 1] &&
        corners[q + 2] === corners[3 * i + 2]
      )
        break;
    }
    if (slots[s] < 0) {
      slots[s] = unique.length;
      unique.push(i);
    }
    connectivity[i] = slots[s];
  }
  const points = new (corners.constructor as Float64ArrayConstructor)(3 * unique.length);
  for (let u = 0; u < unique.length; u++)
    for (let k = 0; k < 3; k++) points[3 * u + k] = corners[3 * unique.data[u] + k];
  return { points, ...uniformCells(TRIANGLE, 3, connectivity) };
}
