import { CholeskyDecomposition, Matrix } from 'ml-matrix';
import { ReadError } from '../model/read-error.ts';
import { z } from '../model/schema.ts';
import { ensureFewEnough } from './few-enough.ts';
import { leastBySteps } from './least-by-steps.ts';
import type { Fitted, ResponseKind, Samples } from './response.ts';
import { sumOfProducts } from './sums.ts';

export interface GaussianOptions {
  /** Whether runs scatter: else it goes through every one of them. */
  scatter: boolean;
}

/** How far samples tell of each other along each input, and how much each scatters, as a share of the variance. */
export interface Correlations {
  lengths: readonly number[];
  scatter: number;
}

/** Inputs are two wide: what varies much faster than samples lie, or hardly at all, cannot be told. */
const LENGTHS = [0.05, 20] as const;
const SCATTER = [1e-8, 1] as const;
/** Keeps equations solvable where samples lie close together; far below what a picture shows. */
const LEAST_SCATTER = 1e-10;
/** How far samples tell of each other is found by so many of them: it takes the third power of their number, many times. */
const LOOKED_AT = 120;

/**
 * A Gaussian process with an unknown mean (kriging): the likeliest surface among those that change smoothly, and how far
 * off it may be. Correlations fall with the square of distances; how fast, along each input by itself, is what makes the
 * samples likeliest (Jones, Schonlau and Welch 1998, eq. 2 to 9). What it says without a sample: Dubrule 1983.
 */
export const gaussianProcess: ResponseKind<GaussianOptions> = {
  id: 'gaussian-process',
  name: 'Gaussian process',
  purpose: 'through or near every run, with how far off it may be between them',
  schema: z.object({ scatter: z.boolean() }),
  defaults: { scatter: false },
  fit(samples, options) {
    ensureFewEnough(samples.inputs.length);
    if (samples.inputs.length < 3)
      throw new ReadError(
        `${samples.inputs.length} runs do not tell how fast the output changes`,
        'the response',
        'Take at least three runs.',
      );
    return krige(samples, likeliest(thinnedOut(samples), options));
  },
};

/** As many samples as are looked at, evenly of all. */
function thinnedOut({ inputs, outputs }: Samples): Samples {
  const every = Math.max(1, inputs.length / LOOKED_AT);
  const kept = Array.from({ length: Math.floor(inputs.length / every) }, (_, i) => Math.floor(i * every));
  return { inputs: kept.map((i) => inputs[i]), outputs: kept.map((i) => outputs[i]) };
}

function likeliest(samples: Samples, { scatter }: GaussianOptions): Correlations {
  const asCorrelations = (logs: readonly number[]): Correlations => ({
    lengths: logs.slice(0, samples.inputs[0].length).map(Math.exp),
    scatter: scatter ? Math.exp(logs[logs.length - 1]) : LEAST_SCATTER,
  });
  const bounds = [...samples.inputs[0].map(() => LENGTHS), ...(scatter ? [SCATTER] : [])].map(
    ([low, high]) => [Math.log(low), Math.log(high)] as const,
  );
  const unlikely = (logs: readonly number[]): number => unlikelihood(samples, asCorrelations(logs));
  // The likelihood may have several peaks: the best of several beginnings is kept.
  const found = [0.3, 1, 3].map((length) =>
    leastBySteps(
      unlikely,
      bounds.map((_, k) => Math.log(k < samples.inputs[0].length ? length : 1e-3)),
      bounds,
    ),
  );
  return asCorrelations(found.reduce((best, one) => (one.value < best.value ? one : best)).at);
}

interface Solved {
  /** Of the correlation matrix. */
  decomposed: CholeskyDecomposition;
  mean: number;
  variance: number;
  /** The inverse of the correlations, times what the samples are away from the mean; and times ones. */
  weights: number[];
  ones: number[];
  /** Sum of the inverse of the correlations. */
  total: number;
}

function solved({ inputs, outputs }: Samples, correlations: Correlations): Solved | null {
  const matrix = Matrix.zeros(inputs.length, inputs.length);
  for (let i = 0; i < inputs.length; i++)
    for (let k = 0; k <= i; k++) {
      const r = i === k ? 1 + correlations.scatter : correlation(inputs[i], inputs[k], correlations.lengths);
      matrix.set(i, k, r);
      matrix.set(k, i, r);
    }
  const decomposed = new CholeskyDecomposition(matrix);
  if (!decomposed.isPositiveDefinite()) return null;
  const solve = (v: readonly number[]): number[] => decomposed.solve(Matrix.columnVector([...v])).to1DArray();
  const ones = solve(inputs.map(() => 1));
  const total = ones.reduce((a, b) => a + b, 0);
  const mean = sumOfProducts(ones, outputs) / total;
  const away = outputs.map((v) => v - mean);
  const weights = solve(away);
  const variance = sumOfProducts(away, weights) / inputs.length;
  return { decomposed, mean, variance, weights, ones, total };
}

const correlation = (a: readonly number[], b: readonly number[], lengths: readonly number[]): number =>
  Math.exp(-0.5 * lengths.reduce((sum, l, k) => sum + ((a[k] - b[k]) / l) ** 2, 0));

/** Twice the negative logarithm of the likelihood of samples, less what is the same for all correlations. */
export function unlikelihood(samples: Samples, correlations: Correlations): number {
  const found = solved(samples, correlations);
  if (!found || !(found.variance > 0)) return Infinity;
  const { lowerTriangularMatrix } = found.decomposed;
  let determinant = 0;
  for (let i = 0; i < samples.inputs.length; i++)
    determinant += 2 * Math.log(lowerTriangularMatrix.get(i, i));
  return samples.inputs.length * Math.log(found.variance) + determinant;
}

/** The surface of known correlations. */
export function krige(samples: Samples, correlations: Correlations): Fitted {
  const { inputs, outputs } = samples;
  const found = solved(samples, correlations);
  if (!found)
    throw new ReadError(
      'some runs are at the same place, or nearly, and do not agree',
      'the response',
      'Let runs scatter, or leave out one of each two.',
    );
  const { decomposed, mean, variance, weights, ones, total } = found;
  const near = (row: readonly number[]): number[] =>
    inputs.map((of) => correlation(of, row, correlations.lengths));
  const inverted = decomposed.solve(Matrix.eye(inputs.length));
  return {
    surface: {
      at: (row) => mean + sumOfProducts(near(row), weights),
      deviation(row) {
        const r = near(row);
        const told = decomposed.solve(Matrix.columnVector(r)).to1DArray();
        const known = sumOfProducts(r, told);
        const missing = 1 - sumOfProducts(r, ones);
        return Math.sqrt(Math.max(0, variance * (1 - known + missing ** 2 / total)));
      },
    },
    leftOut: outputs.map((_, i) => weights[i] / (inverted.get(i, i) - ones[i] ** 2 / total)),
  };
}
