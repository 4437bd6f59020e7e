import { cellTypes } from '#core/model/cell-types.ts';
import type { MeshField } from '#core/model/field.ts';
import type { Mesh } from '#core/model/mesh.ts';
import { identityGather, replay } from '#core/model/recipe.ts';
import { plainContext, Workpiece } from '#core/ops/chain/workpiece.ts';

/** A mesh with fields by name; on points and of one component unless they say otherwise. */
export const withFields = (
  mesh: Mesh,
  fields: Record<string, Partial<MeshField> & { data: ArrayLike<number> }>,
): Workpiece =>
  Workpiece.source(mesh, {
    ...plainContext(),
    fields: new Map(
      Object.entries(fields).map(([name, f]): [string, MeshField] => [
        name,
        { location: 'point', components: 1, axial: false, ...f },
      ]),
    ),
  });

/** Values of a point field at the points of a piece. */
export function pointValues(
  piece: Workpiece,
  data: ArrayLike<number>,
  components = 1,
  component: number | 'magnitude' = 0,
) {
  const { gather } = piece.route('point');
  return replay(gather ?? identityGather(piece.mesh.points.length / 3), data, components, component);
}

/** Area of the surface cells of a mesh, in triangles around their first node. */
export function area({ points: p, types, offsets, connectivity }: Mesh): number {
  let sum = 0;
  for (let c = 0; c < types.length; c++) {
    if (cellTypes.get(types[c])!.dimension !== 2) continue;
    const at = (i: number): number[] => [0, 1, 2].map((k) => p[3 * connectivity[i] + k]);
    const a = at(offsets[c]);
    const n = [0, 0, 0];
    for (let i = offsets[c] + 1; i + 1 < offsets[c + 1]; i++) {
      const [b, d] = [at(i), at(i + 1)].map((q) => q.map((v, k) => v - a[k]));
      n[0] += b[1] * d[2] - b[2] * d[1];
      n[1] += b[2] * d[0] - b[0] * d[2];
      n[2] += b[0] * d[1] - b[1] * d[0];
    }
    sum += Math.hypot(...n) / 2;
  }
  return sum;
}

/** How often each edge of the surface cells is used, by its two points. */
export function edgeUses(mesh: Mesh): Map<string, number> {
  const uses = new Map<string, number>();
  for (let c = 0; c < mesh.types.length; c++) {
    const loop = Array.from(mesh.connectivity.subarray(mesh.offsets[c], mesh.offsets[c + 1]));
    loop.forEach((a, i) => {
      const b = loop[(i + 1) % loop.length];
      const key = a < b ? `${a} ${b}` : `${b} ${a}`;
      uses.set(key, (uses.get(key) ?? 0) + 1);
    });
  }
  return uses;
}

/** Reference coordinates of the corners of each volume type, in the node order of the file format. */
export const solids: Record<number, number[][]> = {
  10: [
    [0, 0, 0],
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ],
  11: [
    [0, 0, 0],
    [1, 0, 0],
    [0, 1, 0],
    [1, 1, 0],
    [0, 0, 1],
    [1, 0, 1],
    [0, 1, 1],
    [1, 1, 1],
  ],
  12: [
    [0, 0, 0],
    [1, 0, 0],
    [1, 1, 0],
    [0, 1, 0],
    [0, 0, 1],
    [1, 0, 1],
    [1, 1, 1],
    [0, 1, 1],
  ],
  13: [
    [0, 0, 0],
    [0, 1, 0],
    [1, 0, 0],
    [0, 0, 1],
    [0, 1, 1],
    [1, 0, 1],
  ],
  14: [
    [0, 0, 0],
    [1, 0, 0],
    [1, 1, 0],
    [0, 1, 0],
    [0.5, 0.5, 1],
  ],
  15: ring(5),
  16: ring(6),
};

function ring(n: number): number[][] {
  const base = Array.from({ length: n }, (_, i) => [
    0.5 + 0.5 * Math.cos((2 * Math.PI * i) / n),
    0.5 + 0.5 * Math.sin((2 * Math.PI * i) / n),
    0,
  ]);
  return [...base, ...base.map(([x, y]) => [x, y, 1])];
}

/** One cell of a type with its extra nodes, if any, placed anywhere: only the corners shape it. */
export function oneCell(id: number, corners: number[][]): Mesh {
  const { nodes } = cellTypes.get(id)!;
  const count = nodes || corners.length;
  const points = Array.from({ length: count }, (_, i) => corners[i] ?? [9, 9, 9]).flat();
  return {
    points: Float32Array.from(points),
    types: Uint8Array.of(id),
    offsets: Uint32Array.of(0, count),
    connectivity: Uint32Array.from({ length: count }, (_, i) => i),
  };
}

export const cornersOf = (id: number): number[][] => {
  const type = cellTypes.get(id)!;
  if (solids[id]) return solids[id];
  const linear = Object.keys(solids)
    .map(Number)
    .find((l) => cellTypes.get(l)!.corners === type.corners && l !== 11);
  if (type.dimension === 3) return solids[linear!];
  if (type.dimension === 2)
    return id === 8
      ? [
          [0, 0, 0],
          [1, 0, 0.2],
          [0, 1, 0.1],
          [1, 1, 0.3],
        ]
      : [
          [0, 0, 0],
          [1, 0, 0.2],
          [1, 1, 0.3],
          [0, 1, 0.1],
        ].slice(0, type.corners || 4);
  return [
    [0.1, 0.2, 0.3],
    [0.8, 0.7, 0.9],
  ];
};

/** The unit cube from tetrahedra, wedges, pyramids, a voxel. */
export function cubesOfEveryKind(): Record<string, Mesh> {
  const corners = solids[12];
  const build = (id: number, cells: number[][], extra: number[][] = []): Mesh => ({
    points: Float32Array.from([...corners, ...extra].flat()),
    types: new Uint8Array(cells.length).fill(id),
    offsets: Uint32Array.from({ length: cells.length + 1 }, (_, c) => c * cells[0].length),
    connectivity: Uint32Array.from(cells.flat()),
  });
  return {
    tetra: build(10, [
      [0, 1, 2, 6],
      [0, 2, 3, 6],
      [0, 3, 7, 6],
      [0, 7, 4, 6],
      [0, 4, 5, 6],
      [0, 5, 1, 6],
    ]),
    wedge: build(13, [
      [0, 2, 1, 4, 6, 5],
      [0, 3, 2, 4, 7, 6],
    ]),
    pyramid: build(
      14,
      [
        [0, 1, 2, 3, 8],
        [4, 7, 6, 5, 8],
        [0, 4, 5, 1, 8],
        [1, 5, 6, 2, 8],
        [2, 6, 7, 3, 8],
        [3, 7, 4, 0, 8],
      ],
      [[0.5, 0.5, 0.5]],
    ),
    voxel: build(11, [[0, 1, 3, 2, 4, 5, 7, 6]]),
  };
}
