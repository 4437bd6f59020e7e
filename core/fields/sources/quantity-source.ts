import type { NumberArray } from '../../model/arrays.ts';
import type { FieldLocation, MeshField } from '../../model/field.ts';
import type { Mesh } from '../../model/mesh.ts';
import type { ArrayRef, RunDescription, RunField, RunPart, StoredMesh } from '../../model/run.ts';
import type { FieldStatistics } from '../../model/statistics.ts';

/** A quantity that is read, and of which step when not of the one on show. */
export interface FieldNeed {
  /** Key of a quantity; its beginning says which source gives it. */
  field: string;
  step?: number | null;
}

/**
 * Where the numbers of a quantity come from at a part: plain data that can be sent to whoever computes. The same id on
 * the same mesh means the same numbers.
 */
export interface FieldOrigin {
  /** The source that computes it. */
  source: string;
  id: string;
  location: FieldLocation;
  components: number;
  axial: boolean;
  /** Stored arrays it is made from. */
  arrays: readonly ArrayRef[];
  /** Other quantities it is made from. */
  of: readonly FieldOrigin[];
  /** Meshes of other parts that it looks at; places count as on its own. */
  meshes?: readonly StoredMesh[];
  /** Where the quantities it is made from lie, when that is another mesh than its own. */
  elsewhere?: { part: string; origin: readonly [number, number, number]; mesh: StoredMesh };
  /** What else its source must know. */
  options?: unknown;
}

/** A part at the step it is shown at; parts whose steps are alike may share what they say of them. */
export interface PartAtStep {
  run: RunDescription;
  part: RunPart;
  /** From 0, among those of the run. */
  step: number;
  /** How far on from there to the next step, from 0 to below 1. */
  onward?: number;
  /** What swinging quantities are turned by, in radians, as e^(iωt) turns; nothing by itself. */
  turn?: number;
}

/** What a source may look at while it computes. */
export interface SourceInput {
  mesh: Mesh;
  /** Added to mesh coordinates to get those of the files. */
  origin: readonly [number, number, number];
  part: string;
  arrays: readonly NumberArray[];
  of: readonly MeshField[];
  meshes: readonly Mesh[];
}

/** Takes what a quantity is made from one after the other, in its order, so that never all of it is there at once. */
export interface Folding {
  add(values: MeshField, index: number): void;
  end(): ArrayLike<number>;
}

/** Finds other quantities; sources that are made from others ask it. */
export interface QuantityFinder {
  field(key: string, run: RunDescription): RunField | null;
  origin(need: FieldNeed, at: PartAtStep): FieldOrigin | null;
  /** What the run lacks for a quantity, in words behind "the run has no"; null when it has it. */
  lacking(key: string, run: RunDescription): string | null;
  /** Why a part does not have it at a step, in a sentence; null when it has it, and where nothing is known of that. */
  absent(need: FieldNeed, at: PartAtStep): string | null;
  /** Whether operations make it together with their shapes, so that no part has it. */
  comesWithShapes(key: string): boolean;
}

/**
 * A kind of quantities a layer can be coloured by or an operation can read. Its file is the only place that knows how
 * their keys begin.
 */
export interface QuantitySource {
  id: string;
  /** How the keys begin, up to their colon. */
  prefixes: readonly string[];
  /** Whether one of them may be shown to a newcomer who did not ask for it. */
  usual: boolean;
  /** Whether the values of one mesh may differ from step to step. */
  changes: boolean;
  /** Between two steps it is what lies between its values there; others are made of what is between. */
  betweenSteps?: true;
  /** Whether it looks at the mesh, beside arrays and other quantities. */
  needsMesh: boolean;
  /** Operations make its quantities together with their shapes; no part has them. */
  comesWithShapes?: boolean;
  /** Quantities of the run that are stored nowhere and are offered. */
  offers(run: RunDescription): RunField[];
  /** A quantity by the rest of its key, whether it is offered or not; null when the run does not have it. */
  field(name: string, prefix: string, run: RunDescription, find: QuantityFinder): RunField | null;
  /** What the run lacks for a quantity, in words behind "the run has no"; null when it has it. */
  lacking(name: string, prefix: string, run: RunDescription, find: QuantityFinder): string | null;
  /** What is wrong with it, in a sentence, where that says more than what the run lacks. */
  trouble?(name: string, prefix: string, run: RunDescription, find: QuantityFinder): string | null;
  /** Where the numbers of a part come from; null when the part does not have them. */
  origin(
    need: FieldNeed,
    name: string,
    prefix: string,
    at: PartAtStep,
    find: QuantityFinder,
  ): FieldOrigin | null;
  /** Why a part does not have at a step what the run has, in a sentence. */
  absent?(need: FieldNeed, name: string, prefix: string, at: PartAtStep, find: QuantityFinder): string | null;
  /** Whether a quantity changes with the place in the cycle that a scene is shown at. */
  followsCycle?(name: string, prefix: string): boolean;
  /** The range over the whole cycle of one that does. */
  overTheCycle?(origin: FieldOrigin, input: SourceInput): FieldStatistics;
  /** For what is made from very much: takes it one by one in place of `compute`. */
  folding?(origin: FieldOrigin): Folding;
  /** The numbers: `components` for each point or cell of the mesh. */
  compute(origin: FieldOrigin, input: SourceInput): ArrayLike<number>;
}

/** A quantity that no file states, before its range is known. */
export function madeField(
  run: RunDescription,
  given: Pick<RunField, 'key' | 'name' | 'location' | 'components'> & Partial<RunField>,
): RunField {
  const range = Object.hasOwn(run.measured, given.key) ? run.measured[given.key] : null;
  const nothing = { min: Infinity, max: -Infinity, sum: 0, count: 0, nanCount: 0 };
  const isVector = given.components === 2 || given.components === 3;
  return {
    unit: null,
    role: 'other',
    pair: null,
    ...given,
    perStep: range?.perStep ?? [],
    overall: range?.overall ?? {
      components: Array.from({ length: given.components }, () => nothing),
      magnitude: isVector ? nothing : null,
    },
  };
}
