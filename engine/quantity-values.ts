import { computeQuantity, needsMesh, quantityRange } from '#core/fields/quantity-sources.ts';
import type { FieldOrigin, SourceInput } from '#core/fields/sources/quantity-source.ts';
import type { MeshField } from '#core/model/field.ts';
import type { Mesh } from '#core/model/mesh.ts';
import type { ArrayRef } from '#core/model/run.ts';
import type { FieldStatistics } from '#core/model/statistics.ts';
import type { ArraySource } from './array-source.ts';

/** The part a quantity is computed on. */
export interface ValuesOn {
  part: string;
  origin: readonly [number, number, number];
  /** Only asked when the quantity looks at it. */
  mesh(): Promise<Mesh>;
}

/** Every stored array a quantity is made from, for itself or for those it is made from. */
export function* arraysOfOrigin(origin: FieldOrigin): Generator<ArrayRef> {
  yield* origin.arrays;
  for (const inner of origin.of) yield* arraysOfOrigin(inner);
}

/** The one way from where a quantity comes from to its numbers. */
export async function quantityValues(
  origin: FieldOrigin,
  on: ValuesOn,
  arrays: ArraySource,
): Promise<MeshField> {
  const { location, components, axial, id } = origin;
  const data = computeQuantity(origin, await inputOf(origin, on, arrays));
  return { location, components, axial, id, data };
}

/** The range of a quantity on one mesh; see `quantityRange` of core. */
export const rangeOnMesh = async (
  key: string,
  origin: FieldOrigin,
  on: ValuesOn,
  arrays: ArraySource,
): Promise<FieldStatistics> => quantityRange(key, origin, await inputOf(origin, on, arrays));

/** What a quantity is computed from. */
async function inputOf(origin: FieldOrigin, on: ValuesOn, arrays: ArraySource): Promise<SourceInput> {
  const of = await Promise.all(origin.of.map((inner) => quantityValues(inner, on, arrays)));
  return {
    mesh: needsMesh(origin) ? await on.mesh() : noMesh,
    origin: on.origin,
    part: on.part,
    arrays: await Promise.all(origin.arrays.map((ref) => arrays.get(ref))),
    of,
  };
}

/** For quantities that do not look at it. */
const noMesh: Mesh = {
  points: new Float32Array(0),
  types: new Uint8Array(0),
  offsets: new Uint32Array(1),
  connectivity: new Uint32Array(0),
};
