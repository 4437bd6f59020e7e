import { cellTypes } from '#core/model/cell-types.ts';
import { edgeMiddles } from '#core/model/edge-middles.ts';
import type { Mesh } from '#core/model/mesh.ts';

/** A single cell whose corners stand where the type has them, bent by a map; further nodes in the middles that are listed. */
export function bentCell(name: string, bend: (p: readonly number[]) => number[]): Mesh {
  const type = [...cellTypes.values()].find((t) => t.name === name)!;
  const cube = [
    [0, 0, 0],
    [1, 0, 0],
    [1, 1, 0],
    [0, 1, 0],
    [0, 0, 1],
    [1, 0, 1],
    [1, 1, 1],
    [0, 1, 1],
  ];
  const wedge = [cube[0], cube[1], cube[3], cube[4], cube[5], cube[7]];
  const corners: Record<string, number[][]> = {
    tetra: [cube[0], cube[1], cube[3], cube[4]],
    hexahedron: cube,
    voxel: [0, 1, 3, 2, 4, 5, 7, 6].map((i) => cube[i]),
    wedge,
    pyramid: [...cube.slice(0, 4), [0.5, 0.5, 1]],
    triangle: wedge.slice(0, 3),
    quad: cube.slice(0, 4),
    pixel: [0, 1, 3, 2].map((i) => cube[i]),
    hexaprism: [0, 1].flatMap((t) =>
      Array.from({ length: 6 }, (_, i) => [Math.cos((i * Math.PI) / 3), Math.sin((i * Math.PI) / 3), t]),
    ),
  };
  const base = Object.keys(corners).find((key) => key === name.replace(/\d+$/, ''))!;
  const own = corners[base];
  const middle = (list: readonly number[]): number[] =>
    [0, 1, 2].map((k) => list.reduce((s, i) => s + own[i][k], 0) / list.length);
  const middles = (edgeMiddles[name] ?? []).map(middle);
  const more: Record<string, number[][]> = {
    hexahedron27: [
      [0, 3, 7, 4],
      [1, 2, 6, 5],
      [0, 1, 5, 4],
      [3, 2, 6, 7],
      [0, 1, 2, 3],
      [4, 5, 6, 7],
      [0, 1, 2, 3, 4, 5, 6, 7],
    ],
    hexahedron24: [
      [0, 3, 7, 4],
      [1, 2, 6, 5],
      [0, 1, 5, 4],
      [3, 2, 6, 7],
    ],
    wedge18: [
      [0, 1, 4, 3],
      [1, 2, 5, 4],
      [2, 0, 3, 5],
    ],
    quad9: [[0, 1, 2, 3]],
    quad6: [
      [0, 1],
      [2, 3],
    ],
    wedge12: [
      [0, 1],
      [1, 2],
      [2, 0],
      [3, 4],
      [4, 5],
      [5, 3],
    ],
    triangle7: [[0, 1, 2]],
  };
  const nodes = [...own, ...middles, ...(more[name] ?? []).map(middle)];
  return {
    points: Float32Array.from(nodes.flatMap(bend)),
    types: Uint8Array.of(type.id),
    offsets: Uint32Array.of(0, nodes.length),
    connectivity: Uint32Array.from(nodes, (_, i) => i),
  };
}
