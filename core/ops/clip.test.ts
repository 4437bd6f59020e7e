import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { enclosed, fieldOf, hexBlockBetween, mixedBlock, tetraBlock } from '../../tests/made-solids.ts';
import { area, cubesOfEveryKind, edgeUses, pointValues } from '../../tests/mesh-checks.ts';
import { cellMeasures } from '../fields/cell-measures.ts';
import type { MeshField } from '../model/field.ts';
import type { Mesh } from '../model/mesh.ts';
import { apply, sourceOf } from './chain/chain.ts';
import { plainContext, type Workpiece } from './chain/workpiece.ts';

const withFields = (mesh: Mesh, fields: Record<string, Float32Array>): Workpiece =>
  sourceOf(mesh, {
    ...plainContext(),
    fields: new Map(
      Object.entries(fields).map(([name, data]): [string, MeshField] => [
        `point:${name}`,
        { location: 'point', components: 1, data, axial: false },
      ]),
    ),
  });
const clip = (piece: Workpiece, options: object): Workpiece => apply(piece, { op: 'clip', options });
const volume = (piece: Workpiece): number => cellMeasures(piece.mesh).reduce((a, b) => a + Math.abs(b), 0);

/**
 * Volume of the unit cube below n . x = d for n > 0: alternating sum of max(0, d - n . v)^3 over the corners v, over
 * 6 n1 n2 n3 (Barrow and Smith 1979; from memory).
 */
function cubeBelow(n: number[], d: number): number {
  let sum = 0;
  for (let v = 0; v < 8; v++) {
    const corner = [v & 1, (v >> 1) & 1, v >> 2];
    const rest = Math.max(0, d - n.reduce((s, c, k) => s + c * corner[k], 0));
    sum += (-1) ** (corner[0] + corner[1] + corner[2]) * rest ** 3;
  }
  return sum / (6 * n[0] * n[1] * n[2]);
}

/** Points of a surface that lie at one place made one, so that edges of pieces that were joined meet. */
function welded(mesh: Mesh): Mesh {
  const known = new Map<string, number>();
  const to = Array.from({ length: mesh.points.length / 3 }, (_, i) => {
    const key = Array.from(mesh.points.subarray(3 * i, 3 * i + 3), (v) => Math.round(v * 1e5)).join();
    if (!known.has(key)) known.set(key, i);
    return known.get(key)!;
  });
  return { ...mesh, connectivity: mesh.connectivity.map((p) => to[p]) };
}

describe('clip by a plane', () => {
  for (const [name, mesh] of Object.entries(cubesOfEveryKind())) {
    it(`of a cube of ${name} has the volume of the closed formula, above and below`, () => {
      for (const [n, d] of [
        [[0.6, 1, 0.8], 1.1],
        [[1, 1, 1], 0.4],
        [[0.3, 0.2, 0.9], 1.0],
      ] as const) {
        const length = Math.hypot(...n);
        const plane = { normal: n.map((v) => v / length), offset: d / length };
        const below = volume(clip(sourceOf(mesh), { ...plane, invert: true }));
        const above = volume(clip(sourceOf(mesh), plane));
        expect(below).toBeCloseTo(cubeBelow([...n], d), 5);
        expect(above).toBeCloseTo(1 - cubeBelow([...n], d), 5);
      }
    });
  }

  it('closes what it cuts: every edge is used twice and the divergence theorem gives the volume', () => {
    for (const mesh of [tetraBlock(3), hexBlockBetween(4), mixedBlock(3)]) {
      const piece = clip(sourceOf(mesh), { normal: [0.48, 0.6, 0.64], offset: 0.21 });
      const outer = piece.outer().mesh;
      for (const uses of edgeUses(welded(outer)).values()) expect(uses).toBe(2);
      // The same through the cells of the clip, whose outer faces are found like those of any body.
      const cells = sourceOf(piece.mesh).outer().mesh;
      for (const uses of edgeUses(cells).values()) expect(uses).toBe(2);
      expect(enclosed(cells)).toBeCloseTo(volume(piece), 5);
      expect(area(outer)).toBeCloseTo(area(cells), 4);
    }
  });

  it('leaves it open when asked', () => {
    const closed = clip(sourceOf(hexBlockBetween(4)), { offset: 0.1 }).outer().mesh;
    const open = clip(sourceOf(hexBlockBetween(4)), { offset: 0.1, caps: false }).outer().mesh;
    expect(area(closed) - area(open)).toBeCloseTo(4, 5);
  });

  it('keeps whole cells by their middle, and the other side is the rest', () => {
    const source = sourceOf(hexBlockBetween(5));
    const one = clip(source, { offset: 0.1, whole: true });
    const other = clip(source, { offset: 0.1, whole: true, invert: true });
    expect([one.mesh.types.length, other.mesh.types.length]).toEqual([50, 75]);
    expect(volume(one) + volume(other)).toBeCloseTo(8, 5);
  });

  it('follows another clip, and a section of the two is the section of the wedge', () => {
    const source = sourceOf(hexBlockBetween(4));
    const quarter = clip(clip(source, { normal: [1, 0, 0], offset: 0.25 }), {
      normal: [0, 1, 0],
      offset: -0.3,
    });
    expect(volume(quarter)).toBeCloseTo(0.75 * 1.3 * 2, 5);
    const cut = apply(quarter, { op: 'section', options: { normal: [0, 0, 1], offset: 0.1 } });
    expect(area(cut.mesh)).toBeCloseTo(0.75 * 1.3, 5);
    expect(enclosed(sourceOf(quarter.mesh).outer().mesh)).toBeCloseTo(0.75 * 1.3 * 2, 5);
  });
});

it('random planes: two sides add up to the whole, on any kind of cell and in any order of cells', () => {
  const meshes = [tetraBlock(2), hexBlockBetween(2), mixedBlock(3)];
  fc.assert(
    fc.property(
      fc.constantFrom(...meshes.keys()),
      fc.tuple(fc.float({ min: -1, max: 1 }), fc.float({ min: -1, max: 1 }), fc.float({ min: -1, max: 1 })),
      fc.float({ min: -1, max: 1, noNaN: true }),
      fc.integer({ min: 0, max: 1000 }),
      (which, direction, offset, shift) => {
        const length = Math.hypot(...direction);
        fc.pre(length > 0.1);
        const mesh = rolled(meshes[which], shift);
        const plane = { normal: direction.map((v) => v / length), offset };
        const [above, below] = [false, true].map((invert) => clip(sourceOf(mesh), { ...plane, invert }));
        expect(volume(above) + volume(below)).toBeCloseTo(8, 4);
        expect(area(above.outer().mesh) + area(below.outer().mesh)).toBeGreaterThan(24 - 1e-4);
      },
    ),
    { seed: 4, numRuns: 60 },
  );
});

/** The same cells beginning with another. */
function rolled(mesh: Mesh, by: number): Mesh {
  const n = mesh.types.length;
  const order = Array.from({ length: n }, (_, i) => (i + by) % n);
  const nodes = order.map((c) =>
    Array.from(mesh.connectivity.subarray(mesh.offsets[c], mesh.offsets[c + 1])),
  );
  const offsets = [0];
  for (const list of nodes) offsets.push(offsets[offsets.length - 1] + list.length);
  return {
    ...mesh,
    types: Uint8Array.from(order, (c) => mesh.types[c]),
    offsets: Uint32Array.from(offsets),
    connectivity: Uint32Array.from(nodes.flat()),
  };
}

describe('clip by other shapes', () => {
  const source = () => sourceOf(hexBlockBetween(6));
  it('a box, and what is left without it', () => {
    const box = { shape: 'box', low: [-0.5, -0.3, -2], high: [0.2, 0.6, 0.4] };
    const inside = 0.7 * 0.9 * 1.4;
    expect(volume(clip(source(), box))).toBeCloseTo(inside, 4);
    expect(volume(clip(source(), { ...box, invert: true }))).toBeCloseTo(8 - inside, 4);
    // Its outer faces: the cube less the window of the box at the bottom, and the five walls of the hole.
    expect(area(clip(source(), { ...box, invert: true }).outer().mesh)).toBeCloseTo(
      24 - 0.7 * 0.9 + 0.7 * 0.9 + 2 * 1.4 * (0.7 + 0.9),
      3,
    );
  });
  it('a slab', () => {
    const slab = { shape: 'slab', normal: [0, 0, 1], offset: -0.1, thickness: 0.35 };
    expect(volume(clip(source(), slab))).toBeCloseTo(4 * 0.35, 4);
    expect(volume(clip(source(), { ...slab, invert: true }))).toBeCloseTo(8 - 4 * 0.35, 4);
  });
  it('a sphere and a cylinder, with the error falling by four when cells are halved', () => {
    const errors = (shape: object, exact: number): number[] =>
      [8, 16].map((n) => Math.abs(volume(clip(sourceOf(tetraBlock(n)), shape)) - exact));
    for (const [shape, exact] of [
      [{ shape: 'sphere', radius: 0.8 }, (4 / 3) * Math.PI * 0.8 ** 3],
      [{ shape: 'cylinder', radius: 0.7, normal: [0, 0, 1] }, 2 * Math.PI * 0.7 ** 2],
    ] as const) {
      const [coarse, fine] = errors(shape, exact);
      expect(fine).toBeLessThan(0.02 * exact);
      expect(Math.log2(coarse / fine)).toBeGreaterThan(1.7);
    }
  });
});

describe('clip by value', () => {
  const mesh = tetraBlock(4);
  const data = fieldOf(mesh, (x, y, z) => x * x + 0.5 * y - z * x);
  const source = () => withFields(mesh, { heat: data });
  const by = (options: object) => clip(source(), { shape: 'value', field: 'point:heat', ...options });
  it('above and below add up to the whole to rounding', () => {
    for (const value of [-0.9, 0, 0.31, 1.2])
      expect(volume(by({ value })) + volume(by({ value, invert: true }))).toBeCloseTo(8, 5);
  });
  it('carries the values along: none of what is kept is below', () => {
    const kept = by({ value: 0.31 });
    expect(Math.min(...pointValues(kept, data))).toBeGreaterThan(0.31 - 1e-5);
    const between = by({ side: 'between', value: -0.2, second: 0.31 });
    const values = pointValues(between, data);
    expect(Math.min(...values)).toBeGreaterThan(-0.2 - 1e-5);
    expect(Math.max(...values)).toBeLessThan(0.31 + 1e-5);
  });
  it('says where there would have been something', () => {
    const empty = by({ value: 99 });
    expect(empty.outer().mesh.types).toHaveLength(0);
    const report = empty.outer().report();
    expect(report.within!.low).toBeCloseTo(Math.min(...data), 5);
    expect(report.within!.high).toBeCloseTo(Math.max(...data), 5);
  });
  it('cuts away and counts what has no value', () => {
    const holed = data.slice();
    holed[62] = Number.NaN;
    const around = Array.from({ length: mesh.types.length }, (_, c) => c).filter((c) =>
      mesh.connectivity.subarray(mesh.offsets[c], mesh.offsets[c + 1]).includes(62),
    ).length;
    const kept = clip(withFields(mesh, { heat: holed }), { shape: 'value', field: 'point:heat', value: -99 });
    expect(kept.mesh.types).toHaveLength(mesh.types.length - around);
    expect(kept.report().missing).toBe(around);
  });
});

it('cuts surfaces and lines as well', () => {
  const sheet = sourceOf(hexBlockBetween(4)).outer();
  expect(area(clip(sheet, { normal: [1, 0, 0], offset: 0.3 }).mesh)).toBeCloseTo(4 + 4 * 2 * 0.7, 5);
  const lines = apply(sheet, { op: 'edges', options: {} });
  const half = clip(lines, { normal: [0, 0, 1], offset: 0 });
  expect(half.mesh.types.every((t) => t === 3)).toBe(true);
  for (let i = 2; i < half.mesh.points.length; i += 3) expect(half.mesh.points[i]).toBeGreaterThanOrEqual(0);
});
