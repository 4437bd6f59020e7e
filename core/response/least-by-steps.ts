/** Steps are halved until they are this small. */
const SMALLEST = 1e-3;

/**
 * Where a function is least between bounds, found by trying steps along each axis and going on in the direction that
 * helped (Hooke and Jeeves 1961). It needs no slopes, and ends where no step of a thousandth helps.
 */
export function leastBySteps(
  of: (at: readonly number[]) => number,
  from: readonly number[],
  bounds: readonly (readonly [number, number])[],
): { at: number[]; value: number } {
  const within = (at: readonly number[]): number[] =>
    at.map((v, k) => Math.min(bounds[k][1], Math.max(bounds[k][0], v)));
  let best = { at: within(from), value: of(within(from)) };
  for (let step = 1; step >= SMALLEST; step /= 2) {
    let found = explored(best, step, of, within);
    while (found.value < best.value) {
      const onward = within(found.at.map((v, k) => 2 * v - best.at[k]));
      best = found;
      found = explored({ at: onward, value: of(onward) }, step, of, within);
      if (!(found.value < best.value)) found = explored(best, step, of, within);
    }
  }
  return best;
}

function explored(
  from: { at: number[]; value: number },
  step: number,
  of: (at: readonly number[]) => number,
  within: (at: readonly number[]) => number[],
): { at: number[]; value: number } {
  let best = from;
  for (let k = 0; k < from.at.length; k++)
    for (const by of [step, -step]) {
      const at = within(best.at.map((v, i) => (i === k ? v + by : v)));
      const value = of(at);
      if (value < best.value) {
        best = { at, value };
        break;
      }
    }
  return best;
}
