import { describe, expect, it } from 'vitest';
import { hexBlock } from '../../tests/vtu-builder.ts';
import { buildSurface } from '../model/mark-geometry.ts';
import type { Mesh } from '../model/mesh.ts';
import { sourceOf } from './chain/chain.ts';
import { surface } from './surface.ts';

const run = (mesh: Mesh) => surface.run(sourceOf(mesh), { smooth: 0, between: false, sets: [] });

describe('the surface', () => {
  it('of a block has its outer faces only, and only their points', () => {
    const { mesh, recipe } = run(hexBlock(5) as Mesh);
    expect(mesh.types).toHaveLength(6 * 25);
    expect(mesh.points).toHaveLength(3 * (6 ** 3 - 4 ** 3));
    expect(recipe!.cells.index).toHaveLength(6 * 25);
    expect(recipe!.points.weight).toBeNull();
  });

  it('turns its fronts outward, also of cells that are turned inside out', () => {
    const block = hexBlock(2) as Mesh;
    const swapped = block.connectivity.slice();
    for (let k = 0; k < 4; k++) [swapped[k], swapped[k + 4]] = [swapped[k + 4], swapped[k]];
    for (const connectivity of [block.connectivity, swapped]) {
      const { mesh } = run({ ...block, connectivity });
      for (let c = 0; c < mesh.types.length; c++) {
        const p = (k: number): number[] =>
          Array.from(
            mesh.points.subarray(
              3 * mesh.connectivity[mesh.offsets[c] + k],
              3 * mesh.connectivity[mesh.offsets[c] + k] + 3,
            ),
          );
        const [a, b, d] = [p(0), p(1), p(3)];
        const [u, v] = [b.map((x, k) => x - a[k]), d.map((x, k) => x - a[k])];
        const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
        const out = [0, 1, 2].map((k) => (a[k] + p(2)[k]) / 2 - 0.5);
        expect(n[0] * out[0] + n[1] * out[1] + n[2] * out[2]).toBeGreaterThan(0);
      }
    }
  });

  it('does not draw a skin twice: surface cells on volume faces are left out, free ones stay', () => {
    const block = hexBlock(1) as Mesh;
    const mesh: Mesh = {
      points: Float32Array.from([...block.points, 5, 5, 5]),
      types: Uint8Array.of(12, 9, 5, 3, 1),
      offsets: Uint32Array.of(0, 8, 12, 15, 17, 18),
      connectivity: Uint32Array.from([...block.connectivity, 0, 1, 3, 2, 6, 7, 8, 0, 1, 8]),
    };
    const { mesh: out, recipe } = run(mesh);
    expect(Array.from(out.types).sort()).toEqual([5, 9, 9, 9, 9, 9, 9]);
    expect(Array.from(recipe!.cells.index).filter((c) => c === 1)).toHaveLength(0);
    expect(Array.from(recipe!.cells.index)).toContain(2);
  });

  it('walks pixels and strips in the right order', () => {
    const points = Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0, 1, 1, 0);
    const pixel = run({
      points,
      types: Uint8Array.of(8),
      offsets: Uint32Array.of(0, 4),
      connectivity: Uint32Array.of(0, 1, 2, 3),
    });
    expect(Array.from(pixel.recipe!.points.index)).toEqual([0, 1, 3, 2]);
    const strip = run({
      points,
      types: Uint8Array.of(6),
      offsets: Uint32Array.of(0, 4),
      connectivity: Uint32Array.of(0, 1, 2, 3),
    });
    expect(strip.mesh.types).toHaveLength(2);
    const { normals } = buildSurface(strip.mesh, false);
    for (let i = 2; i < normals.length; i += 3) expect(normals[i]).toBe(1);
  });
});

describe('what is drawn', () => {
  it('keeps the corners of a block sharp and each face flat', () => {
    const d = buildSurface(run(hexBlock(1) as Mesh).mesh, false);
    expect(d.positions).toHaveLength(3 * 24);
    expect(d.triangles).toHaveLength(3 * 12);
    expect(d.edges).toHaveLength(2 * 12);
    for (let i = 0; i < 72; i += 3)
      expect(Math.max(...Array.from(d.normals.subarray(i, i + 3)).map(Math.abs))).toBe(1);
  });
  it('shares vertices on smooth ground, and not between cells when fields are per cell', () => {
    const mesh = run(hexBlock(4) as Mesh).mesh;
    expect(buildSurface(mesh, false).positions).toHaveLength(3 * 6 * 25);
    const split = buildSurface(mesh, true);
    expect(split.positions).toHaveLength(3 * 4 * 96);
    for (let t = 0; t < split.triangles.length; t += 3) {
      expect(split.vertexCell[split.triangles[t]]).toBe(split.vertexCell[split.triangles[t + 2]]);
    }
  });
});
