import { buildBlocks, type CellBlocks } from '../model/blocks.ts';
import { cellCount, type Mesh, meshDimension, pointCount } from '../model/mesh.ts';
import { compose, identityRecipe, type Recipe } from '../model/recipe.ts';
import type { OperationResult } from './operation.ts';
import { operationById } from './registry.ts';

/** One step of a layer's chain, as the scene document stores it. */
export interface ChainStep {
  op: string;
  options?: unknown;
}

/** A mesh with its blocks kept, so that moving a section does not build them again. */
export class ChainSource {
  private made: CellBlocks | null = null;
  constructor(
    readonly mesh: Mesh,
    readonly origin: readonly [number, number, number],
  ) {}
  blocks = (): CellBlocks => (this.made ??= buildBlocks(this.mesh));
}

/**
 * Runs a chain and leaves only what can be drawn: whatever is still a volume at the end is shown by its surface.
 * The recipe leads from the result to the source mesh.
 */
export function runChain(source: ChainSource, chain: ChainStep[]): OperationResult {
  let mesh = source.mesh;
  let input = source;
  let recipe: Recipe | null = null;
  const apply = (op: string, options: unknown): void => {
    const operation = operationById(op);
    const result = operation.run(input, operation.schema.parse(options));
    recipe = recipe ? compose(recipe, result.recipe) : result.recipe;
    mesh = result.mesh;
    input = new ChainSource(mesh, source.origin);
  };
  for (const step of chain) apply(step.op, step.options);
  if (meshDimension(mesh.types) === 3 || recipe === null) apply('surface', {});
  return { mesh, recipe: recipe ?? identityRecipe(pointCount(mesh), cellCount(mesh)) };
}
