import type { FieldLocation } from '../formats/format.ts';
import type { FieldStatistics } from '../measure/statistics.ts';
import { type Bounds, emptyBounds, joinBounds } from './mesh.ts';
import type { FieldRole } from './roles.ts';

/** Number types of stored arrays. */
export type ArrayType = 'i8' | 'u8' | 'i16' | 'u16' | 'i32' | 'u32' | 'f32' | 'f64';

/** A stored array: the name of its content, and how to read it. Always little-endian. */
export interface ArrayRef {
  hash: string;
  type: ArrayType;
  length: number;
}

/** A mesh in the store; points are relative to the origin of the run. */
export interface StoredMesh {
  points: ArrayRef;
  types: ArrayRef;
  offsets: ArrayRef;
  connectivity: ArrayRef;
  pointCount: number;
  cellCount: number;
  cellsByType: Record<string, number>;
  dimension: number;
  /** In the coordinates of the files. */
  bounds: Bounds;
}

/** What a part holds at one step; fields by key, see `fieldKey`. */
export interface PartStep {
  mesh: number;
  fields: Record<string, ArrayRef>;
}

export interface RunPart {
  name: string;
  kind: 'mesh';
  meshes: StoredMesh[];
  /** One entry for each step of the run; null where the part is absent. */
  steps: (PartStep | null)[];
}

export interface RunField {
  key: string;
  name: string;
  location: FieldLocation;
  components: number;
  unit: string | null;
  role: FieldRole;
  /** Over all parts: of each step, and of all steps together. */
  perStep: (FieldStatistics | null)[];
  overall: FieldStatistics;
}

export interface RunStep {
  index: number;
  time: number;
}

/** One finished solver result, as the store holds it. */
export interface RunDescription {
  name: string;
  dimension: number;
  /** Added to every stored coordinate to get the coordinate of the files. */
  origin: [number, number, number];
  timeUnit: string | null;
  lengthUnit: string | null;
  parts: RunPart[];
  steps: RunStep[];
  fields: RunField[];
  warnings: string[];
  /** Names of the files it was read from. */
  sources: string[];
}

export const fieldKey = (location: FieldLocation, name: string): string => `${location}:${name}`;

export function fieldByKey(run: RunDescription, key: string): RunField | null {
  return run.fields.find((f) => f.key === key) ?? null;
}

/** Bounds over all steps of a part, in the coordinates of the files. */
export const partBounds = (part: RunPart): Bounds =>
  part.meshes.map((m) => m.bounds).reduce(joinBounds, emptyBounds());

/** Bounds over all parts and steps; a unit box when there is nothing. */
export function runBounds(run: RunDescription): Bounds {
  const b = run.parts.map(partBounds).reduce(joinBounds, emptyBounds());
  return Number.isFinite(b[0]) ? b : [0, 1, 0, 1, 0, 1];
}

const makers = {
  i8: Int8Array,
  u8: Uint8Array,
  i16: Int16Array,
  u16: Uint16Array,
  i32: Int32Array,
  u32: Uint32Array,
  f32: Float32Array,
  f64: Float64Array,
} as const;

/** Looks at stored bytes as numbers. The bytes must start at a multiple of the number's size. */
export function viewArray(type: ArrayType, buffer: ArrayBufferLike, byteOffset = 0, length?: number) {
  return new makers[type](buffer as ArrayBuffer, byteOffset, length);
}

export function arrayTypeOf(array: object): ArrayType {
  const found = (Object.entries(makers) as [ArrayType, unknown][]).find(
    ([, Maker]) => array.constructor === Maker,
  );
  if (!found) throw new Error('not a number array');
  return found[0];
}
