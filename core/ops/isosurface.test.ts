import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { fieldOf, hexBlockBetween, mixedBlock, seeded, tetraBlock } from '../../tests/made-solids.ts';
import { edgeUses, pointValues, withFields } from '../../tests/mesh-checks.ts';
import type { Mesh } from '../model/mesh.ts';
import { type ChainStep, runChain } from './chain/chain.ts';
import { marksOf } from './chain/marks.ts';

type Function3 = (x: number, y: number, z: number) => number;
type Vector3 = [number, number, number];

const iso = (value: number): ChainStep => ({
  op: 'isosurface',
  options: { field: 'f', component: 0, levels: { kind: 'list', values: [value] } },
});
const DEGREES = 180 / Math.PI;

/** Surfaces with the gradients of their functions. */
const surfaces: Record<string, { f: Function3; gradient: (...p: Vector3) => Vector3; value: number }> = {
  sphere: { f: (x, y, z) => x * x + y * y + z * z, gradient: (x, y, z) => [x, y, z], value: 0.5 },
  torus: {
    f: (x, y, z) => (Math.hypot(x, y) - 0.55) ** 2 + z * z,
    gradient: (x, y, z) => {
      const r = Math.hypot(x, y);
      return [(x * (r - 0.55)) / r, (y * (r - 0.55)) / r, z];
    },
    value: 0.08,
  },
  // The gyroid in its usual approximation by trigonometric functions; from memory.
  gyroid: {
    f: (x, y, z) =>
      Math.sin(4 * x) * Math.cos(4 * y) +
      Math.sin(4 * y) * Math.cos(4 * z) +
      Math.sin(4 * z) * Math.cos(4 * x),
    gradient: (x, y, z) => [
      Math.cos(4 * x) * Math.cos(4 * y) - Math.sin(4 * z) * Math.sin(4 * x),
      Math.cos(4 * y) * Math.cos(4 * z) - Math.sin(4 * x) * Math.sin(4 * y),
      Math.cos(4 * z) * Math.cos(4 * x) - Math.sin(4 * y) * Math.sin(4 * z),
    ],
    value: 0.2,
  },
};

/** Mean angle in degrees between the normals of the mark and the gradient at its vertices, but for the rim of the block. */
function meanAngle(mesh: Mesh, name: string): { drawn: number; ofFaces: number } {
  const { f, gradient, value } = surfaces[name];
  const end = runChain(withFields(mesh, { f: { data: fieldOf(mesh, f) } }), [iso(value)]);
  const angle = (all: Float32Array, positions: Float32Array): number => {
    let [sum, n] = [0, 0];
    for (let i = 0; i < all.length; i += 3) {
      const [x, y, z] = positions.subarray(i, i + 3);
      if (Math.max(Math.abs(x), Math.abs(y), Math.abs(z)) > 0.75) continue;
      const g = gradient(x, y, z);
      const along = Math.abs(g[0] * all[i] + g[1] * all[i + 1] + g[2] * all[i + 2]) / Math.hypot(...g);
      sum += Math.acos(Math.min(1, along)) * DEGREES;
      n++;
    }
    return sum / n;
  };
  const [{ mark }] = marksOf(end, false, false);
  if (mark.kind !== 'surface') throw new Error('no surface');
  const bare = { ...end.result!, normals: undefined };
  const plain = marksOf(withFields(mesh, {}).derive(bare), false, false)[0].mark;
  if (plain.kind !== 'surface') throw new Error('no surface');
  return { drawn: angle(mark.normals, mark.positions), ofFaces: angle(plain.normals, plain.positions) };
}

/** Order of convergence when the cells are halved; endless where there is nothing but rounding (central differences of a quadratic function). */
const orderOf = (coarse: number, fine: number): number =>
  coarse < 0.03 && fine < 0.03 ? Infinity : Math.log2(coarse / fine);

describe('the normals of isosurfaces', () => {
  it.each([
    ['sphere', 0.05, 1.8],
    ['torus', 0.5, 1.5],
    ['gyroid', 1, 1.7],
  ] as const)('of a %s are those of its function on hexahedra, with order 2', (name, most, order) => {
    const [coarse, fine] = [16, 32].map((n) => meanAngle(hexBlockBetween(n), name));
    expect(fine.drawn).toBeLessThan(most);
    expect(orderOf(coarse.drawn, fine.drawn)).toBeGreaterThan(order);
    expect(fine.drawn).toBeLessThan(0.5 * fine.ofFaces);
  });
  it.each(['sphere', 'torus', 'gyroid'])(
    'of a %s are better than those of the faces on other cells',
    (name) => {
      for (const make of [tetraBlock, mixedBlock]) {
        const [coarse, fine] = [12, 24].map((n) => meanAngle(make(n), name));
        expect(fine.drawn).toBeLessThan(0.6 * fine.ofFaces);
        expect(orderOf(coarse.drawn, fine.drawn)).toBeGreaterThan(0.9);
      }
    },
  );
  it('follow the surface through mirrors and clips, and end where points are moved', () => {
    const mesh = hexBlockBetween(10);
    const data = fieldOf(mesh, surfaces.sphere.f);
    const move = new Float32Array(3 * data.length).map((_, i) => mesh.points[i] * 0.1);
    const source = withFields(mesh, { f: { data }, u: { data: move, components: 3 } });
    const mirror = { op: 'mirror', options: { normal: [1, 0, 0], offset: 1, keep: false } };
    const clip = { op: 'clip', options: {} };
    const clipped = runChain(source, [iso(0.5), mirror, clip]);
    const normals = clipped.normals!;
    const { points } = clipped.mesh;
    expect(points.length).toBeGreaterThan(300);
    const centres = [0, 2];
    for (let i = 0; i < points.length; i += 3) {
      const off = centres.map((c) =>
        Math.abs(
          ((points[i] - c) * normals[i] + points[i + 1] * normals[i + 1] + points[i + 2] * normals[i + 2]) /
            Math.hypot(points[i] - c, points[i + 1], points[i + 2]),
        ),
      );
      expect(Math.max(...off)).toBeGreaterThan(0.97);
    }
    const deform = { op: 'deform', options: { field: 'u', factor: 1 } };
    expect(runChain(source, [iso(0.5), deform]).normals).toBeNull();
  });
});

describe('isosurfaces of hexahedra', () => {
  const noise = (mesh: Mesh, seed: number, rim: number): Float64Array => {
    const random = seeded(seed);
    return Float64Array.from({ length: mesh.points.length / 3 }, (_, i) => {
      const most = Math.max(...[0, 1, 2].map((k) => Math.abs(mesh.points[3 * i + k])));
      return most > 0.99 ? rim : random() * 2 - 1;
    });
  };
  it('lie on the trilinear function, with nothing open between cells', () => {
    const mesh = hexBlockBetween(4);
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), (seed) => {
        const data = noise(mesh, seed, -1);
        const end = runChain(withFields(mesh, { f: { data } }), [iso(0)]);
        for (const uses of edgeUses(end.mesh).values()) expect(uses % 2).toBe(0);
        // Values of the recipe are those of the trilinear function, as the places are.
        const values = pointValues(end, data);
        const far = values.reduce((n, v) => n + (Math.abs(v) > 1e-3 ? 1 : 0), 0);
        expect(far / values.length).toBeLessThan(0.03);
      }),
      { seed: 3, numRuns: 25 },
    );
  });
  it('join corners over a face where the saddle between them lies above, and keep them apart where it lies below', () => {
    const mesh = hexBlockBetween(1);
    // Two opposite corners of the upper face are above, by a little or by much.
    const pieces = (high: number): number => {
      const data = [-1, -1, -1, -1, high, -1, high, -1].map((_, i) => {
        const [x, y, z] = mesh.points.subarray(3 * i, 3 * i + 3);
        return z < 0 ? -1 : x * y > 0 ? high : -1;
      });
      const { mesh: out } = runChain(withFields(mesh, { f: { data } }), [iso(0)]);
      // Pieces that share no point.
      const owner = Array.from({ length: out.points.length / 3 }, (_, i) => i);
      const root = (i: number): number => (owner[i] === i ? i : root(owner[i]));
      for (let c = 0; c < out.types.length; c++)
        for (let i = out.offsets[c] + 1; i < out.offsets[c + 1]; i++)
          owner[root(out.connectivity[i])] = root(out.connectivity[out.offsets[c]]);
      return new Set(Array.from(out.connectivity, root)).size;
    };
    expect(pieces(0.5)).toBe(2);
    expect(pieces(2)).toBe(1);
  });
  it('bend over the middle of a cell as the trilinear function does', () => {
    // xy = z: a saddle, trilinear itself, in one cell.
    const mesh = hexBlockBetween(1);
    const end = runChain(withFields(mesh, { f: { data: fieldOf(mesh, (x, y, z) => x * y - z + 0.1) } }), [
      iso(0),
    ]);
    const { points } = end.mesh;
    expect(points.length / 3).toBeGreaterThan(4);
    const middles: number[] = [];
    for (let i = 0; i < points.length; i += 3)
      if (Math.max(...points.subarray(i, i + 3).map(Math.abs)) < 0.99)
        middles.push(points[i] * points[i + 1] - points[i + 2] + 0.1);
    expect(middles.length).toBeGreaterThan(0);
    for (const off of middles) expect(Math.abs(off)).toBeLessThan(1e-5);
  });
});
