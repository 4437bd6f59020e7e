import type { NumberArray } from '../model/arrays.ts';
import type { FieldHeader, PartKind } from '../model/field.ts';
import type { StepKind } from '../model/run.ts';
import type { TableReading } from '../model/table-reading.ts';
import type { ByteSource } from './bytes/byte-source.ts';
import type { Findings } from './door/findings.ts';

/** The faces of polyhedral cells; see `Polyhedra` of the mesh model. */
export interface RawPolyhedra {
  faces: Uint32Array;
  starts: Uint32Array;
}

/** A mesh with the coordinates in the precision of the file. */
export interface RawMesh {
  points: Float32Array | Float64Array;
  types: Uint8Array;
  offsets: Uint32Array;
  connectivity: Uint32Array;
  polyhedra?: RawPolyhedra | null;
}

/** A named subset of the cells of a part. */
export interface CellGroup {
  name: string;
  cells: Uint32Array;
}

/** One part at one step: its structure is understood, its arrays are read when asked for. */
export interface OpenedMesh {
  points: number;
  cells: number;
  fields: FieldHeader[];
  /** Two states of one part with the same key have the same mesh; null when only reading can tell. */
  meshKey: string | null;
  readMesh(): RawMesh;
  /** Values of `fields[index]`, component fastest. */
  readField(index: number): NumberArray;
  /** Cell groups of the file beside its parts. */
  readGroups?(): CellGroup[];
}

export interface OpenedPart {
  /** Null when the file does not name it: then it is called after the file. */
  name: string | null;
  kind: PartKind;
  /** The state at a step of the file, or null where the part is absent. */
  at(step: number): OpenedMesh | null;
}

/** What a step is, as the file says it. */
export interface StepName {
  kind: StepKind;
  number: number | null;
}

/** A file (with the files beside it that belong to it) that holds parts at one or more steps. */
export interface OpenedRun {
  kind: 'run';
  /** Times of the steps; null where the file does not state it. */
  steps: (number | null)[];
  /** What each step is, with the number the file gives it; where nothing is said, they are times. */
  stepNames?: StepName[];
  parts: OpenedPart[];
  /** Units the file itself states for coordinates and time, or null. */
  lengthUnit: string | null;
  timeUnit: string | null;
  /** Single numbers the file states about the run as a whole, such as the speed of a fan. */
  facts: Record<string, number>;
  findings: Findings;
  /** Names of files beside this one that it reads, relative to it. */
  uses: string[];
  /** Groups of whole parts that the file names. */
  sets: { name: string; parts: string[] }[];
  /** What to call the run when the name of the file tells nothing. */
  title: string | null;
}

/** A file of fields without a mesh of its own, for the mesh of another file. */
export interface OpenedFields {
  kind: 'fields';
  steps: (number | null)[];
  /** Fields at a step; `points` or `cells` tells the size of the mesh they fit. */
  at(step: number): Omit<OpenedMesh, 'readMesh' | 'meshKey'>;
  findings: Findings;
}

export interface CollectionEntry {
  /** Null when the listed file itself must tell. */
  time: number | null;
  part: string;
  file: string;
  /** Number of the partition where several files make one part. */
  piece: number | null;
}

/** A file that lists other files, by step, part and partition. */
export interface OpenedCollection {
  kind: 'collection';
  entries: CollectionEntry[];
  findings: Findings;
}

export interface TableColumn {
  name: string;
  unit: string | null;
  /** Whether every filled entry is a number. */
  numeric: boolean;
}

/** Rows and columns of text and numbers, to be read as a history, as points, or as runs with parameters. */
export interface OpenedTable {
  kind: 'table';
  columns: TableColumn[];
  rows: number;
  /** The numbers of a column; NaN where the entry is empty or no number. */
  numbers(column: number): Float64Array;
  texts(column: number): string[];
  /** The first rows as they stand in the file. */
  preview(rows: number): string[][];
  guess: TableReading;
  /** Times of the steps it holds as points. */
  steps: (number | null)[];
  /** Of a table of runs: the result file and the parameters of each row. */
  runRows?(): { file: string; parameters: Record<string, number | string> }[];
  findings: Findings;
}

/** A picture to stand behind or under the model. */
export interface OpenedPicture {
  kind: 'picture';
  type: 'image/png' | 'image/jpeg';
  width: number;
  height: number;
  /** Where the corners stand: lower left, lower right, upper right, upper left. */
  corners: [number, number, number][];
  /** Names of files beside this one that place it. */
  uses: string[];
  findings: Findings;
}

export type Opened = OpenedRun | OpenedFields | OpenedCollection | OpenedTable | OpenedPicture;

/** Groups, arrays and attributes of a hierarchical file, as far as readers need them. */
export interface Hierarchy {
  /** Names within a group, in the order of the file; empty for an array or a missing path. */
  list(path: string): string[];
  kind(path: string): 'group' | 'array' | null;
  shape(path: string): number[];
  attribute(path: string, name: string): string | number | number[] | string[] | null;
  attributes(path: string): string[];
  /** All numbers of an array, or a slab of it: `[from, to]` for each axis. */
  numbers(path: string, slab?: [number, number][]): NumberArray;
  /** A text, or the letters of an array of letters as one text. */
  text(path: string): string;
  /** Texts of an array of letters, one for each entry but the last dimension. */
  texts(path: string): string[];
  /** Names of the dimensions of an array of a NetCDF-4 file; null for those without a name. */
  dimensions(path: string): (string | null)[];
}

/** What a host may do faster than portable code, and the files that lie around the one being read. */
export interface ReadTools {
  /** Inflates one zlib stream that must give exactly `size` bytes. */
  inflate(data: Uint8Array, size: number): Uint8Array;
  /** Decodes base64 text without white space; damaged text throws a ReadError. */
  decodeBase64(text: Uint8Array): Uint8Array;
  /** First place of a byte at or after `from`, or -1. */
  find(bytes: Uint8Array, byte: number, from: number): number;
  /** Opens an HDF5 file, this one or one beside it. */
  hierarchy(source: ByteSource): Promise<Hierarchy>;
  /** The name of the file being read, within what was dropped. */
  name: string;
  /** A file by its path relative to the one being read; null when it is not there. */
  beside(path: string): ByteSource | null;
  /** Names of the files and folders in a folder relative to the one being read. */
  listBeside(folder: string): string[];
}

export interface FileFormat {
  id: string;
  name: string;
  /** Usual endings, with the dot, for file choosers only: detection goes by content. */
  extensions: string[];
  /** Looks at the first kilobytes of a file; `name` may only break ties between texts of the same look. */
  detect(head: Uint8Array, name: string): boolean;
  /** Whether one file may hold several steps, so that it must be opened to plan a run. */
  manySteps?: boolean;
  /** Whether a file of this kind is only part of what another file leads to, and is no result by itself. */
  companion?: string;
  open(source: ByteSource, tools: ReadTools, reading?: TableReading): Opened | Promise<Opened>;
}
