import { describe, expect, it } from 'vitest';
import {
  area,
  cornersOf,
  cubesOfEveryKind,
  edgeUses,
  oneCell,
  pointValues,
} from '../../tests/mesh-checks.ts';
import { hexBlock } from '../../tests/vtu-builder.ts';
import { cellTypes } from '../model/cell-types.ts';
import { type Mesh, meshDimension } from '../model/mesh.ts';
import { replay } from '../model/recipe.ts';
import { runChain, sourceOf } from './chain/chain.ts';
import { plainContext } from './chain/workpiece.ts';
import { section } from './section.ts';

const unit = (n: number[]): [number, number, number] =>
  n.map((v) => v / Math.hypot(...n)) as [number, number, number];
const cut = (mesh: Mesh, normal: number[], offset: number, origin: [number, number, number] = [0, 0, 0]) => {
  const options = section.schema.parse({ normal: unit(normal), offset: offset / Math.hypot(...normal) });
  return section.run(sourceOf(mesh, plainContext(origin)), options);
};

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
      const values = replay(recipe!.points, field, 1, 0);
      for (let v = 0; v < values.length; v++) {
        const [x, y, z] = out.points.subarray(3 * v, 3 * v + 3);
        expect(values[v]).toBeCloseTo(linear(x, y, z), 5);
        expect(0.31 * x + 0.52 * y + 0.43 * z).toBeCloseTo(0.45, 6);
      }
      expect(recipe!.cells.index.every((c) => c === 0)).toBe(true);
    });
  }
});

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
    const uses = edgeUses(out);
    expect(Math.max(...uses.values())).toBe(2);
    const rim = [...uses].filter(([, n]) => n === 1).length;
    expect(rim).toBeGreaterThan(4);
    expect(rim).toBeLessThan(uses.size / 2);
  });
});

it('is drawn at the end of a chain, and a chain of nothing shows the surface', () => {
  const source = sourceOf(hexBlock(3) as Mesh);
  expect(area(runChain(source, []).mesh)).toBeCloseTo(6, 5);
  const line = runChain(source, [
    { op: 'section', options: { normal: [0, 0, 1], offset: 0.4, locked: false } },
    { op: 'section', options: { normal: [1, 0, 0], offset: 0.5, locked: false } },
  ]);
  expect(meshDimension(line.mesh.types)).toBe(1);
  const heights = pointValues(line, source.mesh.points, 3, 2);
  for (const h of heights) expect(h).toBeCloseTo(0.4, 6);
});

it('passes over a normal without length and an operation it does not know', () => {
  const source = sourceOf(hexBlock(1) as Mesh);
  const plain = runChain(source, []).mesh;
  expect(runChain(source, [{ op: 'melt', options: { heat: 3 } }]).mesh).toEqual(plain);
  const flat = { normal: [0, 0, 0], offset: 0, locked: false };
  expect(runChain(source, [{ op: 'section', options: flat }]).mesh).toEqual(plain);
});

describe('a section through whole cells', () => {
  it('keeps exactly those it goes through, uncut, and leads back to them', () => {
    const mesh = hexBlock(5) as Mesh;
    const whole = (offset: number) =>
      section.run(
        sourceOf(mesh, plainContext([0, 0, 0])),
        section.schema.parse({ normal: [1, 0, 0], offset, whole: true }),
      );
    const { mesh: made, recipe } = whole(0.5);
    expect(made.types).toHaveLength(25);
    expect(meshDimension(made.types)).toBe(3);
    expect([...made.points].filter((_, i) => i % 3 === 0).every((x) => x > 0.39 && x < 0.61)).toBe(true);
    const cells = replay(
      recipe!.cells,
      Float32Array.from(mesh.types, (_, c) => c),
      1,
      0,
    );
    for (const [i, c] of cells.entries()) {
      const corners = [...mesh.connectivity.subarray(mesh.offsets[c], mesh.offsets[c + 1])];
      const mine = [...made.connectivity.subarray(made.offsets[i], made.offsets[i + 1])];
      for (const [k, p] of corners.entries())
        for (const axis of [0, 1, 2]) expect(made.points[3 * mine[k] + axis]).toBe(mesh.points[3 * p + axis]);
    }
    // Where it lies between cells, those on both sides.
    expect(whole(Math.fround(0.4)).mesh.types.length).toBe(50);
    expect(whole(2).report?.within).toMatchObject({ low: 0, high: 1 });
    expect(section.gives(3, section.schema.parse({ normal: [1, 0, 0], offset: 0, whole: true }))).toBe(3);
  });
  it('goes through some of every kind', () => {
    for (const [kind, mesh] of Object.entries(cubesOfEveryKind())) {
      const found = section.run(
        sourceOf(mesh, plainContext([0, 0, 0])),
        section.schema.parse({ normal: [1, 0.2, 0.1], offset: 0.6, whole: true }),
      );
      expect(found.mesh.types.length, kind).toBeGreaterThan(0);
    }
  });
});
