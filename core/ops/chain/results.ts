import { pointCount } from '../../model/mesh.ts';
import { compose, copyOf } from '../../model/recipe.ts';
import type { Level } from '../kernels/levels.ts';
import type { OperationInput, OperationReport, OperationResult } from './operation.ts';

/** Nothing, with the reason. */
export const emptyResult = (report: OperationReport): OperationResult => ({
  mesh: {
    points: new Float32Array(0),
    types: new Uint8Array(0),
    offsets: new Uint32Array(1),
    connectivity: new Uint32Array(0),
  },
  recipe: { points: copyOf(new Uint32Array(0)), cells: copyOf(new Uint32Array(0)) },
  report,
});

/** `second` was made from `first`; the result leads to the input of `first`. */
export function followedBy(first: OperationResult, second: OperationResult): OperationResult {
  const [a, b] = [first.recipe, second.recipe];
  return {
    ...second,
    recipe: a && b ? { points: compose(a.points, b.points), cells: compose(a.cells, b.cells) } : (a ?? b),
    report: { ...first.report, ...second.report },
  };
}

/** Lowest and highest height of the points of a mesh: where a level would meet it. */
export function heightsOf(input: OperationInput, level: Level): [number, number] {
  let low = Infinity;
  let high = -Infinity;
  for (let i = 0; i < pointCount(input.mesh); i++) {
    const h = level.at(i);
    if (h < low) low = h;
    if (h > high) high = h;
  }
  return [low, high];
}
