/** A formula that is not understood: what, and where in its text. */
export class FormulaError extends Error {
  override readonly name = 'FormulaError';
}

/** A number, or another run, that it uses was not asked for yet. */
export class NotMeasured extends FormulaError {}
