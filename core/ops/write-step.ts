import type { PartToWrite, StepToWrite } from '../formats/part-to-write.ts';
import type { FieldToWrite } from '../formats/vtk-xml/vtk-xml-write.ts';
import type { FileWriter } from '../formats/writer.ts';
import { cellTypes } from '../model/cell-types.ts';
import { runChain, sourceOf } from './chain/chain.ts';

/** One step as a file of a format; formats of faces get the surface of volumes. */
export const writeStep = (writer: FileWriter, step: StepToWrite): Uint8Array | Promise<Uint8Array> =>
  writer.write(writer.faces ? { ...step, parts: step.parts.map(surfaceOf) } : step);

/** The surface of a part as it would be drawn, with its fields following; surfaces stay as they are. */
function surfaceOf(part: PartToWrite): PartToWrite {
  const { mesh, fields } = part;
  const flat = mesh.types.every((t) => (cellTypes.get(t)?.dimension ?? 3) < 3);
  if (flat) return part;
  // Positions are gathered from the file's own, so that double precision survives.
  const source = sourceOf({ ...mesh, points: Float32Array.from(mesh.points) });
  const outer = runChain(source, []);
  const [points, cells] = (['point', 'cell'] as const).map((at) => outer.route(at).gather!.index);
  const gather = (
    data: FieldToWrite['data'],
    index: ArrayLike<number>,
    components: number,
  ): FieldToWrite['data'] => {
    const out = new (data.constructor as new (n: number) => FieldToWrite['data'])(index.length * components);
    for (let i = 0; i < index.length; i++)
      for (let k = 0; k < components; k++) out[i * components + k] = data[index[i] * components + k];
    return out;
  };
  return {
    ...part,
    mesh: { ...outer.mesh, points: gather(mesh.points, points, 3) as Float64Array },
    fields: fields.map((f) => ({
      ...f,
      data: gather(f.data, f.location === 'point' ? points : cells, f.components),
    })),
  };
}
