import { Matrix, QrDecomposition } from 'ml-matrix';
import { wholeNumber } from '../model/bounded-number.ts';
import { ReadError } from '../model/read-error.ts';
import { z } from '../model/schema.ts';
import type { ResponseKind } from './response.ts';
import { sumOfProducts } from './sums.ts';

export interface PolynomialOptions {
  /** Highest sum of the powers of a term. */
  degree: number;
}

const HIGHEST = 5;
/** A sample that decides by more than this what is fitted there is told by nothing else. */
const ALONE = 1 - 1e-9;

/**
 * The polynomial of all inputs together whose squared distances to the samples sum to the least. What it says without a
 * sample follows from the sample's leverage (Montgomery, Peck and Vining, Introduction to Linear Regression Analysis:
 * the PRESS residual e / (1 - h); from memory).
 */
export const polynomial: ResponseKind<PolynomialOptions> = {
  id: 'polynomial',
  name: 'Polynomial',
  purpose: 'smooth, and little moved by scatter',
  schema: z.object({ degree: wholeNumber().min(1).max(HIGHEST) }),
  defaults: { degree: 2 },
  fit({ inputs, outputs }, { degree }) {
    const terms = powersUpTo(inputs[0]?.length ?? 0, degree);
    if (inputs.length < terms.length)
      throw new ReadError(
        `a polynomial of degree ${degree} has ${terms.length} terms, and there are ${inputs.length} runs`,
        'the response',
        'Choose a lower degree, fewer inputs, or more runs.',
      );
    const rows = new Matrix(inputs.map((row) => termsAt(terms, row)));
    const decomposed = new QrDecomposition(rows);
    if (!isDetermined(decomposed, terms.length))
      throw new ReadError(
        `the runs do not tell all ${terms.length} terms of degree ${degree} apart`,
        'the response',
        'An input has too few different values, or follows another one: choose a lower degree, or leave one out.',
      );
    const weights = decomposed.solve(Matrix.columnVector([...outputs])).to1DArray();
    const at = (row: readonly number[]): number => sumOfProducts(termsAt(terms, row), weights);
    const turned = decomposed.orthogonalMatrix.to2DArray();
    const leftOut = inputs.map((row, i) => {
      const leverage = sumOfProducts(turned[i], turned[i]);
      return leverage > ALONE ? Number.NaN : (outputs[i] - at(row)) / (1 - leverage);
    });
    return { surface: { at }, leftOut };
  },
};

/** Whether every term is told: none of the diagonal is small beside the largest. */
function isDetermined({ upperTriangularMatrix }: QrDecomposition, terms: number): boolean {
  const sizes = Array.from({ length: terms }, (_, k) => Math.abs(upperTriangularMatrix.get(k, k)));
  return Math.min(...sizes) > 1e-10 * Math.max(...sizes);
}

/** The powers of each input in every term, of which the sum is at most the degree; the constant first. */
function powersUpTo(inputs: number, degree: number): number[][] {
  if (inputs === 0) return [[]];
  return powersUpTo(inputs - 1, degree).flatMap((before) => {
    const used = before.reduce((a, b) => a + b, 0);
    return Array.from({ length: degree - used + 1 }, (_, power) => [...before, power]);
  });
}

const termsAt = (terms: readonly number[][], row: readonly number[]): number[] =>
  terms.map((powers) => powers.reduce((product, power, k) => product * row[k] ** power, 1));
