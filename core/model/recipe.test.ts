import { describe, expect, it } from 'vitest';
import { hexBlock } from '../../tests/vtu-builder.ts';
import { buildBlocks } from './blocks.ts';
import type { Mesh } from './mesh.ts';
import { compose, copyOf, type Gather, replay, weighted } from './recipe.ts';

const pairs = weighted(2, Uint32Array.of(0, 1, 1, 2, 2, 3), Float32Array.of(0.25, 0.75, 0.5, 0.5, 1, 0));
const copy = copyOf(Uint32Array.of(2, 0));
const field = Float64Array.of(10, 20, 40, 80);

describe('recipes', () => {
  it('replay scalars by copies, pairs and wider sums', () => {
    expect(Array.from(replay(copy, field, 1, 0))).toEqual([40, 10]);
    expect(Array.from(replay(pairs, field, 1, 0))).toEqual([17.5, 30, 40]);
    const wide = weighted(4, Uint32Array.of(0, 1, 2, 3), Float32Array.of(0.25, 0.25, 0.25, 0.25));
    expect(Array.from(replay(wide, field, 1, 0))).toEqual([37.5]);
  });
  it('replay components and the length of the interpolated vector', () => {
    const vectors = Float64Array.of(3, 4, 0, 3, -4, 0, 0, 0, 5, 1, 2, 2);
    expect(Array.from(replay(copy, vectors, 3, 2))).toEqual([5, 0]);
    expect(Array.from(replay(copy, vectors, 3, 'magnitude'))).toEqual([5, 5]);
    // Half way between (3, 4, 0) and (3, -4, 0) lies (3, 0, 0): its length is 3, not 5.
    const half = weighted(2, Uint32Array.of(0, 1), Float32Array.of(0.5, 0.5));
    expect(Array.from(replay(half, vectors, 3, 'magnitude'))).toEqual([3]);
  });
  it('compose to the same values as one after the other', () => {
    for (const [first, second] of [
      [pairs, copy],
      [pairs, pairs.index.length ? { ...pairs, index: Uint32Array.of(0, 1, 1, 2, 2, 0) } : pairs],
      [copy, weighted(2, Uint32Array.of(0, 1), Float32Array.of(0.5, 0.5))],
    ] as [Gather, Gather][]) {
      const once = replay(second, replay(first, field, 1, 0), 1, 0);
      expect(Array.from(replay(compose(first, second), field, 1, 0))).toEqual(Array.from(once));
    }
  });
});

describe('blocks', () => {
  it('hold every cell once, within their bounds', () => {
    const mesh = hexBlock(17) as Mesh;
    const { cells, start, bounds } = buildBlocks(mesh);
    expect(Array.from(cells).sort((a, b) => a - b)).toEqual(Array.from({ length: 17 ** 3 }, (_, i) => i));
    expect(start.length).toBeGreaterThan(10);
    for (let b = 0; b + 1 < start.length; b++) {
      for (let s = start[b]; s < start[b + 1]; s++) {
        for (let i = mesh.offsets[cells[s]]; i < mesh.offsets[cells[s] + 1]; i++) {
          for (let k = 0; k < 3; k++) {
            const v = mesh.points[3 * mesh.connectivity[i] + k];
            expect(v >= bounds[6 * b + 2 * k] && v <= bounds[6 * b + 2 * k + 1]).toBe(true);
          }
        }
      }
    }
  });
  it('manage flat, single and empty meshes', () => {
    const one = hexBlock(1) as Mesh;
    expect(buildBlocks(one).cells).toHaveLength(1);
    const none = {
      points: new Float32Array(0),
      types: new Uint8Array(0),
      offsets: Uint32Array.of(0),
      connectivity: new Uint32Array(0),
    };
    expect(buildBlocks(none).start).toHaveLength(1);
  });
});
