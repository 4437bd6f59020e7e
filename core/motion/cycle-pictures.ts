/**
 * Phases of pictures over one cycle, in degrees. Where the end leads to the beginning the last picture is as far from the
 * first as any two that follow each other; where it does not, the last one shows the end.
 */
export function cyclePhases(pictures: number, closed: boolean): number[] {
  const gaps = closed ? pictures : Math.max(1, pictures - 1);
  return Array.from({ length: pictures }, (_, k) => (360 * k) / gaps);
}
