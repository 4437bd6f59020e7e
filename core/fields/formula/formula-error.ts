/** A formula that is not understood: what, and where in its text. */
export class FormulaError extends Error {
  override readonly name = 'FormulaError';
}
