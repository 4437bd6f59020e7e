import { describe, expect, it } from 'vitest';
import { fieldOf, hexBlockBetween, mixedBlock, quadSheet, tetraBlock } from '../../tests/made-solids.ts';
import type { Mesh } from '../model/mesh.ts';
import { gradientAtPoints } from './gradient.ts';

const worst = (found: ArrayLike<number>, wanted: (i: number) => number): number => {
  let most = 0;
  for (let i = 0; i < found.length; i++) most = Math.max(most, Math.abs(found[i] - wanted(i)));
  return most;
};

describe('the gradient at points', () => {
  it('of a linear field is exact on hexahedra, tetrahedra and mixed cells, at their rims too', () => {
    for (const mesh of [hexBlockBetween(4), tetraBlock(3), mixedBlock(4)]) {
      const g = gradientAtPoints(
        mesh,
        fieldOf(mesh, (x, y, z) => 2 * x - 3 * y + 0.5 * z + 7),
        1,
      );
      expect(worst(g, (i) => [2, -3, 0.5][i % 3])).toBeLessThan(2e-5);
    }
  });
  it('of a vector has a row for each component', () => {
    const mesh = tetraBlock(3);
    const n = mesh.points.length / 3;
    const rows = [
      [1, 2, 3],
      [4, 5, 6],
      [7, 8, 9],
    ];
    const data = Float32Array.from({ length: 3 * n }, (_, i) => {
      const at = 3 * Math.floor(i / 3);
      return rows[i % 3].reduce((sum, v, k) => sum + v * mesh.points[at + k], 0);
    });
    expect(worst(gradientAtPoints(mesh, data, 3), (i) => rows.flat()[i % 9])).toBeLessThan(5e-5);
  });
  it('of a smooth field comes nearer with order 2 inside an even mesh', () => {
    // The middle of the block: neighbours lie evenly around it, so that the error falls with the square of the size.
    const errors = [4, 8].map((n) => {
      const mesh = hexBlockBetween(n);
      const g = gradientAtPoints(
        mesh,
        fieldOf(mesh, (x, y) => Math.sin(2 * x + 0.4) * Math.cos(y)),
        1,
      );
      const at = 3 * middleOf(mesh);
      return Math.abs(g[at] - 2 * Math.cos(0.4));
    });
    expect(Math.log2(errors[0] / errors[1])).toBeGreaterThan(1.8);
  });
  it('on a sheet is the gradient along it, and on a single point nothing', () => {
    const sheet = quadSheet(5, 5, [0, 1], [0, 1]);
    const g = gradientAtPoints(
      sheet,
      fieldOf(sheet, (x, y) => 3 * x + y),
      1,
    );
    expect(worst(g, (i) => [3, 1, 0][i % 3])).toBeLessThan(1e-5);
    const slanted: Mesh = {
      ...sheet,
      points: sheet.points.map((v, i) => (i % 3 === 2 ? sheet.points[i - 2] : v)),
    };
    // On the plane z = x, the field x grows by 1/2 along x and along z.
    const along = gradientAtPoints(
      slanted,
      fieldOf(slanted, (x) => x),
      1,
    );
    expect(worst(along, (i) => [0.5, 0, 0.5][i % 3])).toBeLessThan(1e-5);
    const dot: Mesh = {
      points: Float32Array.of(1, 2, 3),
      types: Uint8Array.of(1),
      offsets: Uint32Array.of(0, 1),
      connectivity: Uint32Array.of(0),
    };
    expect(Array.from(gradientAtPoints(dot, [5], 1))).toEqual([0, 0, 0]);
  });
  it('passes over points that coincide, and says so where a value is none', () => {
    const mesh = hexBlockBetween(2);
    const values = fieldOf(mesh, (x) => x);
    values[0] = Number.NaN;
    const g = gradientAtPoints(mesh, values, 1);
    expect(Number.isNaN(g[0])).toBe(true);
    expect(Number.isNaN(g[3 * (mesh.points.length / 3 - 1)])).toBe(false);
  });
});

function middleOf({ points: p }: Mesh): number {
  for (let i = 0; i < p.length / 3; i++)
    if (Math.hypot(p[3 * i], p[3 * i + 1], p[3 * i + 2]) < 1e-6) return i;
  throw new Error('no middle');
}
