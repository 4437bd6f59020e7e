import { LRUCache } from 'lru-cache';
import { needsMesh } from '#core/fields/quantity-sources.ts';
import type { FieldOrigin } from '#core/fields/sources/quantity-source.ts';
import type { MeshField } from '#core/model/field.ts';
import type { Mesh } from '#core/model/mesh.ts';
import type { StoredMesh } from '#core/model/run.ts';
import { joinMeshes } from '#core/ops/kernels/join-meshes.ts';
import type { ArraySource } from './array-source.ts';
import { quantityValues } from './quantity-values.ts';
import { meshKey } from './run-builder.ts';
import { readStoredMesh } from './stored-mesh.ts';

/** One part as a chain begins with it. */
export interface PartSource {
  part: string;
  mesh: StoredMesh;
  /** What is read of it, by `needName`; what it lacks is not there. */
  fields: Record<string, FieldOrigin>;
}

/** Several parts are taken as one mesh, one after the other. */
export const partsKey = (parts: readonly PartSource[]): string =>
  parts.length === 1
    ? meshKey(parts[0].mesh)
    : `together(${parts.map((p) => `${p.part}=${meshKey(p.mesh)}`).join()})`;

/** What a quantity is made from on all parts: the same key on the same meshes, the same numbers. */
export const fieldKeyOn = (parts: readonly PartSource[], name: string): string =>
  parts.map((p) => (Object.hasOwn(p.fields, name) ? p.fields[name].id : '')).join('+');

/** How many computed quantities, and meshes of several parts, are kept at most. */
const KEPT = 12;

/** Brings meshes and quantities of parts; of several as one, where a part without a quantity has no values. */
export class PartSources {
  private readonly computed = new LRUCache<string, MeshField>({ max: KEPT });
  private readonly meshes = new LRUCache<string, Mesh>({ max: KEPT });

  constructor(private readonly arrays: ArraySource) {}

  async mesh(parts: readonly PartSource[]): Promise<Mesh> {
    if (parts.length === 1) return readStoredMesh(parts[0].mesh, this.arrays);
    const key = partsKey(parts);
    const known = this.meshes.get(key);
    if (known) return known;
    const joined = joinMeshes(await Promise.all(parts.map((p) => readStoredMesh(p.mesh, this.arrays))));
    this.meshes.set(key, joined);
    return joined;
  }

  /** A quantity on all points or cells of the parts; null where none of them has it. */
  async values(
    parts: readonly PartSource[],
    name: string,
    origin: readonly [number, number, number],
  ): Promise<MeshField | null> {
    const each = await Promise.all(
      parts.map((p) => (Object.hasOwn(p.fields, name) ? this.ofPart(p, p.fields[name], origin) : null)),
    );
    if (parts.length === 1) return each[0];
    const first = each.find((f) => f !== null);
    if (!first) return null;
    const { location, components, axial } = first;
    const count = ({ mesh }: PartSource): number => (location === 'point' ? mesh.pointCount : mesh.cellCount);
    const data = new Float32Array(components * parts.reduce((n, p) => n + count(p), 0)).fill(Number.NaN);
    let at = 0;
    for (const [i, part] of parts.entries()) {
      const own = each[i];
      // The same quantity may lie on points of one part and on cells of another; then it counts for the first kind.
      if (own && own.location === location && own.components === components) data.set(own.data, at);
      at += components * count(part);
    }
    return { location, components, axial, data, id: fieldKeyOn(parts, name) };
  }

  /** What is only read is kept by those who read it; what is computed is kept here. */
  private async ofPart(
    { part, mesh }: PartSource,
    from: FieldOrigin,
    origin: readonly [number, number, number],
  ): Promise<MeshField> {
    const read = (): Promise<MeshField> =>
      quantityValues(from, { part, origin, mesh: () => readStoredMesh(mesh, this.arrays) }, this.arrays);
    if (!needsMesh(from) && from.of.length === 0) return read();
    const key = `${meshKey(mesh)}/${from.id}`;
    const known = this.computed.get(key);
    if (known) return known;
    const made = await read();
    this.computed.set(key, made);
    return made;
  }
}
