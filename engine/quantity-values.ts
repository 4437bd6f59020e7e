import { computeQuantity, foldingOf, needsMesh, quantityRange } from '#core/fields/quantity-sources.ts';
import type { FieldOrigin, SourceInput } from '#core/fields/sources/quantity-source.ts';
import type { MeshField } from '#core/model/field.ts';
import type { Mesh } from '#core/model/mesh.ts';
import { type ArrayRef, arraysOfMesh } from '#core/model/run.ts';
import { type FieldStatistics, fieldStatistics } from '#core/model/statistics.ts';
import type { ArraySource } from './array-source.ts';
import { readStoredMesh } from './stored-mesh.ts';

/** The part a quantity is computed on. */
export interface ValuesOn {
  part: string;
  origin: readonly [number, number, number];
  /** Only asked when the quantity looks at it. */
  mesh(): Promise<Mesh>;
}

/**
 * The stored arrays a quantity is made from, for itself or for those it is made from, as far as they are worth having ahead:
 * what takes very many one by one has none.
 */
export function* arraysOfOrigin(origin: FieldOrigin): Generator<ArrayRef> {
  if (foldingOf(origin)) return;
  yield* origin.arrays;
  for (const mesh of origin.meshes ?? []) yield* arraysOfMesh(mesh);
  for (const inner of origin.of) yield* arraysOfOrigin(inner);
}

/** The one way from where a quantity comes from to its numbers. */
export async function quantityValues(
  origin: FieldOrigin,
  on: ValuesOn,
  arrays: ArraySource,
): Promise<MeshField> {
  const { location, components, axial, id } = origin;
  const folding = foldingOf(origin);
  if (!folding) {
    const data = computeQuantity(origin, await inputOf(origin, on, arrays));
    return { location, components, axial, id, data };
  }
  for (const [i, inner] of origin.of.entries()) folding.add(await quantityValues(inner, on, arrays), i);
  return { location, components, axial, id, data: folding.end() };
}

/** The range of a quantity on one mesh; see `quantityRange` of core. */
export async function rangeOnMesh(
  key: string,
  origin: FieldOrigin,
  on: ValuesOn,
  arrays: ArraySource,
): Promise<FieldStatistics> {
  if (!foldingOf(origin)) return quantityRange(key, origin, await inputOf(origin, on, arrays));
  const { data, components } = await quantityValues(origin, on, arrays);
  return fieldStatistics(data, components);
}

/** Where what a quantity is made from is computed. */
const elsewhere = (origin: FieldOrigin, on: ValuesOn, arrays: ArraySource): ValuesOn =>
  origin.elsewhere
    ? {
        part: origin.elsewhere.part,
        origin: origin.elsewhere.origin,
        mesh: () => readStoredMesh(origin.elsewhere!.mesh, arrays),
      }
    : on;

/** What a quantity is computed from. */
async function inputOf(origin: FieldOrigin, on: ValuesOn, arrays: ArraySource): Promise<SourceInput> {
  const under = elsewhere(origin, on, arrays);
  const of = await Promise.all(origin.of.map((inner) => quantityValues(inner, under, arrays)));
  return {
    mesh: needsMesh(origin) ? await on.mesh() : noMesh,
    origin: on.origin,
    part: on.part,
    arrays: await Promise.all(origin.arrays.map((ref) => arrays.get(ref))),
    of,
    meshes: await Promise.all((origin.meshes ?? []).map((mesh) => readStoredMesh(mesh, arrays))),
  };
}

/** For quantities that do not look at it. */
const noMesh: Mesh = {
  points: new Float32Array(0),
  types: new Uint8Array(0),
  offsets: new Uint32Array(1),
  connectivity: new Uint32Array(0),
};
