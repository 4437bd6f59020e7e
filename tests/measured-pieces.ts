import { isLacking } from '#core/measure/measure.ts';
import type { AnyMeasure } from '#core/measure/registry.ts';
import type { MeshField } from '#core/model/field.ts';
import type { Mesh } from '#core/model/mesh.ts';
import { runChain, sourceOf } from '#core/ops/chain/chain.ts';
import type { Workpiece } from '#core/ops/chain/workpiece.ts';
import { hexBlockBetween, mixedBlock, tetraBlock } from './made-solids.ts';

type Numbers = (x: number, y: number, z: number) => number | number[];

export const onPoints = (mesh: Mesh, of: Numbers): MeshField => {
  const each = Array.from({ length: mesh.points.length / 3 }, (_, i) =>
    [of(...(mesh.points.slice(3 * i, 3 * i + 3) as unknown as [number, number, number]))].flat(),
  );
  return {
    location: 'point',
    components: each[0].length,
    axial: false,
    data: Float32Array.from(each.flat()),
  };
};

export const onCells = (data: ArrayLike<number>): MeshField => ({
  location: 'cell',
  components: 1,
  axial: false,
  data: Float32Array.from(data),
});

export const piece = (mesh: Mesh, fields: Record<string, MeshField> = {}, origin = [0, 0, 0]): Workpiece =>
  sourceOf(mesh, {
    origin: origin as [number, number, number],
    part: 'oven',
    fields: new Map(Object.entries(fields)),
  });

/** The answer for one part, or what it lacks. */
// biome-ignore lint/suspicious/noExplicitAny: either of the two, as the test at hand has it
export function asked(measure: AnyMeasure, on: Workpiece | Workpiece[], options: object = {}): any {
  const whole = measure.schema.parse({ field: 'f', component: 0, ...options });
  const parts = [on].flat().map((one) => measure.ofPart(one, whole));
  const lacking = parts.find(isLacking);
  return (
    lacking ??
    measure.answer(
      parts.reduce((a, b) => measure.join(a, b, whole)),
      whole,
    )
  );
}

export const section = (on: Workpiece, normal: number[], offset: number): Workpiece =>
  runChain(on, [{ op: 'section', options: { normal, offset, locked: false } }]) as Workpiece;

/** The cube from -1 to 1 in three ways. */
export const blocks = {
  hexahedra: hexBlockBetween(4),
  tetrahedra: tetraBlock(3),
  'mixed cells': mixedBlock(4),
};
