import { describe, expect, it } from 'vitest';
import {
  fieldOf,
  hexBlockBetween,
  mixedBlock,
  quadSheet,
  seeded,
  tetraBlock,
} from '../../tests/made-solids.ts';
import type { Mesh } from '../model/mesh.ts';
import { NearestFace } from './surfaces/nearest-face.ts';
import { outerFaces } from './surfaces/outer-faces.ts';
import { outsideOf } from './surfaces/outward-normals.ts';
import { gradientAtWalls } from './wall-gradient.ts';

const points = ({ points: p }: Mesh): number[][] =>
  Array.from({ length: p.length / 3 }, (_, i) => [...p.subarray(3 * i, 3 * i + 3)]);
const at = (data: Float32Array, i: number, width = 3): number[] => [
  ...data.subarray(width * i, width * i + width),
];
/** On how many of the six sides of the cube from -1 to 1 a point lies. */
const sides = (p: number[]): number => p.filter((v) => Math.abs(Math.abs(v) - 1) < 1e-6).length;
const blocks = { hexahedra: hexBlockBetween(4), tetrahedra: tetraBlock(4), 'mixed cells': mixedBlock(4) };

/** Points moved at random, those of the outside along it alone. */
function shaken(mesh: Mesh, by: number): Mesh {
  const random = seeded(3);
  const moved = mesh.points.map((v) => (Math.abs(Math.abs(v) - 1) < 1e-6 ? v : v + by * (random() - 0.5)));
  return { ...mesh, points: moved };
}

describe('outward normals', () => {
  it.each(Object.entries(blocks))('of a cube of %s look out of it, and inside there are none', (_, mesh) => {
    const normals = outsideOf(mesh, false).normals;
    for (const [i, p] of points(mesh).entries()) {
      const found = at(normals, i);
      if (sides(p) === 0) expect(found.every(Number.isNaN)).toBe(true);
      else expect(Math.hypot(...found)).toBeCloseTo(1, 5);
      if (sides(p) === 1)
        for (const [k, v] of found.entries()) expect(v).toBeCloseTo(Math.abs(p[k]) > 0.999 ? p[k] : 0, 5);
    }
  });
  it('of a sheet look across it, and out of its border where it is flat by nature', () => {
    const sheet = quadSheet(3, 3, [0, 1], [0, 1]);
    expect(at(outsideOf(sheet, false).normals, 0).map(Math.abs)).toEqual([0, 0, 1]);
    const border = outsideOf(sheet, true).normals;
    for (const [i, [x, y]] of points(sheet).entries()) {
      const found = at(border, i);
      const inside = x > 0.01 && x < 0.99 && y > 0.01 && y < 0.99;
      if (inside) expect(found.every(Number.isNaN)).toBe(true);
      else expect(found[0] * (x - 0.5) + found[1] * (y - 0.5)).toBeGreaterThan(0.4);
    }
    // The same sheet in the plane of x and z.
    const upright = { ...sheet, points: sheet.points.map((_, i, p) => p[i - (i % 3) + [0, 2, 1][i % 3]]) };
    const turned = outsideOf(upright, true).normals;
    expect(Math.abs(at(turned, 1)[2])).toBeCloseTo(1, 5);
  });
});

describe('zones of one flow', () => {
  const beside = (mesh: Mesh, by: number): Mesh => ({
    ...mesh,
    // As far off as single precision writes it.
    points: mesh.points.map((v, i) => (i % 3 === 0 ? v + by * (1 + 1e-7) : v)),
  });
  it.each(Object.entries(blocks))(
    'of %s have no wall between them, and walls that look on at the seam',
    (_, block) => {
      // Cubes from -1 to 1, and from 1 to 3.
      const other = beside(block, 2);
      const { normals, free } = outsideOf(block, false, [other]);
      const of = (x: number, y: number, z: number) => 3 + x - 2 * y + x * x - y * z + 0.5 * z * z;
      const found = gradientAtWalls(block, fieldOf(block, of), 1, [other]);
      let seam = 0;
      for (const [i, p] of points(block).entries()) {
        const onSeam = p[0] > 0.999;
        const walls = sides(p) - Number(onSeam);
        expect(free[i]).toBe(Number(walls > 0));
        if (walls === 0) {
          expect(Number.isNaN(found[3 * i])).toBe(true);
          // Where it goes on it looks across.
          if (onSeam) expect(at(normals, i)[0]).toBeCloseTo(1, 5);
          continue;
        }
        for (const [k, v] of [1 + 2 * p[0], -2 - p[2], p[2] - p[1]].entries())
          expect(Math.abs(at(found, i)[k] - v)).toBeLessThan(2e-4);
        if (!onSeam) continue;
        seam++;
        expect(at(normals, i)[0]).toBeCloseTo(0, 5);
      }
      expect(seam).toBe(16);
    },
  );
  it('that only touch without the same corners keep their walls', () => {
    const block = hexBlockBetween(4);
    const plain = outsideOf(block, false);
    expect(outsideOf(block, false, [beside(hexBlockBetween(3), 2)])).toEqual(plain);
    expect(outsideOf(block, false, [beside(block, 2.1)])).toEqual(plain);
  });
  it('that are flat have no wall along the edges they share', () => {
    const [left, right] = [quadSheet(3, 3, [0, 1], [0, 1]), quadSheet(3, 3, [1, 2], [0, 1])];
    const { normals, free } = outsideOf(left, true, [right]);
    for (const [i, [x, y]] of points(left).entries()) {
      const upOrDown = y < 0.01 || y > 0.99;
      expect(free[i]).toBe(Number(upOrDown || x < 0.01));
      if (upOrDown && x > 0.99) expect(Math.abs(at(normals, i)[1])).toBeCloseTo(1, 5);
    }
  });
});

describe('gradients at walls', () => {
  it.each(Object.entries(blocks))('of a quadratic field are exact on %s of any shape', (_, block) => {
    const mesh = shaken(block, 0.15);
    const of = (x: number, y: number, z: number) => 3 + x - 2 * y + x * x - y * z + 0.5 * z * z;
    const found = gradientAtWalls(mesh, fieldOf(mesh, of), 1);
    for (const [i, [x, y, z]] of points(mesh).entries()) {
      const got = at(found, i);
      if (sides([x, y, z]) === 0) expect(got.every(Number.isNaN)).toBe(true);
      else
        for (const [k, v] of [1 + 2 * x, -2 - z, z - y].entries())
          expect(Math.abs(got[k] - v)).toBeLessThan(2e-4);
    }
  });
  it('of a flow between two plates are those of Poiseuille’s parabola, in one pass', () => {
    // u = 1 - z² between z = -1 and 1 (White, Viscous Fluid Flow, plane Poiseuille flow; from memory): slopes of 2 at both.
    const mesh = hexBlockBetween(8);
    const n = mesh.points.length / 3;
    const u = Float32Array.from({ length: 3 * n }, (_, i) => (i % 3 === 0 ? 1 - mesh.points[i + 2] ** 2 : 0));
    const found = gradientAtWalls(mesh, u, 3);
    for (const [i, p] of points(mesh).entries())
      if (Math.abs(p[2]) > 0.999) {
        expect(at(found, i, 9)[2]).toBeCloseTo(-2 * p[2], 4);
        expect(at(found, i, 9)[5]).toBeCloseTo(0, 4);
      }
  });
  it('of what is flat are those along it, at its border', () => {
    const sheet = quadSheet(4, 5, [0, 1], [0, 1]);
    const found = gradientAtWalls(
      sheet,
      fieldOf(sheet, (x, y) => x * x + 3 * x * y),
      1,
    );
    const i = points(sheet).findIndex(([x, y]) => x === 0 && y > 0.3 && y < 0.7);
    expect(at(found, i)[0]).toBeCloseTo(3 * points(sheet)[i][1], 4);
    expect(at(found, i)[1]).toBeCloseTo(0, 4);
    expect(at(found, i)[2]).toBe(0);
  });
});

describe('the nearest face without a reach', () => {
  it('is as far as the sides of a cube are by their planes, from anywhere', () => {
    const random = seeded(8);
    const nearest = new NearestFace(outerFaces(mixedBlock(5)).mesh);
    for (let n = 0; n < 200; n++) {
      const p = [0, 1, 2].map(() => 6 * random() - 3);
      const out = p.map((v) => Math.max(0, Math.abs(v) - 1));
      const inside = Math.min(...p.map((v) => 1 - Math.abs(v)));
      nearest.find(p[0], p[1], p[2]);
      expect(nearest.distance).toBeCloseTo(inside > 0 ? inside : Math.hypot(...out), 5);
    }
  });
});
