import { describe, expect, it } from 'vitest';
import { hexBlock } from '../../tests/vtu-builder.ts';
import { cellTypes } from '../model/cell-types.ts';
import { type Mesh, meshDimension } from '../model/mesh.ts';
import { replay } from '../model/recipe.ts';
import { ChainSource, runChain } from './chain.ts';
import { type SectionOptions, section } from './section.ts';

const unit = (n: number[]): [number, number, number] =>
  n.map((v) => v / Math.hypot(...n)) as [number, number, number];
const cut = (mesh: Mesh, normal: number[], offset: number, origin: [number, number, number] = [0, 0, 0]) => {
  const options: SectionOptions = {
    normal: unit(normal),
    offset: offset / Math.hypot(...normal),
    locked: false,
  };
  return section.run(new ChainSource(mesh, origin), options);
};

function area({ points: p, types, offsets, connectivity }: Mesh): number {
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

/**
 * Area of the section of the unit cube by n . x = d with all n > 0: |n| / (2 n1 n2 n3) times the alternating sum of
 * max(0, d - n . v)^2 over the corners v. It is the derivative of the closed formula for the volume of a cube cut by
 * a half-space (Barrow and Smith 1979, "Spline notation applied to a volume problem"); from memory.
 */
function cubeSectionArea(n: number[], d: number): number {
  let sum = 0;
  for (let v = 0; v < 8; v++) {
    const corner = [v & 1, (v >> 1) & 1, v >> 2];
    const rest = Math.max(0, d - n.reduce((s, c, k) => s + c * corner[k], 0));
    sum += (-1) ** (corner[0] + corner[1] + corner[2]) * rest ** 2;
  }
  return (Math.hypot(...n) * sum) / (2 * n[0] * n[1] * n[2]);
}

describe('the area of a section of a unit cube', () => {
  for (const [n, d] of [
    [[1, 1, 1], 1.5],
    [[1, 1, 1], 0.4],
    [[0.3, 1.1, 0.7], 1.2],
    [[2, 0.5, 1], 0.9],
    [[1, 3, 0.2], 3.3],
  ] as const) {
    for (const cells of [1, 4]) {
      it(`by ${n.join(' ')} at ${d}, of ${cells ** 3} cells`, () => {
        expect(area(cut(hexBlock(cells) as Mesh, [...n], d).mesh)).toBeCloseTo(cubeSectionArea([...n], d), 6);
      });
    }
  }
  it('holds for the cube out of every kind of cell', () => {
    for (const mesh of Object.values(cubesOfEveryKind())) {
      expect(area(cut(mesh, [0.6, 1, 0.8], 1.1).mesh)).toBeCloseTo(cubeSectionArea([0.6, 1, 0.8], 1.1), 5);
    }
  });
});

/** Reference coordinates of the corners of each volume type, in the node order of the file format. */
const solids: Record<number, number[][]> = {
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
function oneCell(id: number, corners: number[][]): Mesh {
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

const cornersOf = (id: number): number[][] => {
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

describe('a linear field on a section is exact to rounding', () => {
  const linear = (x: number, y: number, z: number): number => 3 + 2 * x - 5 * y + 0.5 * z;
  for (const type of cellTypes.values()) {
    // Polyhedra have no corners of their own; see below.
    if (type.dimension === 0 || type.id === 42) continue;
    it(type.name, () => {
      const mesh = oneCell(type.id, cornersOf(type.id));
      const field = Float64Array.from({ length: mesh.points.length / 3 }, (_, i) =>
        linear(mesh.points[3 * i], mesh.points[3 * i + 1], mesh.points[3 * i + 2]),
      );
      const { mesh: out, recipe } = cut(mesh, [0.31, 0.52, 0.43], 0.45);
      expect(out.types.length).toBeGreaterThan(0);
      expect(meshDimension(out.types)).toBe(type.dimension - 1);
      const values = replay(recipe.points, field, 1, 0);
      for (let v = 0; v < values.length; v++) {
        const [x, y, z] = out.points.subarray(3 * v, 3 * v + 3);
        expect(values[v]).toBeCloseTo(linear(x, y, z), 5);
        expect(0.31 * x + 0.52 * y + 0.43 * z).toBeCloseTo(0.45, 6);
      }
      expect(Array.from(recipe.cells)).toEqual(Array.from(recipe.cells, () => 0));
    });
  }
});

/** The unit cube from tetrahedra, wedges, pyramids, a voxel. */
function cubesOfEveryKind(): Record<string, Mesh> {
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

describe('planes in special places', () => {
  const mesh = hexBlock(4) as Mesh;
  it('through mesh points gives each place once', () => {
    const { mesh: out } = cut(mesh, [0, 0, 1], 0.5);
    expect(area(out)).toBeCloseTo(1, 6);
    expect(out.points).toHaveLength(3 * 25);
  });
  it('at either end still shows the face', () => {
    expect(area(cut(mesh, [0, 0, 1], 0).mesh)).toBeCloseTo(1, 6);
    expect(area(cut(mesh, [0, 0, 1], 1).mesh)).toBeCloseTo(1, 6);
  });
  it('beside the mesh gives nothing', () => {
    expect(cut(mesh, [0, 0, 1], 1.01).mesh.types).toHaveLength(0);
  });
  it('counts in the coordinates of the files, whatever the origin', () => {
    expect(area(cut(mesh, [1, 0, 0], 1e6 + 0.3, [1e6, 0, 0]).mesh)).toBeCloseTo(1, 6);
  });
  it('neighbouring cells share their vertices: the outline is closed', () => {
    const { mesh: out } = cut(mesh, [0.9, 0.35, 0.6], 0.93);
    const uses = new Map<string, number>();
    for (let c = 0; c < out.types.length; c++) {
      const loop = Array.from(out.connectivity.subarray(out.offsets[c], out.offsets[c + 1]));
      loop.forEach((a, i) => {
        const b = loop[(i + 1) % loop.length];
        const key = a < b ? `${a} ${b}` : `${b} ${a}`;
        uses.set(key, (uses.get(key) ?? 0) + 1);
      });
    }
    expect(Math.max(...uses.values())).toBe(2);
    const rim = [...uses].filter(([, n]) => n === 1).length;
    expect(rim).toBeGreaterThan(4);
    expect(rim).toBeLessThan(uses.size / 2);
  });
});

it('is drawn at the end of a chain, and a chain of nothing shows the surface', () => {
  const source = new ChainSource(hexBlock(3) as Mesh, [0, 0, 0]);
  expect(area(runChain(source, []).mesh)).toBeCloseTo(6, 5);
  const line = runChain(source, [
    { op: 'section', options: { normal: [0, 0, 1], offset: 0.4, locked: false } },
    { op: 'section', options: { normal: [1, 0, 0], offset: 0.5, locked: false } },
  ]);
  expect(meshDimension(line.mesh.types)).toBe(1);
  expect(line.recipe.points.width).toBe(4);
  const heights = replay(line.recipe.points, source.mesh.points, 3, 2);
  for (const h of heights) expect(h).toBeCloseTo(0.4, 6);
});

it('refuses a normal without length and an operation it does not know', () => {
  const source = new ChainSource(hexBlock(1) as Mesh, [0, 0, 0]);
  expect(() =>
    runChain(source, [{ op: 'section', options: { normal: [0, 0, 0], offset: 0, locked: false } }]),
  ).toThrow(/no length/);
  expect(() => runChain(source, [{ op: 'melt' }])).toThrow(/no operation "melt"/);
});
