import { describe, expect, it } from 'vitest';
import type { MeshField } from '#core/model/field.ts';
import type { Mesh } from '#core/model/mesh.ts';
import { hexBlockBetween, quadSheet } from '../../tests/made-solids.ts';
import { type ArrowOptions, arrowScale, arrows } from './arrows.ts';
import { sourceOf } from './chain/chain.ts';
import type { OperationSetting } from './chain/operation.ts';
import { mirror } from './mirror.ts';
import { streamlines } from './streamlines.ts';

type Velocity = (x: number, y: number, z: number) => number[];

const vectors = ({ points }: Mesh, velocity: Velocity): MeshField => {
  const data = new Float32Array(points.length);
  for (let i = 0; i < points.length; i += 3) data.set(velocity(points[i], points[i + 1], points[i + 2]), i);
  return { location: 'point', components: 3, axial: false, data };
};

const pieceOf = (mesh: Mesh, velocity: Velocity) =>
  sourceOf(mesh, { origin: [0, 0, 0], part: '', fields: new Map([['v', vectors(mesh, velocity)]]) });

const options = (more: Partial<ArrowOptions>): ArrowOptions =>
  arrows.schema.parse({ field: 'v', size: 0.1, full: 2, ...more });
const drawn = (mesh: Mesh, velocity: Velocity, more: Partial<ArrowOptions> = {}) =>
  arrows.run(pieceOf(mesh, velocity), options(more));

const lengths = ({ arrows: made }: ReturnType<typeof drawn>): number[] =>
  Array.from({ length: made!.vectors.length / 3 }, (_, i) =>
    Math.hypot(...made!.vectors.subarray(3 * i, 3 * i + 3)),
  );

describe('arrows', () => {
  const sheet = quadSheet(12, 12, [0, 1], [0, 1]);
  const block = hexBlockBetween(4);
  const along: Velocity = (x) => [2 * x, 0, 0];

  it('stand evenly, at the same places whatever the step brings', () => {
    const one = drawn(sheet, () => [1, 0, 0], { count: 100 });
    const other = drawn(sheet, () => [0, 0.3, 0], { count: 100 });
    expect(one.mesh.points).toEqual(other.mesh.points);
    expect(one.mesh.types.length).toBe(100);
  });

  it('at points, at cells, on a grid; on bodies, faces, lines and points', () => {
    expect(drawn(block, () => [1, 0, 0], { at: 'points' }).mesh.types.length).toBe(125);
    expect(drawn(block, () => [1, 0, 0], { at: 'cells' }).mesh.types.length).toBe(64);
    expect(drawn(block, () => [1, 0, 0], { at: 'grid', count: 27 }).mesh.types.length).toBe(27);
    expect(drawn(sheet, () => [1, 0, 0], { at: 'grid', count: 64 }).mesh.types.length).toBe(64);
    expect(drawn(block, () => [1, 0, 0], { count: 90 }).mesh.types.length).toBe(90);
    const lines = streamlines.run(
      pieceOf(block, () => [1, 0, 0]),
      streamlines.schema.parse({ field: 'v', seeds: 'line', from: [0, -0.5, 0], to: [0, 0.5, 0], count: 3 }),
    );
    const onLines = arrows.run(
      pieceOf(lines.mesh, () => [1, 0, 0]),
      options({ count: 30 }),
    );
    expect(Math.abs(onLines.mesh.types.length - 30)).toBeLessThan(2);
    const alone = {
      ...block,
      types: new Uint8Array(125).fill(1),
      offsets: Uint32Array.from({ length: 126 }, (_, i) => i),
      connectivity: Uint32Array.from({ length: 125 }, (_, i) => i),
    };
    expect(drawn(alone, () => [1, 0, 0], { count: 40 }).mesh.types.length).toBe(40);
    const bent = {
      ...sheet,
      points: sheet.points.map((v, i) => (i % 3 === 2 ? sheet.points[i - 2] ** 2 : v)),
    };
    expect(drawn(bent, () => [1, 0, 0], { at: 'grid' }).report!.lacking).toContain('not flat');
  });

  it('are as long as is said', () => {
    const sizes = (more: Partial<ArrowOptions>): number[] =>
      lengths(drawn(sheet, along, { at: 'points', ...more }));
    const largest = (more: Partial<ArrowOptions>): number => Math.max(...sizes(more));
    expect(largest({})).toBeCloseTo(0.1, 6);
    expect(largest({ longest: 1 })).toBeCloseTo(0.1, 6);
    expect(sizes({ longest: 1 }).filter((v) => Math.abs(v - 0.1) < 1e-6).length).toBeGreaterThan(60);
    expect(new Set(sizes({ length: 'equal' }).map((v) => v.toFixed(5)))).toEqual(new Set(['0.10000']));
    expect(largest({ measured: 'factor', size: 3 })).toBeCloseTo(6, 5);
    expect(drawn(sheet, along, { measured: 'picture', size: 0.05 }).arrows!.onPicture).toBe(true);
  });

  it.each([
    ['linear', 0.5, 0.05],
    ['root', 0.5, 0.1 * Math.sqrt(0.5)],
    ['log', 0.5, (0.1 * Math.log(500)) / Math.log(1000)],
    ['log', 1e-4, 0],
    ['equal', 1e-4, 0.1],
  ] as const)('%s: of the part %d of the largest', (length, part, expected) => {
    expect(arrowScale(options({ length })).lengthOf(2 * part)).toBeCloseTo(expected, 9);
  });

  describe('left alone', () => {
    const settled = (mean: number, more: Partial<ArrowOptions> = {}): ArrowOptions =>
      arrows.settle!(options({ size: null, count: 900, ...more }), {
        quantities: [{ field: 'v', component: 'magnitude', high: 6, mean }],
        bounds: [0, 3, 0, 4, 0, 12],
      } as unknown as OperationSetting);
    const lengthAt = (o: ArrowOptions, value: number): number => arrowScale(o).lengthOf(value);
    // 900 on a body of a diagonal of 13: 0.9 of 13 / 30.
    const clear = 0.39;

    it('the largest is as long as arrows stand apart, where most are as large', () => {
      expect(lengthAt(settled(4), 6)).toBeCloseTo(clear, 6);
      expect(lengthAt(settled(2), 6)).toBeCloseTo(clear, 6);
    });

    it('three times the mean is, where few are far larger, and the largest no longer than a sixth of the body', () => {
      expect(lengthAt(settled(1), 3)).toBeCloseTo(clear, 6);
      expect(lengthAt(settled(1), 6)).toBeCloseTo(2 * clear, 6);
      expect(lengthAt(settled(0.001), 6)).toBeCloseTo(2.17, 6);
      expect(lengthAt(settled(0.001, { measured: 'picture' }), 6)).toBeCloseTo(0.2, 6);
    });

    it('by a factor and up to a size it is the same', () => {
      expect(lengthAt(settled(1, { measured: 'factor' }), 3)).toBeCloseTo(clear, 6);
      expect(lengthAt(settled(0.5, { longest: 3 }), 1.5)).toBeCloseTo(clear, 6);
      expect(lengthAt(settled(0.5, { longest: 3, measured: 'factor' }), 1.5)).toBeCloseTo(clear, 6);
    });

    it('what is shown all equal is never longer than that', () => {
      expect(lengthAt(settled(0.001, { length: 'equal' }), 1)).toBeCloseTo(clear, 6);
    });
  });

  it('none where the vector is too small or too large, and says how many are left out', () => {
    const { report } = drawn(sheet, along, { at: 'points', from: 0.5, to: 1.5 });
    expect(report!.of).toBe(169);
    // Columns at x of a twelfth each: from 3/12 to 9/12.
    expect(report!.kept).toBe(7 * 13);
  });

  it('along the surface what points across it is gone', () => {
    const { arrows: made } = drawn(sheet, () => [1, 0.5, 3], { part: 'along', count: 20 });
    for (let i = 0; i < 20; i++) {
      expect(made!.vectors[3 * i + 2]).toBeCloseTo(0, 6);
      expect(made!.vectors[3 * i + 1] / made!.vectors[3 * i]).toBeCloseTo(0.5, 5);
    }
  });

  it('turn with what is mirrored', () => {
    const piece = pieceOf(sheet, () => [1, 0.5, 0]).followedBy(
      () => drawn(sheet, () => [1, 0.5, 0], { count: 10 }),
      0,
      null,
    );
    const mirrored = piece.derive(
      mirror.run(piece, mirror.schema.parse({ normal: [1, 0, 0], offset: 0, original: true })),
    );
    const x = [...mirrored.arrows!.vectors].filter((_, i) => i % 3 === 0);
    expect(x.filter((v) => v > 0).length).toBe(10);
    expect(x.filter((v) => v < 0).length).toBe(10);
  });

  it('tells what is missing', () => {
    expect(arrows.run(sourceOf(sheet), options({})).report!.lacking).toBe('v');
    const scalar: MeshField = { location: 'point', components: 1, axial: false, data: new Float32Array(169) };
    const piece = sourceOf(sheet, { origin: [0, 0, 0], part: '', fields: new Map([['v', scalar]]) });
    expect(arrows.run(piece, options({})).report!.lacking).toContain('directions');
    const still = drawn(sheet, (x) => (x < 0 ? [0, 0, 0] : [Number.NaN, 0, 0]));
    expect(still.report!.lacking).toBe('directions: v is zero there, or has no value');
  });
});
