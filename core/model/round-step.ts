/** The least of 1, 2 or 5 times a power of ten that is not smaller than this. */
export function roundStep(least: number): number {
  const power = 10 ** Math.floor(Math.log10(least));
  return power * ([1, 2, 5].find((times) => times * power >= least) ?? 10);
}
