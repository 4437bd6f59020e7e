import { writeXyz } from './atoms/write-xyz.ts';
import type { PartToWrite, StepToWrite } from './part-to-write.ts';
import { writeGlb } from './surfaces/write-glb.ts';
import { writeObj } from './surfaces/write-obj.ts';
import { writePly } from './surfaces/write-ply.ts';
import { writeStl } from './surfaces/write-stl.ts';
import { writeCsv } from './tables/write-csv.ts';
import { writeVtp, writeVtu } from './vtk-xml/vtk-xml-write.ts';

export interface FileWriter {
  id: string;
  name: string;
  extension: string;
  /** Whether several parts fit into one file; otherwise there is a file for each. */
  manyParts: boolean;
  /** Whether it holds faces only: volumes are given to it as their surface. */
  faces?: boolean;
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
    faces: true,
    write: (step) => writeVtp(only(step).mesh, only(step).fields, step.time, step.units),
  },
  {
    id: 'stl',
    name: 'STL surface',
    extension: 'stl',
    manyParts: true,
    faces: true,
    write: (s) => writeStl(s.parts),
  },
  {
    id: 'ply',
    name: 'PLY polygon file',
    extension: 'ply',
    manyParts: false,
    faces: true,
    write: (s) => writePly(only(s)),
  },
  {
    id: 'obj',
    name: 'OBJ surface',
    extension: 'obj',
    manyParts: true,
    faces: true,
    write: (s) => writeObj(s.parts),
  },
  {
    id: 'glb',
    name: 'GLB surface',
    extension: 'glb',
    manyParts: true,
    faces: true,
    write: (s) => writeGlb(s.parts),
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
