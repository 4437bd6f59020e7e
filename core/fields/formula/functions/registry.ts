import { arithmetic } from './arithmetic.ts';
import { comparisons } from './comparisons.ts';
import type { FormulaFunction } from './formula-function.ts';
import { numberFunctions } from './numbers.ts';
import { vectorFunctions } from './vectors.ts';

/** What formulas are made with, by name. More of a new sort are a file of their own and a line here. */
export const formulaFunctions: Readonly<Record<string, FormulaFunction>> = {
  ...arithmetic,
  ...comparisons,
  ...numberFunctions,
  ...vectorFunctions,
};
