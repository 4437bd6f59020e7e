import type { Box } from './lettering.ts';

const overlap = (a: Box, b: Box): boolean =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;

/**
 * How far something has to move across the picture, so that it covers none of those that stand already; 0 where it stands
 * free, or where there is no room at all. The nearest place is taken.
 *
 * @param gap between two of them, in pixels
 */
export function asideBy(box: Box, placed: readonly Box[], width: number, gap: number): number {
  const free = (x: number): boolean =>
    x >= gap && x + box.width <= width - gap && !placed.some((p) => overlap({ ...box, x }, p));
  if (free(box.x) || !placed.some((p) => overlap(box, p))) return 0;
  const beside = placed.flatMap((p) => [p.x - gap - box.width, p.x + p.width + gap]);
  const places = beside.filter(free).sort((a, b) => Math.abs(a - box.x) - Math.abs(b - box.x));
  return places.length > 0 ? places[0] - box.x : 0;
}
