import { describe, expect, it } from 'vitest';
import { eddies, placeInDuct, SteamDuct, squareProfile } from './steam-duct.ts';

const grid = Array.from({ length: 60 }, (_, i) => (2 * (i + 0.5)) / 60 - 1);

describe('the steam duct of the bench', () => {
  it('has the profile of slow flow through a square: mean one, 2.096 at its peak, nothing at the walls', () => {
    const mean = grid.flatMap((a) => grid.map((b) => squareProfile(a, b))).reduce((x, y) => x + y, 0) / 3600;
    // Shah and London 1978, Laminar Flow Forced Convection in Ducts (from memory).
    expect(mean).toBeCloseTo(1, 2);
    expect(squareProfile(0, 0)).toBeCloseTo(2.096, 2);
    expect(squareProfile(1, 0.3)).toBeCloseTo(0, 2);
    expect(squareProfile(0.3, 1)).toBeCloseTo(0, 6);
  });
  it('has eddies that neither make nor lose air, and do not go through its walls', () => {
    const h = 1e-5;
    for (const [a, b] of [
      [0.2, 0.3],
      [-0.6, 0.5],
      [0.1, -0.8],
    ]) {
      const along = (eddies(a + h, b)[0] - eddies(a - h, b)[0]) / (2 * h);
      const across = (eddies(a, b + h)[1] - eddies(a, b - h)[1]) / (2 * h);
      expect(along + across).toBeCloseTo(0, 6);
    }
    expect(eddies(1, 0.4)[0]).toBe(0);
    expect(eddies(0.4, 1)[1]).toBe(0);
  });
  it('is joined without a gap where it begins and ends to bend', () => {
    for (const along of [0.35, 0.35 + (0.22 * Math.PI) / 2])
      for (const a of [-1, 0, 1]) {
        const [p, q] = [placeInDuct(along - 1e-7, a, 0), placeInDuct(along + 1e-7, a, 0)];
        expect(Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2])).toBeLessThan(1e-5);
      }
  });
  it('fills with steam from its inlet on, never hotter than the steam or colder than the duct', () => {
    const duct = new SteamDuct();
    const mean = (): number => duct.temperature.reduce((x, y) => x + y, 0) / duct.temperature.length;
    const means = [mean()];
    for (let n = 0; n < 4; n++) {
      for (let k = 0; k < 20; k++) duct.advance(0.002);
      means.push(mean());
    }
    for (let n = 1; n < means.length; n++) expect(means[n]).toBeGreaterThan(means[n - 1]);
    expect(Math.max(...duct.temperature)).toBeLessThanOrEqual(104);
    expect(Math.min(...duct.temperature)).toBeGreaterThanOrEqual(24);
  });
});
