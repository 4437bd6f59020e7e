import type { FieldsOnMesh } from '../../fields/fields-on-mesh.ts';
import type { FieldNeed } from '../../fields/sources/quantity-source.ts';
import type { Phrase, PhraseSetting } from '../../language/phrase.ts';
import type { CellBlocks } from '../../model/blocks.ts';
import type { FieldLocation } from '../../model/field.ts';
import type { Bounds, Mesh } from '../../model/mesh.ts';
import type { Quantity } from '../../model/quantity.ts';
import type { Gather, Recipe } from '../../model/recipe.ts';
import type { z } from '../../model/schema.ts';
import type { ValueGrid } from '../../model/value-grid.ts';

/** A mesh on its way through a chain. What costs time is made when first asked for, and kept. */
export interface OperationInput extends FieldsOnMesh {
  readonly dimension: number;
  blocks(): CellBlocks;
  /** Lowest and highest value in each block, two numbers a block. */
  blockRanges(values: ArrayLike<number>): Float32Array;
  /** The outer faces of volume cells; the mesh itself where there are none. */
  outer(): OperationInput;
  /** One number per point (cell fields are averaged to points), or null. */
  scalar(need: FieldNeed, component: number | 'magnitude'): ArrayLike<number> | null;
  /** Where a result came from, step by step, for operations that run others. */
  derive(result: OperationResult): OperationInput;
}

/** What an operation has to say about what it did; counts of several parts add up. */
export interface OperationReport {
  /** What was kept of how many. */
  kept?: number;
  of?: number;
  what?: 'cells' | 'points';
  /** Cells left out because a value in them is not a number. */
  missing?: number;
  /** Where there would have been something, when there was nothing. */
  within?: { low: number; high: number; of: string; unit: 'length' | 'field' | null };
  /** Cells without volume or turned inside out. */
  broken?: number;
  /** Worst difference of a resampled value, and the range it is a part of. */
  error?: { worst: number; mean: number; cells: number };
  /** The part lacks the field. */
  lacking?: string;
}

/** New geometry and the recipe that leads every point and cell back to the input. */
export interface OperationResult {
  mesh: Mesh;
  /** Null where points and cells are those of the input, one by one. */
  recipe: Recipe | null;
  /** For averages: fields of one kind now lie on the other, through this gather. */
  moved?: { from: FieldLocation; gather: Gather };
  report?: OperationReport | null;
  /** Values written on lines: at which point, and the value. */
  labels?: { point: number; value: number }[];
  grid?: ValueGrid;
  /** Faces that meet at a smaller angle are shaded as one, in degrees; for what is smooth by nature. */
  crease?: number;
}

/** What an operation may know when it proposes its options or speaks of them. */
export interface OperationSetting extends PhraseSetting {
  /** In the coordinates of the files. */
  bounds: Bounds;
  dimension: number;
  /** Every field of the run. */
  fields: readonly { key: string; name: string; components: number }[];
  /** What the layer is coloured by, or what a newcomer most likely wants to see. */
  preferred: Quantity | null;
  /** The first displacement of the run, for deforming. */
  displacement: Quantity | null;
  /** Boundaries of the bands or ticks of the colour scale of the layer. */
  levels: readonly number[];
  steps: number;
  /** Names of the part sets. */
  sets: readonly string[];
}

/** How the interface edits one option. `when` hides what has no meaning yet. */
export type OptionControl<O> = {
  key: keyof O & string;
  label: string;
  when?(options: O): boolean;
} & (
  | {
      kind: 'number';
      unit?: 'length' | 'angle' | 'percent' | 'field';
      range?(o: O, s: OperationSetting): [number, number];
      whole?: boolean;
    }
  | { kind: 'choice'; choices: { value: unknown; label: string }[] }
  | { kind: 'tick' }
  /** A plane: the key is its normal, `offset` its distance. */
  | { kind: 'plane'; offset: keyof O & string }
  | { kind: 'place' }
  | { kind: 'direction' }
  /** The key is the field, `component` its component. */
  | { kind: 'quantity'; component: keyof O & string; vectors?: boolean }
  | { kind: 'numbers' }
  | { kind: 'condition' }
  /** A step of the run, or null for the one on show. */
  | { kind: 'step' }
  | { kind: 'curve' }
  /** Two numbers as the ends of a range of the quantity. */
  | { kind: 'span'; high: keyof O & string }
);

/** Something to take hold of on the stage. */
export type Handle<O> =
  | { kind: 'plane'; normal: keyof O & string; offset: keyof O & string }
  | { kind: 'place'; key: keyof O & string }
  | { kind: 'radius'; centre: keyof O & string; key: keyof O & string };

/**
 * One step of a chain. Its file holds all there is to it: options with their schema, defaults, the phrase that says
 * and reads them, the controls that edit them, and the computation.
 */
export interface Operation<Options> {
  id: string;
  /** How a new line of this kind is offered, for example `Section`. */
  name: string;
  /** What it does, in a few words for the chooser. */
  purpose: string;
  /** Form of its options; absent for the first. */
  version?: number;
  /** Steps from an older form of the options to the next: `migrations[n]` takes form n to n + 1. */
  migrations?: Record<number, (old: Record<string, unknown>) => Record<string, unknown>>;
  schema: z.ZodType<Options>;
  defaults(setting: OperationSetting): Options;
  /** Words before the name of the source: `Section of`. */
  opening: string;
  /** How it follows on another operation: `, its section`. */
  joining: string;
  /** Words after the name of the source: ` at z = 0.40 m`. */
  phrase: Phrase<Options>;
  /** A whole sentence of its own that is understood too; never said. */
  shorthand?: Phrase<Options>;
  controls: OptionControl<Options>[];
  handles?(options: Options): Handle<Options>[];
  /** `faces`: of a body it takes the outer faces. */
  on?: 'faces';
  /** Dimension of what it makes of cells of a dimension. */
  gives(dimension: number): number;
  /** Whether it can be used on a run of this dimension at all. */
  fits?(setting: OperationSetting): boolean;
  /** The fields it reads. */
  needs?(options: Options): FieldNeed[];
  /** Settles what depends on the run or the colour scale, before it runs. */
  settle?(options: Options, setting: OperationSetting): Options;
  run(input: OperationInput, options: Options): OperationResult;
  /**
   * The outer faces of the result, when they are had with less work than from the result itself.
   */
  outer?(input: OperationInput, options: Options): OperationInput[] | null;
}
