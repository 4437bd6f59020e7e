/** Of lists of any one length. */
export const sumOfProducts = (a: readonly number[], b: readonly number[]): number =>
  a.reduce((sum, v, i) => sum + v * b[i], 0);

export function awayFromMean(values: readonly number[]): number[] {
  const mean = values.reduce((sum, v) => sum + v, 0) / values.length;
  return values.map((v) => v - mean);
}

/** Told by the values themselves: what is away from a mean may be so by rounding. */
export const varies = (values: readonly number[]): boolean => values.some((v) => v !== values[0]);
