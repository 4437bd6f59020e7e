import { describe, expect, it } from 'vitest';
import { hexBlockBetween } from '../../tests/made-solids.ts';
import type { Mesh } from '../model/mesh.ts';
import { computeQuantity } from './quantity-sources.ts';
import type { FieldOrigin } from './sources/quantity-source.ts';

/** A measure of a velocity known by a formula, and where each value lies. */
function measured(prefix: string, mesh: Mesh, velocity: (x: number, y: number, z: number) => number[]) {
  const { points } = mesh;
  const data = new Float32Array(points.length);
  for (let i = 0; i < points.length; i += 3) data.set(velocity(points[i], points[i + 1], points[i + 2]), i);
  const inner: FieldOrigin = {
    source: 'stored',
    id: 'v',
    location: 'point',
    components: 3,
    axial: false,
    arrays: [],
    of: [],
  };
  const origin: FieldOrigin = {
    ...inner,
    source: 'operator',
    id: prefix,
    components: 1,
    of: [inner],
    options: prefix,
  };
  return computeQuantity(origin, {
    mesh,
    origin: [0, 0, 0],
    part: '',
    arrays: [],
    meshes: [],
    of: [{ location: 'point', components: 3, axial: false, data }],
  });
}

/** Points of a block that lie in a ring away from its walls. */
const inside = (mesh: Mesh, from: number, to: number): number[] =>
  Array.from({ length: mesh.points.length / 3 }, (_, i) => i).filter((i) => {
    const [x, y, z] = mesh.points.subarray(3 * i, 3 * i + 3);
    const r = Math.hypot(x, y);
    return r > from && r < to && Math.abs(z) < 0.5 && Math.max(Math.abs(x), Math.abs(y)) < 0.85;
  });

describe('measures of vortices', () => {
  it('solid rotation: Q is the rate squared, lambda-2 its negative', () => {
    const mesh = hexBlockBetween(4);
    for (const rate of [1, 3]) {
      const turn = (x: number, y: number): number[] => [-rate * y, rate * x, 0];
      for (const v of Array.from(measured('Q', mesh, turn))) expect(v).toBeCloseTo(rate ** 2, 3);
      for (const v of Array.from(measured('lambda2', mesh, turn))) expect(v).toBeCloseTo(-(rate ** 2), 3);
    }
  });

  it('pure strain and plain shear are no vortices', () => {
    const mesh = hexBlockBetween(3);
    const strain = (x: number, y: number, z: number): number[] => [x, y, -2 * z];
    for (const v of Array.from(measured('Q', mesh, strain))) expect(v).toBeCloseTo(-3, 3);
    for (const v of Array.from(measured('lambda2', mesh, strain))) expect(v).toBeCloseTo(1, 3);
    const shear = (_x: number, y: number): number[] => [2 * y, 0, 0];
    for (const v of Array.from(measured('Q', mesh, shear))) expect(v).toBeCloseTo(0, 4);
    for (const v of Array.from(measured('lambda2', mesh, shear))) expect(v).toBeCloseTo(0, 4);
  });

  // Of a swirl with speed w(r) around an axis that is strained at a rate a along it and a / 2 across, the gradient in the frame
  // of the radius is [-a/2, -w/r; w', -a/2] and a. Worked by hand from the definitions: Q = w w' / r - 3 a² / 4, and the principal
  // values are a² and a² / 4 - w w' / r with a (w' - w / r) / 2 added and taken away.
  const lambOseen = (r: number): number => (1 - Math.exp((-r * r) / 0.09)) / r;
  const slope = (r: number): number => (lambOseen(r + 1e-5) - lambOseen(r - 1e-5)) / 2e-5;

  /** Largest errors of both measures on a block of so many cells along its sides. */
  function errors(n: number, a: number): { q: number; lambda: number } {
    const mesh = hexBlockBetween(n);
    const velocity = (x: number, y: number, z: number): number[] => {
      const r = Math.hypot(x, y) || 1e-9;
      const turn = lambOseen(r) / r;
      return [-turn * y - (a / 2) * x, turn * x - (a / 2) * y, a * z];
    };
    const q = measured('Q', mesh, velocity);
    const l = measured('lambda2', mesh, velocity);
    const worst = { q: 0, lambda: 0 };
    for (const i of inside(mesh, 0.1, 0.8)) {
      const r = Math.hypot(mesh.points[3 * i], mesh.points[3 * i + 1]);
      const product = (lambOseen(r) * slope(r)) / r;
      worst.q = Math.max(worst.q, Math.abs(q[i] - (product - 0.75 * a * a)));
      const shear = (a * (slope(r) - lambOseen(r) / r)) / 2;
      const middle = [a * a, (a * a) / 4 - product - shear, (a * a) / 4 - product + shear].sort(
        (x, y) => x - y,
      )[1];
      worst.lambda = Math.max(worst.lambda, Math.abs(l[i] - middle));
    }
    return worst;
  }

  it.each([
    ['Lamb-Oseen vortex (Lamb, Hydrodynamics, section 334a; from memory)', 0],
    ["Burgers' vortex (Burgers, Adv. Appl. Mech. 1 (1948) 171; from memory)", 3],
  ])('%s: errors fall with the square of the size of cells', (_, a) => {
    const [coarse, fine] = [errors(20, a), errors(40, a)];
    expect(coarse.q / fine.q).toBeGreaterThan(3);
    expect(coarse.lambda / fine.lambda).toBeGreaterThan(3);
    // Of the largest value, (1 / 0.09)² at the axis.
    expect(fine.q).toBeLessThan(0.04 / 0.09 ** 2);
    expect(fine.lambda).toBeLessThan(0.04 / 0.09 ** 2);
  });
});
