import type { Mesh } from '#core/model/mesh.ts';

/** A block of n x n x n hexahedra over the unit cube. */
export function hexahedra(n: number): Mesh {
  const points = new Float32Array((n + 1) ** 3 * 3);
  for (let k = 0, i = 0; k <= n; k++) {
    for (let j = 0; j <= n; j++) {
      for (let x = 0; x <= n; x++, i += 3) {
        points[i] = x / n;
        points[i + 1] = j / n;
        points[i + 2] = k / n;
      }
    }
  }
  const connectivity = new Uint32Array(8 * n ** 3);
  const at = (i: number, j: number, k: number): number => (k * (n + 1) + j) * (n + 1) + i;
  for (let k = 0, c = 0; k < n; k++) {
    for (let j = 0; j < n; j++) {
      for (let i = 0; i < n; i++, c += 8) {
        connectivity.set([at(i, j, k), at(i + 1, j, k), at(i + 1, j + 1, k), at(i, j + 1, k)], c);
        connectivity.set(
          [at(i, j, k + 1), at(i + 1, j, k + 1), at(i + 1, j + 1, k + 1), at(i, j + 1, k + 1)],
          c + 4,
        );
      }
    }
  }
  const cells = n ** 3;
  return {
    points,
    types: new Uint8Array(cells).fill(12),
    offsets: Uint32Array.from({ length: cells + 1 }, (_, c) => 8 * c),
    connectivity,
  };
}

/** A wavy sheet over the unit square, of two triangles for each of n x n squares. */
export function triangles(n: number): Mesh {
  const points = new Float32Array((n + 1) ** 2 * 3);
  for (let j = 0, i = 0; j <= n; j++)
    for (let x = 0; x <= n; x++, i += 3)
      points.set([x / n, j / n, 0.1 * Math.sin((9 * x) / n) * Math.cos((7 * j) / n)], i);
  const connectivity = new Uint32Array(6 * n ** 2);
  for (let j = 0, c = 0; j < n; j++)
    for (let x = 0; x < n; x++, c += 6) {
      const [a, b] = [j * (n + 1) + x, (j + 1) * (n + 1) + x];
      connectivity.set([a, a + 1, b + 1, a, b + 1, b], c);
    }
  const cells = 2 * n ** 2;
  return {
    points,
    types: new Uint8Array(cells).fill(5),
    offsets: Uint32Array.from({ length: cells + 1 }, (_, c) => 3 * c),
    connectivity,
  };
}

/** A block as `hexahedra` makes it with each hexahedron cut into six tetrahedra. */
export function tetrahedra(n: number): Mesh {
  const { points, connectivity } = hexahedra(n);
  const cut = [0, 1, 2, 6, 0, 2, 3, 6, 0, 3, 7, 6, 0, 7, 4, 6, 0, 4, 5, 6, 0, 5, 1, 6];
  const cells = 6 * n ** 3;
  const nodes = new Uint32Array(4 * cells);
  for (let c = 0, at = 0; c < n ** 3; c++) for (const k of cut) nodes[at++] = connectivity[8 * c + k];
  return {
    points,
    types: new Uint8Array(cells).fill(10),
    offsets: Uint32Array.from({ length: cells + 1 }, (_, c) => 4 * c),
    connectivity: nodes,
  };
}

/** Five scalar fields on the points of a mesh. */
export const fiveFields = (mesh: Mesh) =>
  ['a', 'b', 'c', 'd', 'e'].map((name, f) => ({
    name,
    location: 'point' as const,
    components: 1,
    data: Float32Array.from({ length: mesh.points.length / 3 }, (_, i) => Math.sin(i * 0.001 * (f + 1))),
  }));
