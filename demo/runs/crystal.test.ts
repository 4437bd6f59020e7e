import { describe, expect, it } from 'vitest';
import { Crystal, struckCrystal } from './crystal.ts';

describe('the crystal of the bench', () => {
  it('has twelve neighbours an atom, and binds as strongly as the sum over its lattice says', () => {
    const whole = new Crystal(4, () => false);
    expect(new Set(whole.neighbours)).toEqual(new Set([12]));
    // Sum over all pairs of a face-centred cubic crystal: -8.61 depths an atom at rest (Kittel, Introduction to Solid
    // State Physics, chapter 3, from memory). Cut off at 2.5 and shifted it binds less: the shells within, summed here.
    const shells = [
      [12, 1 / 2],
      [6, 1],
      [24, 3 / 2],
      [12, 2],
      [24, 5 / 2],
    ];
    const pair = (square: number): number => 4 * (square ** -6 - square ** -3);
    const expected = shells.reduce((sum, [n, s]) => {
      const square = s * 1.5496 ** 2;
      return square < 2.5 ** 2 ? sum + (n / 2) * (pair(square) - pair(2.5 ** 2)) : sum;
    }, 0);
    for (const e of whole.energy) expect(e).toBeCloseTo(expected, 6);
    expect(expected).toBeLessThan(-6);
    expect(expected).toBeGreaterThan(-8.61);
  });
  it('keeps its energy and its momentum while the blow runs through it', () => {
    const struck = struckCrystal();
    const before = struck.totalEnergy();
    const along = (): number => struck.speed.reduce((sum, v, i) => (i % 3 === 0 ? sum + v : sum), 0);
    const push = along();
    const begin = struck.speed.reduce((sum, v) => sum + (v * v) / 2, 0);
    for (let n = 0; n < 60; n++) struck.advance(0.004);
    expect(Math.abs(struck.totalEnergy() - before)).toBeLessThan(0.02 * begin);
    expect(along()).toBeCloseTo(push, 6);
  });
  it('lacks the atoms of its row, whose neighbours have fewer', () => {
    const struck = struckCrystal();
    expect(4 * 9 ** 3 - struck.count).toBe(7);
    expect(Math.min(...struck.neighbours)).toBeLessThan(12);
  });
});
