import type { ArrayRef, PartStep, RunDescription, RunField, RunPart } from '../../model/run.ts';

/** A quantity that is read, and of which step when not of the one on show. */
export interface FieldNeed {
  /** Key of a quantity; its beginning says which source gives it. */
  field: string;
  step?: number | null;
}

/** Where the numbers of a quantity come from: a stored array, the cells of a set of the files, or the mesh itself. */
export type FieldOrigin =
  | { kind: 'array'; array: ArrayRef; location: 'point' | 'cell'; components: number; axial: boolean }
  | { kind: 'cells'; cells: ArrayRef | 'all' | 'none' }
  | { kind: 'measure'; measure: string };

/** A part at the step it is shown at. */
export interface PartAtStep {
  run: RunDescription;
  part: RunPart;
  shown: PartStep;
}

/**
 * A kind of quantities a layer can be coloured by or an operation can read. Its file is the only place that knows how
 * their keys begin.
 */
export interface QuantitySource {
  /** How the keys begin, up to their colon. */
  prefixes: readonly string[];
  /** Whether one of them may be shown to a newcomer who did not ask for it. */
  usual: boolean;
  /** Whether the values of one mesh may differ from step to step. */
  changes: boolean;
  /** Quantities of the run that are stored nowhere. */
  offers(run: RunDescription): RunField[];
  /** What the run lacks for a quantity, in words behind "the run has no"; null when it has it. */
  lacking(name: string, prefix: string, run: RunDescription): string | null;
  /** Where the numbers of a part come from; null when the part does not have them. */
  origin(need: FieldNeed, name: string, at: PartAtStep): FieldOrigin | null;
}
