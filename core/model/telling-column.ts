/**
 * Which of some columns tells most at first sight: the first of those with the most different values. What was set of
 * a row of designs repeats itself, what came out of it does not (common practice, no source).
 *
 * @param columns values, none or more columns
 * @returns its index; 0 where there is none
 */
export function tellingColumn(columns: readonly ArrayLike<number>[]): number {
  const different = columns.map((values) => new Set(Array.from(values)).size);
  return Math.max(0, different.indexOf(Math.max(...different)));
}
