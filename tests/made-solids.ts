import { cellTypes } from '#core/model/cell-types.ts';
import type { Mesh } from '#core/model/mesh.ts';

export { randomNumbers as seeded } from '#core/model/random-numbers.ts';

/**
 * A block of n x n x n cubes, each cut into cells of the kinds named in turn: neighbours of different kinds share
 * whole faces, because every cut face is cut along the same diagonal on both sides.
 */
export function mixedBlock(n: number, low = -1, high = 1): Mesh {
  const cubes = hexBlockBetween(n, low, high);
  const points = Array.from(cubes.points);
  const types: number[] = [];
  const offsets = [0];
  const connectivity: number[] = [];
  const add = (id: number, nodes: number[]): void => {
    types.push(id);
    connectivity.push(...nodes);
    offsets.push(connectivity.length);
  };
  for (let cell = 0; cell < n ** 3; cell++) {
    const c = Array.from(cubes.connectivity.subarray(8 * cell, 8 * cell + 8));
    const [i, j] = [cell % n, Math.floor(cell / n) % n];
    // Columns along z are of one kind: hexahedra, pyramids around a middle, or voxels; their faces are all whole.
    const kind = (i + 2 * j) % 3;
    if (kind === 0) add(12, c);
    else if (kind === 1) add(11, [c[0], c[1], c[3], c[2], c[4], c[5], c[7], c[6]]);
    else {
      const m = points.length / 3;
      for (let d = 0; d < 3; d++) points.push((points[3 * c[0] + d] + points[3 * c[6] + d]) / 2);
      for (const f of cellTypes.get(12)!.faces) add(14, [...f.map((v) => c[v]).reverse(), m]);
    }
  }
  return {
    points: Float32Array.from(points),
    types: Uint8Array.from(types),
    offsets: Uint32Array.from(offsets),
    connectivity: Uint32Array.from(connectivity),
  };
}

/** The cube from -1 to 1 in n x n x n cubes of six tetrahedra. */
export function tetraBlock(n: number, low = -1, high = 1): Mesh {
  const hex = hexBlockBetween(n, low, high);
  const cut = [0, 1, 2, 6, 0, 2, 3, 6, 0, 3, 7, 6, 0, 7, 4, 6, 0, 4, 5, 6, 0, 5, 1, 6];
  const cells = hex.types.length * 6;
  const nodes = new Uint32Array(4 * cells);
  for (let c = 0, at = 0; c < hex.types.length; c++)
    for (const k of cut) nodes[at++] = hex.connectivity[8 * c + k];
  return {
    points: hex.points,
    types: new Uint8Array(cells).fill(10),
    offsets: Uint32Array.from({ length: cells + 1 }, (_, c) => 4 * c),
    connectivity: nodes,
  };
}

export function hexBlockBetween(n: number, low = -1, high = 1): Mesh {
  const at = (i: number, j: number, k: number): number => (k * (n + 1) + j) * (n + 1) + i;
  const points: number[] = [];
  for (let k = 0; k <= n; k++)
    for (let j = 0; j <= n; j++)
      for (let i = 0; i <= n; i++) for (const v of [i, j, k]) points.push(low + ((high - low) * v) / n);
  const connectivity: number[] = [];
  for (let k = 0; k < n; k++)
    for (let j = 0; j < n; j++)
      for (let i = 0; i < n; i++)
        connectivity.push(
          at(i, j, k),
          at(i + 1, j, k),
          at(i + 1, j + 1, k),
          at(i, j + 1, k),
          at(i, j, k + 1),
          at(i + 1, j, k + 1),
          at(i + 1, j + 1, k + 1),
          at(i, j + 1, k + 1),
        );
  return {
    points: Float32Array.from(points),
    types: new Uint8Array(n ** 3).fill(12),
    offsets: Uint32Array.from({ length: n ** 3 + 1 }, (_, c) => 8 * c),
    connectivity: Uint32Array.from(connectivity),
  };
}

/** A flat rectangle of n x m quadrilaterals in the plane z = 0. */
export function quadSheet(n: number, m: number, x: [number, number], y: [number, number]): Mesh {
  const points: number[] = [];
  for (let j = 0; j <= m; j++)
    for (let i = 0; i <= n; i++)
      points.push(x[0] + ((x[1] - x[0]) * i) / n, y[0] + ((y[1] - y[0]) * j) / m, 0);
  const connectivity: number[] = [];
  for (let j = 0; j < m; j++)
    for (let i = 0; i < n; i++) {
      const a = j * (n + 1) + i;
      connectivity.push(a, a + 1, a + n + 2, a + n + 1);
    }
  return {
    points: Float32Array.from(points),
    types: new Uint8Array(n * m).fill(9),
    offsets: Uint32Array.from({ length: n * m + 1 }, (_, c) => 4 * c),
    connectivity: Uint32Array.from(connectivity),
  };
}

/** A field from a function of the place. */
export const fieldOf = (mesh: Mesh, f: (x: number, y: number, z: number) => number): Float32Array =>
  Float32Array.from({ length: mesh.points.length / 3 }, (_, i) =>
    f(mesh.points[3 * i], mesh.points[3 * i + 1], mesh.points[3 * i + 2]),
  );

/** Volume that closed surfaces enclose, whichever way their faces are walked as long as it is outward (divergence theorem). */
export function enclosed({ points: p, offsets, connectivity, types }: Mesh): number {
  let six = 0;
  for (let c = 0; c < types.length; c++) {
    const n = offsets[c + 1] - offsets[c];
    const node = (k: number): number[] => {
      const at = 3 * connectivity[offsets[c] + (k % n)];
      return [p[at], p[at + 1], p[at + 2]];
    };
    const m = [0, 1, 2].map(
      (i) => Array.from({ length: n }, (_, k) => node(k)[i]).reduce((a, b) => a + b) / n,
    );
    for (let k = 0; k < n; k++) {
      const [a, b] = [node(k), node(k + 1)];
      six +=
        m[0] * (a[1] * b[2] - a[2] * b[1]) +
        m[1] * (a[2] * b[0] - a[0] * b[2]) +
        m[2] * (a[0] * b[1] - a[1] * b[0]);
    }
  }
  return six / 6;
}
