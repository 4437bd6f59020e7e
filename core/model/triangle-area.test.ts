import { expect, it } from 'vitest';
import { triangleArea } from './triangle-area.ts';

it('is that of Heron, whichever way round and wherever the triangle lies', () => {
  // Heron of Alexandria, Metrica I.8: from its three sides alone.
  const heron = (sides: number[]): number => {
    const s = (sides[0] + sides[1] + sides[2]) / 2;
    return Math.sqrt(s * (s - sides[0]) * (s - sides[1]) * (s - sides[2]));
  };
  const p = [0, 0, 0, 3, 0, 0, 0, 4, 0, 1, -2, 5, 10, 10.5, -3];
  const side = (a: number, b: number): number =>
    Math.hypot(p[3 * a] - p[3 * b], p[3 * a + 1] - p[3 * b + 1], p[3 * a + 2] - p[3 * b + 2]);
  expect(triangleArea(p, 0, 1, 2)).toBe(6);
  for (const [u, v, w] of [
    [0, 2, 3],
    [3, 1, 4],
    [4, 3, 2],
  ])
    expect(triangleArea(p, u, v, w)).toBeCloseTo(heron([side(u, v), side(v, w), side(w, u)]), 9);
  expect(triangleArea(p, 1, 1, 4)).toBe(0);
});
