import type { Findings } from './findings.ts';

/** Any numeric array a file can hold, in the type the file holds it in (64-bit integers become Float64). */
export type NumberArray =
  | Int8Array
  | Uint8Array
  | Int16Array
  | Uint16Array
  | Int32Array
  | Uint32Array
  | Float32Array
  | Float64Array;

export type FieldLocation = 'point' | 'cell';

/** A field as a file announces it, before its numbers are read. */
export interface FieldHeader {
  name: string;
  location: FieldLocation;
  components: number;
  unit: string | null;
}

/** A mesh with the coordinates in the precision of the file. */
export interface RawMesh {
  points: Float32Array | Float64Array;
  types: Uint8Array;
  offsets: Uint32Array;
  connectivity: Uint32Array;
}

/** A file whose structure is understood and whose arrays are read when asked for. */
export interface OpenedMesh {
  kind: 'mesh';
  points: number;
  cells: number;
  /** Time the file itself states, or null. */
  time: number | null;
  /** Units the file itself states for coordinates and time, or null. */
  lengthUnit: string | null;
  timeUnit: string | null;
  fields: FieldHeader[];
  readMesh(): RawMesh;
  /** Values of `fields[index]`, component fastest. */
  readField(index: number): NumberArray;
  findings: Findings;
}

/** A file that lists other files, by step and part. */
export interface OpenedCollection {
  kind: 'collection';
  entries: { time: number; part: string; file: string }[];
  findings: Findings;
}

/** What a host may do faster than portable code; the defaults of `portableTools` run anywhere. */
export interface ReadTools {
  /** Inflates one zlib stream that must give exactly `size` bytes. */
  inflate(data: Uint8Array, size: number): Uint8Array;
  /** Decodes base64 text without white space; damaged text throws a ReadError. */
  decodeBase64(text: Uint8Array): Uint8Array;
  /** First place of a byte at or after `from`, or -1. */
  find(bytes: Uint8Array, byte: number, from: number): number;
}

export interface FileFormat {
  id: string;
  name: string;
  /** Usual endings, with the dot, for file choosers only: detection goes by content. */
  extensions: string[];
  /** Looks at the first kilobytes of a file. */
  detect(head: Uint8Array): boolean;
  open(bytes: Uint8Array, tools: ReadTools): OpenedMesh | OpenedCollection;
}
