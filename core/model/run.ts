import type { FieldHeader, FieldLocation, PartKind } from './field.ts';
import { type Bounds, emptyBounds, joinBounds } from './mesh.ts';
import type { FieldPair, FieldRole } from './roles.ts';
import type { RotatingFrame } from './rotating-frame.ts';
import type { RunPlan } from './run-plan.ts';
import type { FieldStatistics, Statistics } from './statistics.ts';

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
  /** Faces of polyhedral cells, where there are any. */
  faces: ArrayRef | null;
  faceStarts: ArrayRef | null;
  pointCount: number;
  cellCount: number;
  cellsByType: Record<string, number>;
  dimension: number;
  /** In the coordinates of the files. */
  bounds: Bounds;
  /** Never stored: on the way between two steps where its points are at the next, and how much of the way is behind. */
  towards?: { points: ArrayRef; share: number };
}

/** What a part holds at one step; fields by key, see `fieldKey`. */
export interface PartStep {
  mesh: number;
  fields: Record<string, ArrayRef>;
}

export interface RunPart {
  name: string;
  kind: PartKind | 'picture';
  meshes: StoredMesh[];
  /** Stated by hand: its velocity is relative to this frame. */
  frame: RotatingFrame | null;
  /** The bytes of a picture, with their kind. */
  picture: { type: string; bytes: ArrayRef } | null;
  /** One entry for each step of the run; null where the part is absent. */
  steps: (PartStep | null)[];
}

/** Particles, atoms, and meshes of nothing but points. */
export const isLonePoints = (part: RunPart): boolean =>
  part.kind === 'particles' ||
  part.kind === 'atoms' ||
  (part.kind === 'mesh' && part.meshes.length > 0 && part.meshes.every((m) => m.dimension === 0));

export interface RunField {
  key: string;
  name: string;
  location: FieldLocation;
  components: number;
  unit: string | null;
  /** Names of the scalars of the files it was put together from. */
  joinedFrom?: string[];
  /** Its six components are xx yy zz xy yz xz of a symmetric tensor, as the file says. */
  tensor?: boolean;
  role: FieldRole;
  /** What its values stand for, where they are numbers of something. */
  names?: readonly { value: number; name: string }[];
  /** The other half of a complex quantity. */
  pair: FieldPair | null;
  /** Over all parts: of each step, and of all steps together. */
  perStep: (FieldStatistics | null)[];
  overall: FieldStatistics;
  /** Of what is computed: what is taken for granted because a unit is not known. */
  unsure?: string;
  /** A few values far beyond all others are to be expected: ranges leave them out at first. */
  hasExtremes?: boolean;
}

/** What the steps of a run are. */
export const stepKinds = ['time', 'load case', 'mode', 'frequency', 'frame'] as const;
export type StepKind = (typeof stepKinds)[number];

export interface RunStep {
  index: number;
  /** Of a mode or a frequency the frequency, of a load case or a frame its place in order. */
  time: number;
  kind: StepKind;
  /** Among those of its kind, from 1, or as the file numbers it. */
  number: number;
}

/** A named subset of a run: whole parts, or some cells of parts. */
export interface PartSet {
  name: string;
  parts: { part: string; cells: ArrayRef | null; count: number }[];
}

export interface RunTable {
  name: string;
  rows: number;
  /** Index of the column that holds the time. */
  time: number | null;
  columns: {
    name: string;
    unit: string | null;
    values: ArrayRef;
    first: number | null;
    last: number | null;
    statistics: Statistics;
  }[];
}

/** Where a run was read from, and what of it was taken: enough to read it again. */
export interface RunSource {
  plan: RunPlan;
  /** Where each named file lies. */
  paths: Record<string, string>;
  choices: ImportChoices;
  /** Size and time of change of each file when it was read. */
  stamps: Record<string, string>;
  /** Fields the files hold and that were left out. */
  leftOut: FieldHeader[];
}

/** What the person decides before an import. Nothing stated takes everything. */
export interface ImportChoices {
  name?: string;
  timeUnit?: string | null;
  lengthUnit?: string | null;
  /** Units set by hand, by field key. */
  units?: Record<string, string | null>;
  /** Keys of the fields to keep. */
  fields?: string[] | null;
  /** Names of the parts to keep. */
  parts?: string[] | null;
  steps?: { from: number; to: number; every: number } | null;
  /** What the steps are, where the files do not say it or say it wrongly. */
  stepKind?: StepKind | null;
  /** Rotating frames of parts whose velocity is relative. */
  frames?: Record<string, RotatingFrame>;
}

/** The range of a quantity that no file states, over the whole run; null where there is nothing of it. */
export interface MeasuredRange {
  perStep: (FieldStatistics | null)[];
  overall: FieldStatistics | null;
}

/** What a sentence asks of a run, at each step; null where there is no answer. */
export interface MeasuredNumber {
  unit: string | null;
  /** One number, or three of a vector. */
  components: 1 | 3;
  perStep: (number | number[] | null)[];
  /** Why there is no answer at any step. */
  trouble?: string;
}

/** One finished solver result, as the store holds it. */
export interface RunDescription {
  /** Form of this description; see `run-migrations.ts`. */
  version: number;
  name: string;
  dimension: number;
  /** Added to every stored coordinate to get the coordinate of the files. */
  origin: [number, number, number];
  timeUnit: string | null;
  lengthUnit: string | null;
  parts: RunPart[];
  steps: RunStep[];
  fields: RunField[];
  sets: PartSet[];
  tables: RunTable[];
  /** Inputs and results of the run as a whole. */
  parameters: Record<string, number | string>;
  /** Ranges that were asked for and computed whole, by key of the quantity. */
  measured: Record<string, MeasuredRange>;
  /** Evenly spaced quantiles over the whole run that were asked for, by quantity; see `quantityKey`. */
  shares?: Record<string, number[]>;
  /** Numbers that formulas use and that were asked for, by the sentence. */
  numbers?: Record<string, MeasuredNumber>;
  /** Other runs that formulas look at, by name, while they are open; never stored. */
  others?: Record<string, RunDescription | { trouble: string }>;
  warnings: string[];
  /** What it lacks for the job, and what should be stated by hand. */
  notes: string[];
  /** Names of the files it was read from. */
  sources: string[];
  source: RunSource | null;
}

export const fieldKey = (location: FieldLocation, name: string): string => `${location}:${name}`;

export function fieldByKey(run: RunDescription, key: string): RunField | null {
  return run.fields.find((f) => f.key === key) ?? null;
}

/** Evenly spaced quantiles of a quantity over the whole run; null while they are not known. */
export const sharesOf = ({ shares }: RunDescription, quantity: string): readonly number[] | null =>
  shares && Object.hasOwn(shares, quantity) ? shares[quantity] : null;

/** Bounds over all steps of a part, in the coordinates of the files. */
export const partBounds = (part: RunPart): Bounds =>
  part.meshes.map((m) => m.bounds).reduce(joinBounds, emptyBounds());

/** Every stored array of a run. */
export function* arraysOfRun(run: RunDescription): Generator<ArrayRef> {
  for (const part of run.parts) {
    for (const m of part.meshes) yield* arraysOfMesh(m);
    for (const step of part.steps) yield* Object.values(step?.fields ?? {});
    if (part.picture) yield part.picture.bytes;
  }
  for (const set of run.sets) for (const { cells } of set.parts) if (cells) yield cells;
  for (const table of run.tables) for (const column of table.columns) yield column.values;
}

export const arraysOfMesh = (m: StoredMesh): ArrayRef[] =>
  [m.points, m.types, m.offsets, m.connectivity, m.faces, m.faceStarts, m.towards?.points].filter(
    (a) => a != null,
  );

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
