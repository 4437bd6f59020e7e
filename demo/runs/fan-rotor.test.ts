import { expect, it } from 'vitest';
import { streamFunction } from './fan-rotor.ts';

it('the flow through the fan rotor is even in a straight ring: ψ grows with r², the velocity is the same everywhere', () => {
  const [inner, outer] = [0.04, 0.1];
  const { psi, velocity } = streamFunction(8, 40, (s, t) => [0.3 * s, inner + t * (outer - inner), 0]);
  const r = (j: number): number => inner + (j / 40) * (outer - inner);
  for (const j of [0, 7, 20, 33, 40])
    expect(psi[4 * 41 + j]).toBeCloseTo((r(j) ** 2 - inner ** 2) / (outer ** 2 - inner ** 2), 4);
  const even = 2 / (outer ** 2 - inner ** 2);
  for (const j of [3, 20, 36]) {
    expect(velocity[2 * (4 * 41 + j)] / even).toBeCloseTo(1, 2);
    expect(Math.abs(velocity[2 * (4 * 41 + j) + 1]) / even).toBeLessThan(1e-6);
  }
});

it('between two discs it goes straight outward, slower as 1/r', () => {
  const { velocity } = streamFunction(60, 6, (s, t) => [0.03 * (1 - t), 0.05 + 0.1 * s, 0]);
  for (const i of [10, 30, 50]) {
    const r = 0.05 + (0.1 * i) / 60;
    // A flow of 2π through a gap of 0.03 m at radius r.
    expect(Math.abs(velocity[2 * (i * 7 + 3) + 1]) * 0.03 * r).toBeCloseTo(1, 2);
  }
});
