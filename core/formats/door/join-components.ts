import type { NumberArray } from '../../model/arrays.ts';
import type { FieldHeader } from '../../model/field.ts';
import type { OpenedMesh } from '../format.ts';
import { interleaved } from '../tables/table-points.ts';
import { componentNames } from './component-names.ts';

/**
 * A mesh whose scalars that are components of one quantity are that quantity: `vx vy vz` is a vector, whatever the
 * format. The values of the components stay as they are.
 *
 * @param apart names of quantities whose components are to be kept as scalars
 */
export function joinComponents(mesh: OpenedMesh, apart: readonly string[] = []): OpenedMesh {
  const fields: { header: FieldHeader; read: () => NumberArray }[] = [];
  const joined = new Map<number, { header: FieldHeader; columns: number[] } | null>();
  for (const location of ['point', 'cell'] as const) {
    const scalars = [...mesh.fields.keys()].filter(
      (i) => mesh.fields[i].location === location && mesh.fields[i].components === 1,
    );
    const taken = new Set(mesh.fields.filter((f) => f.location === location).map((f) => f.name));
    for (const { name, columns, tensor } of componentNames(scalars.map((i) => mesh.fields[i].name))) {
      if (columns.length < 2 || apart.includes(name) || taken.has(name)) continue;
      const list = columns.map((c) => scalars[c]);
      const [unit, ...others] = list.map((i) => mesh.fields[i].unit);
      const header: FieldHeader = {
        name,
        location,
        components: list.length,
        unit: others.every((u) => u === unit) ? unit : null,
        joinedFrom: list.map((i) => mesh.fields[i].name),
        ...(tensor && { tensor }),
      };
      for (const i of list) joined.set(i, null);
      joined.set(Math.min(...list), { header, columns: list });
    }
  }
  if (joined.size === 0) return mesh;
  for (const [i, header] of mesh.fields.entries()) {
    const vector = joined.get(i);
    if (vector === undefined) fields.push({ header, read: () => mesh.readField(i) });
    else if (vector)
      fields.push({
        header: vector.header,
        read: () => interleaved(vector.columns.map((c) => mesh.readField(c))),
      });
  }
  // Counts and meshes may be read only when they are asked for: they stay with the mesh.
  return Object.create(mesh, {
    fields: { value: fields.map((f) => f.header), enumerable: true },
    readField: { value: (index: number) => fields[index].read() },
  }) as OpenedMesh;
}
