import { describe, expect, it } from 'vitest';
import { boundsOf } from '../../model/mesh.ts';
import { bone, egg, melted, softBody } from './soft-body.ts';
import {
  ball,
  bar,
  block,
  joined,
  rail,
  type Solid,
  shifted,
  tile,
  turned,
  vessel,
  volumeOf,
} from './solids.ts';

/** Edges of triangles by the places of their ends: of a closed body each is run through as often one way as the other. */
function openEdges({ points, triangles }: Solid): number {
  const place = (i: number): string => [0, 1, 2].map((k) => points[3 * i + k].toFixed(7)).join();
  const runs = new Map<string, number>();
  for (let t = 0; t < triangles.length; t += 3)
    for (let k = 0; k < 3; k++) {
      const [a, b] = [place(triangles[t + k]), place(triangles[t + ((k + 1) % 3)])];
      if (a === b) continue;
      const [key, way] = a < b ? [`${a} ${b}`, 1] : [`${b} ${a}`, -1];
      runs.set(key, (runs.get(key) ?? 0) + way);
    }
  return [...runs.values()].filter((n) => n !== 0).length;
}

const solids: Record<string, Solid> = {
  block: block(2, 1, 0.5, 0.1),
  tile: tile(2, 1, 0.5, 0.1),
  bar: bar([1, 2, 3], [2, 3, 5], 0.2),
  rail: rail(
    [
      [0, 0, 0],
      [1, 0, 0],
      [1, 1, 0],
    ],
    0.1,
  ),
  ball: ball([1, 1, 1], 0.5),
  turned: turned([
    [1, 0],
    [2, 1],
    [1, 2],
  ]),
  vessel: vessel(
    { length: 0.3, width: 0.12, height: 0.1 },
    { foot: 0.02, thick: 0.001, rim: 0.004, corner: 0.015 },
  ),
  soft: softBody(egg([0, 0, 0], [0.5, 0.4, 0.3]), [-0.5, -0.4, -0.3], [0.5, 0.4, 0.3], 0.04),
};

describe('bodies made by code', () => {
  it.each(Object.keys(solids))('%s is closed and looks outward', (name) => {
    expect(openEdges(solids[name])).toBe(0);
    expect(volumeOf(solids[name])).toBeGreaterThan(0);
  });
  it('a block with round edges encloses what Steiner says: box within, slabs, quarter rods and a ball', () => {
    const [a, b, c, r] = [2, 1, 0.5, 0.1];
    const [x, y, z] = [a - 2 * r, b - 2 * r, c - 2 * r];
    const exact =
      x * y * z +
      2 * r * (x * y + y * z + z * x) +
      Math.PI * r * r * (x + y + z) +
      (4 / 3) * Math.PI * r ** 3;
    // Its curves have four facets to a quarter turn.
    expect(volumeOf(solids.block) / exact).toBeGreaterThan(0.995);
    expect(volumeOf(solids.block)).toBeLessThan(exact);
    expect(boundsOf(solids.block.points)).toEqual(
      [-1, 1, -0.5, 0.5, 0, 0.5].map((v) => expect.closeTo(v, 10)),
    );
  });
  it('a bar is a prism over a polygon of 14 corners', () => {
    const area = 7 * 0.2 ** 2 * Math.sin((2 * Math.PI) / 14);
    expect(volumeOf(solids.bar)).toBeCloseTo(area * Math.sqrt(6), 10);
  });
  it('a bevelled tile is a box less its bevel', () => {
    // A prismatoid (Simpson): its foot, its middle and its top.
    const bevelled = (0.1 / 6) * (2 * 1 + 4 * 1.9 * 0.9 + 1.8 * 0.8);
    expect(volumeOf(solids.tile)).toBeCloseTo(2 * 1 * 0.4 + bevelled, 10);
  });
  it('what is joined and shifted encloses the sum', () => {
    const both = joined(solids.block, shifted(solids.block, [5, 0, 0]));
    expect(volumeOf(both)).toBeCloseTo(2 * volumeOf(solids.block), 8);
  });
});

describe('bodies given by distances', () => {
  it('come within 1 % of the volume of the ellipsoid they are', () => {
    const exact = (4 / 3) * Math.PI * 0.5 * 0.4 * 0.3;
    expect(Math.abs(volumeOf(solids.soft) / exact - 1)).toBeLessThan(0.01);
  });
  it('have their points on the surface', () => {
    const rod = bone([0, 0, 0], [0, 0, 1], 0.2, 0.2);
    const { points } = softBody(rod, [-0.2, -0.2, -0.2], [0.2, 0.2, 1.2], 0.05);
    for (let i = 0; i < points.length; i += 3)
      expect(Math.abs(rod(points[i], points[i + 1], points[i + 2]))).toBeLessThan(1e-3);
  });
  it('melt into each other where they meet, and are themselves elsewhere', () => {
    expect(melted(1, 3, 0.5)).toBe(1);
    expect(melted(0.1, 0.1, 0.4)).toBeCloseTo(0, 12);
    expect(melted(0.3, 0.2, 0.4)).toBeCloseTo(melted(0.2, 0.3, 0.4), 12);
  });
});
