import { describe, expect, it } from 'vitest';
import { coarseTriangles } from './coarse-triangles.ts';

/** A ball of radius 1 by rings and sectors. */
function ball(rings: number): { positions: Float32Array; triangles: Uint32Array } {
  const sectors = 2 * rings;
  const positions: number[] = [];
  for (let i = 0; i <= rings; i++)
    for (let j = 0; j < sectors; j++) {
      const [polar, around] = [(Math.PI * i) / rings, (2 * Math.PI * j) / sectors];
      positions.push(Math.sin(polar) * Math.cos(around), Math.sin(polar) * Math.sin(around), Math.cos(polar));
    }
  const triangles: number[] = [];
  for (let i = 0; i < rings; i++)
    for (let j = 0; j < sectors; j++) {
      const [a, b] = [i * sectors + j, i * sectors + ((j + 1) % sectors)];
      triangles.push(a, a + sectors, b + sectors, a, b + sectors, b);
    }
  return { positions: Float32Array.from(positions), triangles: Uint32Array.from(triangles) };
}

/** Area, and the volume within by the theorem of Gauss: positive where faces turn outwards. */
function sizes(p: Float32Array, triangles: Uint32Array): { area: number; volume: number } {
  let [area, volume] = [0, 0];
  for (let t = 0; t < triangles.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => [...p.subarray(3 * triangles[t + k], 3 * triangles[t + k] + 3)]);
    const [u, v] = [b, c].map((q) => q.map((x, k) => x - a[k]));
    const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    area += Math.hypot(...n) / 2;
    volume += (a[0] * n[0] + a[1] * n[1] + a[2] * n[2]) / 6;
  }
  return { area, volume };
}

describe('triangles that stand for a surface', () => {
  const { positions, triangles } = ball(400);

  it('are as many as were wished for at most, and not far fewer', () => {
    for (const most of [500, 5_000, 50_000]) {
      const n = coarseTriangles(positions, triangles, most).length / 3;
      expect(n).toBeLessThanOrEqual(most);
      expect(n).toBeGreaterThan(most / 4);
    }
  });
  it('have about its area and what it encloses, the same side outwards', () => {
    // A ball of radius 1 (any handbook of mathematics).
    const { area, volume } = sizes(positions, coarseTriangles(positions, triangles, 20_000));
    expect(Math.abs(area / (4 * Math.PI) - 1)).toBeLessThan(0.05);
    expect(Math.abs(volume / ((4 / 3) * Math.PI) - 1)).toBeLessThan(0.03);
  });
  it('have no holes: every edge is shared by the faces on both sides', () => {
    const coarse = coarseTriangles(positions, triangles, 2_000);
    const edges = new Map<string, number>();
    for (let t = 0; t < coarse.length; t += 3)
      for (let k = 0; k < 3; k++) {
        const [a, b] = [coarse[t + k], coarse[t + ((k + 1) % 3)]];
        edges.set(`${a} ${b}`, (edges.get(`${a} ${b}`) ?? 0) + 1);
      }
    for (const key of edges.keys()) expect(edges.has(key.split(' ').reverse().join(' ')), key).toBe(true);
  });
  it('are those there are where there are few, and leave out what has no place', () => {
    expect(coarseTriangles(positions, triangles, 1e6)).toBe(triangles);
    const holed = positions.slice();
    holed.fill(NaN, 0, 3 * 900);
    const coarse = coarseTriangles(holed, triangles, 5_000);
    expect(coarse.length).toBeGreaterThan(3000);
    for (const v of coarse) expect(Number.isFinite(holed[3 * v])).toBe(true);
  });
  it('of what lies in one place are none', () => {
    const point = new Float32Array(positions.length).fill(0.5);
    expect(coarseTriangles(point, triangles, 100)).toHaveLength(0);
  });
});
