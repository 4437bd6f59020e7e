import { awayFromMean, sumOfProducts, varies } from './sums.ts';

/** How far two quantities of runs go together, -1 to 1. */
export interface Correlation {
  /** Along a line (Pearson); null where one of them does not vary, or fewer than two runs have both. */
  linear: number | null;
  /** In their order (Spearman): whether one grows with the other, however. */
  ordered: number | null;
  /** Runs that have both. */
  runs: number;
}

export function correlationOf(a: readonly number[], b: readonly number[]): Correlation {
  const both = a.flatMap((v, i) => (Number.isFinite(v) && Number.isFinite(b[i]) ? [i] : []));
  const [x, y] = [a, b].map((of) => both.map((i) => of[i]));
  return { linear: linear(x, y), ordered: linear(ranks(x), ranks(y)), runs: both.length };
}

function linear(x: readonly number[], y: readonly number[]): number | null {
  if (!varies(x) || !varies(y)) return null;
  const [dx, dy] = [x, y].map(awayFromMean);
  return Math.min(
    1,
    Math.max(-1, sumOfProducts(dx, dy) / Math.sqrt(sumOfProducts(dx, dx) * sumOfProducts(dy, dy))),
  );
}

/** Places in their order, counted from 1; what is the same shares the mean of its places. */
function ranks(values: readonly number[]): number[] {
  const order = values.map((_, i) => i).sort((i, k) => values[i] - values[k]);
  const out = Array<number>(values.length);
  for (let first = 0; first < order.length; ) {
    let last = first;
    while (last + 1 < order.length && values[order[last + 1]] === values[order[first]]) last++;
    for (let n = first; n <= last; n++) out[order[n]] = (first + last) / 2 + 1;
    first = last + 1;
  }
  return out;
}
