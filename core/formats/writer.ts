import { cellTypes } from '../model/cell-types.ts';
import { runChain, sourceOf } from '../ops/chain.ts';
import type { PartToWrite, StepToWrite } from './part-to-write.ts';
import type { FieldToWrite } from './vtk-xml-write.ts';
import { writeVtp, writeVtu } from './vtk-xml-write.ts';
import { writeCsv } from './write-csv.ts';
import { writeGlb } from './write-glb.ts';
import { writeObj } from './write-obj.ts';
import { writePly } from './write-ply.ts';
import { writeStl } from './write-stl.ts';
import { writeXyz } from './write-xyz.ts';

export interface FileWriter {
  id: string;
  name: string;
  extension: string;
  /** Whether several parts fit into one file; otherwise there is a file for each. */
  manyParts: boolean;
  write(step: StepToWrite): Uint8Array | Promise<Uint8Array>;
}

/** The only part, for formats that hold just one. */
const only = (step: StepToWrite): PartToWrite => step.parts[0];

/** Every format that can be written. A new one is a file beside this and a line here. */
export const writers: readonly FileWriter[] = [
  {
    id: 'vtu',
    name: 'VTK XML unstructured grid',
    extension: 'vtu',
    manyParts: false,
    write: (step) => writeVtu(only(step).mesh, only(step).fields, step.time, step.units),
  },
  {
    id: 'vtp',
    name: 'VTK XML poly data',
    extension: 'vtp',
    manyParts: false,
    write: (step) => {
      const { mesh, fields } = surfaceOf(only(step));
      return writeVtp(mesh, fields, step.time, step.units);
    },
  },
  {
    id: 'stl',
    name: 'STL surface',
    extension: 'stl',
    manyParts: true,
    write: (s) => writeStl(s.parts.map(surfaceOf)),
  },
  {
    id: 'ply',
    name: 'PLY polygon file',
    extension: 'ply',
    manyParts: false,
    write: (s) => writePly(surfaceOf(only(s))),
  },
  {
    id: 'obj',
    name: 'OBJ surface',
    extension: 'obj',
    manyParts: true,
    write: (s) => writeObj(s.parts.map(surfaceOf)),
  },
  {
    id: 'glb',
    name: 'GLB surface',
    extension: 'glb',
    manyParts: true,
    write: (s) => writeGlb(s.parts.map(surfaceOf)),
  },
  { id: 'csv', name: 'table of points', extension: 'csv', manyParts: false, write: (s) => writeCsv(only(s)) },
  {
    id: 'xyz',
    name: 'extended XYZ atoms',
    extension: 'xyz',
    manyParts: false,
    write: (s) => writeXyz(only(s), s.time),
  },
];

/** The surface of a part as it would be drawn, with its fields following; surfaces stay as they are. */
export function surfaceOf(part: PartToWrite): PartToWrite {
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
