/** How far two places of the inputs are apart. */
export function distance(a: readonly number[], b: readonly number[]): number {
  return Math.hypot(...a.map((v, k) => v - b[k]));
}

/** The samples by their places, those at the same one together, in the order of their first ones. */
export function samePlaces(inputs: readonly (readonly number[])[]): number[][] {
  const groups = new Map<string, number[]>();
  for (const [i, row] of inputs.entries()) {
    const key = row.join(' ');
    groups.set(key, [...(groups.get(key) ?? []), i]);
  }
  return [...groups.values()];
}
