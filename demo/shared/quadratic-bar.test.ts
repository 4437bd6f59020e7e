import { describe, expect, it } from 'vitest';
import { QuadraticBar } from './quadratic-bar.ts';

const LENGTH = 0.4;
const HALF = 0.01;
const STIFFNESS = 2.05e11;
const DENSITY = 7850;
const bar = new QuadraticBar((a, b, s) => [HALF * a, HALF * b, LENGTH * s], 2, 20);
const end = bar.slices[bar.slices.length - 1];
const width = 2 * HALF;
const inertia = width ** 4 / 12;

describe('a bar of quadratic hexahedra', () => {
  it('bends under a force at its end as the beam of Euler and Bernoulli, with a little shear', () => {
    const force = new Float64Array(bar.mesh.points.length);
    for (const p of end) force[3 * p] = 100 / end.length;
    const moved = bar.under(force);
    const tip = end.reduce((sum, p) => sum + moved[3 * p], 0) / end.length;
    // P L³ / 3 E I, and P L / (κ G A) with κ = 5/6 (Timoshenko; any text on strength of materials, from memory).
    const bending = (100 * LENGTH ** 3) / (3 * STIFFNESS * inertia);
    const shear = (100 * LENGTH) / ((5 / 6) * (STIFFNESS / 2.6) * width ** 2);
    expect(tip / (bending + shear)).toBeGreaterThan(0.985);
    expect(tip / (bending + shear)).toBeLessThan(1.005);
    const stress = bar.stress(moved);
    // M y / I halfway along, on the side that is pulled.
    const middle = bar.slices[20].find((p) => bar.mesh.points[3 * p] < -0.009)!;
    const expected = (100 * (LENGTH / 2) * HALF) / inertia;
    expect(Math.abs(stress[6 * middle + 2]) / expected).toBeCloseTo(1, 1);
  });
  it('swings at the frequencies of a held beam', () => {
    const [first, second, third] = bar.modes(3);
    // 1.8751² and 4.6941² / 2π times sqrt(E I / ρ A L⁴) (any text on vibrations, from memory); both ways across alike.
    const unit = Math.sqrt((STIFFNESS * inertia) / (DENSITY * width ** 2 * LENGTH ** 4)) / (2 * Math.PI);
    expect(first.frequency / (1.8751 ** 2 * unit)).toBeCloseTo(1, 1.7);
    expect(second.frequency / first.frequency).toBeCloseTo(1, 4);
    expect(third.frequency / (4.6941 ** 2 * unit)).toBeCloseTo(1, 1.3);
  });
});
