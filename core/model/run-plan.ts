import type { TableReading } from './table-reading.ts';

/** One state of one file: which part it is, which partition of it, and which step of the file. */
export interface PlannedFile {
  path: string;
  /** Null takes the names of the parts from the file. */
  part: string | null;
  piece: number | null;
  step: number;
  /** Unit of its lengths, said by hand against what it states. */
  lengthUnit?: string;
}

export interface PlannedStep {
  /** From a collection, the file, its name or the hand; null when only reading tells. */
  time: number | null;
  files: PlannedFile[];
}

/** How the files of a run stand to each other. */
export type Arrangement = 'steps' | 'parts' | 'pieces' | 'steps of pieces' | 'runs';

/** A run proposed from files: which file is which step, part and partition. */
export interface RunPlan {
  name: string;
  steps: PlannedStep[];
  warnings: string[];
  /** Set when a file that lists others is the source. */
  collection: string | null;
  arrangement: Arrangement;
  /** Quantities whose components are kept as scalars of their own; nothing said joins all. */
  apart?: string[];
  /** How its tables are read; null where there are none. */
  reading: TableReading | null;
  /** Tables kept beside the parts, as histories. */
  tables: string[];
  /** Files of fields without a mesh, for the steps of this run in order. */
  fieldFiles: string[];
  pictures: string[];
  /** Names and values, as pairs: their order tells what was chosen and what came of it, which records do not keep everywhere. */
  parameters: [name: string, value: number | string][];
}

export const emptyPlan = (name: string): RunPlan => ({
  name,
  steps: [],
  warnings: [],
  collection: null,
  arrangement: 'steps',
  reading: null,
  tables: [],
  fieldFiles: [],
  pictures: [],
  parameters: [],
});
