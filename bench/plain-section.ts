import { cellTypes, edgesOf } from '#core/model/cell-types.ts';
import type { Mesh } from '#core/model/mesh.ts';

/**
 * The yardstick for sections: the plainest full scan. Signed heights of all points, every cell looked at, crossed
 * edges put into a map under a text-free key, no blocks, no tables of cases. Gives the crossing points only.
 */
export function plainSection(mesh: Mesh, normal: readonly number[], offset: number): number {
  const { points } = mesh;
  const n = points.length / 3;
  const height = new Float64Array(n);
  for (let i = 0; i < n; i++) {
    height[i] =
      normal[0] * points[3 * i] + normal[1] * points[3 * i + 1] + normal[2] * points[3 * i + 2] - offset;
  }
  return plainCut(mesh, height);
}

/** The same for a value of a field. */
export function plainIsosurface(mesh: Mesh, values: Float32Array, value: number): number {
  return plainCut(
    mesh,
    Float64Array.from(values, (v) => v - value),
  );
}

function plainCut({ points, types, offsets, connectivity }: Mesh, height: Float64Array): number {
  const n = height.length;
  const edges = edgesOf(cellTypes.get(types[0])!);
  const found = new Map<number, number>();
  const out: number[] = [];
  for (let c = 0; c < types.length; c++) {
    const from = offsets[c];
    for (const [i, j] of edges) {
      const a = connectivity[from + i];
      const b = connectivity[from + j];
      if (height[a] >= 0 === height[b] >= 0) continue;
      const key = Math.min(a, b) * n + Math.max(a, b);
      if (found.has(key)) continue;
      found.set(key, out.length);
      const t = height[a] / (height[a] - height[b]);
      for (let k = 0; k < 3; k++) out.push(points[3 * a + k] + t * (points[3 * b + k] - points[3 * a + k]));
    }
  }
  return found.size;
}
