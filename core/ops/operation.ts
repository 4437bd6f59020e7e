import type { z } from 'zod';
import type { CellBlocks } from '../model/blocks.ts';
import type { Bounds, Mesh } from '../model/mesh.ts';
import type { Recipe } from '../model/recipe.ts';
import type { SentencePiece } from '../scene/sentence.ts';

/** A mesh on its way through a chain, with its blocks made once when first asked for. */
export interface OperationInput {
  mesh: Mesh;
  blocks(): CellBlocks;
  /** Added to mesh coordinates to get those of the files. */
  origin: readonly [number, number, number];
}

/** New geometry and the recipe that leads every vertex and cell back to the input. */
export interface OperationResult {
  mesh: Mesh;
  recipe: Recipe;
}

/** What an operation may know when it proposes its options or speaks of them. */
export interface OperationSetting {
  /** In the coordinates of the files. */
  bounds: Bounds;
  dimension: number;
  lengthUnit: string | null;
}

/**
 * One step of a chain. Its file holds all there is to it: options with their schema, defaults, the sentence, and
 * the computation.
 */
export interface Operation<Options> {
  id: string;
  /** How a new line of this kind is offered, for example `Section`. */
  name: string;
  /** What it does, in a few words for the chooser. */
  purpose: string;
  schema: z.ZodType<Options>;
  defaults(setting: OperationSetting): Options;
  /** Words before the name of the source: "Section of". */
  opening: string;
  /** Words after the name of the source: " at z = 0.40 m". `step` is its place in the chain. */
  sentence(options: Options, setting: OperationSetting, step: number): SentencePiece[];
  run(input: OperationInput, options: Options): OperationResult;
}
