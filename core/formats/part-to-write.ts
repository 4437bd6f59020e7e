import type { RawMesh } from './format.ts';
import type { FieldToWrite } from './vtk-xml/vtk-xml-write.ts';

/** One part at one step, with its fields, on the way out. */
export interface PartToWrite {
  name: string;
  mesh: RawMesh;
  fields: FieldToWrite[];
}

/** Everything of one step that goes into one file. */
export interface StepToWrite {
  time: number | null;
  units: { length?: string; time?: string };
  parts: PartToWrite[];
}
