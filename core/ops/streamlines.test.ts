import { describe, expect, it } from 'vitest';
import type { MeshField } from '#core/model/field.ts';
import type { Mesh } from '#core/model/mesh.ts';
import { replay } from '#core/model/recipe.ts';
import { fieldOf, hexBlockBetween, quadSheet, tetraBlock } from '../../tests/made-solids.ts';
import { ALONG_LINE } from '../fields/sources/along-line.ts';
import { sourceOf } from './chain/chain.ts';
import { joinReports, sayReport } from './chain/report.ts';
import type { Workpiece } from './chain/workpiece.ts';
import { joinMeshes } from './kernels/join-meshes.ts';
import { subsetCells } from './kernels/subset-cells.ts';
import { type StreamlineOptions, streamlines } from './streamlines.ts';

type Velocity = (x: number, y: number, z: number) => number[];

const vectors = ({ points }: Mesh, velocity: Velocity): MeshField => {
  const data = new Float32Array(points.length);
  for (let i = 0; i < points.length; i += 3) data.set(velocity(points[i], points[i + 1], points[i + 2]), i);
  return { location: 'point', components: 3, axial: false, data };
};

const pieceOf = (mesh: Mesh, velocity: Velocity, beside = new Map<string, Mesh>()): Workpiece =>
  sourceOf(mesh, { origin: [0, 0, 0], part: '', fields: new Map([['v', vectors(mesh, velocity)]]), beside });

const options = (more: Partial<StreamlineOptions>): StreamlineOptions =>
  streamlines.schema.parse({ field: 'v', ...more });

const traced = (
  mesh: Mesh,
  velocity: Velocity,
  more: Partial<StreamlineOptions>,
  beside?: Map<string, Mesh>,
) => streamlines.run(pieceOf(mesh, velocity, beside), options(more));

const helix: Velocity = (x, y) => [-y, x, 0.25];
const along: Velocity = () => [1, 0, 0];
const said = (report: Parameters<typeof joinReports>[0][number], empty: boolean): string =>
  sayReport(joinReports([report]), empty, { length: 'm', field: null }).join(' ');

describe('streamlines', () => {
  it('lead every point back to the mesh, so that any quantity can be shown on them', () => {
    const mesh = tetraBlock(5);
    const {
      mesh: lines,
      recipe,
      made,
    } = traced(mesh, helix, {
      seeds: 'line',
      from: [0.2, 0, 0],
      to: [0.8, 0, 0],
      count: 7,
    });
    const scalar = fieldOf(mesh, (x, y, z) => 1 + x - 2 * y + 3 * z);
    const there = fieldOf(lines, (x, y, z) => 1 + x - 2 * y + 3 * z);
    const shown = replay(recipe!.points, scalar, 1, 0);
    for (let i = 0; i < there.length; i++) expect(shown[i]).toBeCloseTo(there[i], 4);
    const numbers = made![ALONG_LINE.number];
    expect(new Set(numbers).size).toBe(7);
    const times = made![ALONG_LINE.time];
    const lengths = made![ALONG_LINE.length];
    for (let i = 1; i < times.length; i++) {
      if (numbers[i] !== numbers[i - 1]) continue;
      expect(times[i]).toBeGreaterThan(times[i - 1]);
      expect(lengths[i]).toBeGreaterThan(lengths[i - 1]);
    }
    // Helices rise by a quarter of their time.
    for (let i = 0; i < times.length; i++) expect(lines.points[3 * i + 2]).toBeCloseTo(0.25 * times[i], 4);
  });

  it('cross parts as if they were one', () => {
    const mesh = hexBlockBetween(6);
    const quarter = (which: number): Mesh => {
      const cells = Array.from(mesh.types.keys()).filter((c) => {
        const [x, y] = [0, 1].map((k) => mesh.points[3 * mesh.connectivity[8 * c] + k]);
        return (x < -1e-6 ? 0 : 1) + (y < -1e-6 ? 0 : 2) === which;
      });
      return subsetCells(mesh, Uint32Array.from(cells)).mesh;
    };
    const parted = joinMeshes([0, 1, 2, 3].map(quarter));
    expect(parted.types.length).toBe(mesh.types.length);
    expect(parted.points.length).toBeGreaterThan(mesh.points.length);
    const where: Partial<StreamlineOptions> = {
      seeds: 'points',
      places: [
        [0.5, 0.1, -0.9],
        [0.3, -0.4, -0.5],
      ],
      tolerance: 1e-8,
    };
    const [one, four] = [mesh, parted].map((m) => traced(m, helix, where));
    expect(four.report!.lines!.ends).toEqual(one.report!.lines!.ends);
    const end = ({ fates, mesh: lines }: typeof one, i: number): number[] => {
      const { first, points } = fates![i];
      return [...lines.points.subarray(3 * (first + points - 1), 3 * (first + points))];
    };
    for (const i of [0, 1])
      for (const [k, v] of end(one, i).entries()) expect(end(four, i)[k]).toBeCloseTo(v, 5);
  });

  it('cross faces that are parted differently, and tell where faces do not meet', () => {
    const halves = (n: number, m: number, gap: number): Mesh => {
      const half = (parts: number, from: number): Mesh => {
        const block = hexBlockBetween(parts);
        return { ...block, points: block.points.map((v, i) => (i % 3 === 0 ? from + (v + 1) / 2 : v)) };
      };
      return joinMeshes([half(n, -1 - gap), half(m, 0)]);
    };
    const where: Partial<StreamlineOptions> = {
      seeds: 'points',
      places: [
        [-0.9, 0.13, 0.21],
        [-0.9, -0.57, 0.4],
      ],
      direction: 'forward',
    };
    const across = (mesh: Mesh) => traced(mesh, () => [1, 0.05, 0], where).report!;
    // Other nodes on both sides of one plane: lines go on.
    expect(across(halves(4, 5, 0)).lines!.ends).toEqual({ left: 2 });
    // A third of a cell open: no step leads over it.
    const open = across(halves(4, 5, 0.15));
    expect(open.lines!.ends).toEqual({ gap: 2 });
    expect(said(open, false)).toMatch(/2 where parts leave a gap.*the same nodes/);
    // Far apart, the one body just ends.
    expect(across(halves(4, 5, 0.6)).lines!.ends).toEqual({ left: 2 });
  });

  it('a thin wall within one body is no gap between parts', () => {
    // Four columns along x; the lower half of the second is thin and taken away: behind it is the same body.
    const at = [-1, -0.1, 0.02, 0.5, 1];
    const block = hexBlockBetween(4);
    const points = block.points.map((v, i) => (i % 3 === 0 ? at[Math.round((v + 1) * 2)] : v));
    const cells = Array.from({ length: 64 }, (_, c) => block.connectivity.subarray(8 * c, 8 * c + 8));
    const middle = (cell: Uint32Array, k: number): number =>
      cell.reduce((sum, n) => sum + points[3 * n + k] / 8, 0);
    const kept = cells.filter((cell) => !(Math.abs(middle(cell, 0) + 0.04) < 0.01 && middle(cell, 2) < 0));
    expect(kept).toHaveLength(56);
    const holed: Mesh = {
      points,
      types: new Uint8Array(56).fill(block.types[0]),
      offsets: Uint32Array.from({ length: 57 }, (_, i) => 8 * i),
      connectivity: Uint32Array.from(kept.flatMap((cell) => [...cell])),
    };
    const { report } = traced(holed, () => [1, 0, 0], {
      seeds: 'points',
      places: [[-0.9, 0.13, -0.3]],
      direction: 'forward',
    });
    expect(report!.lines!.ends).toEqual({ left: 1 });
  });

  it('keep the stream function of a flat flow, the better the finer the mesh', () => {
    const psi = (x: number, y: number): number => Math.sin(Math.PI * x) * Math.sin(Math.PI * y);
    const spread = (n: number): number => {
      const { mesh: lines, made } = traced(
        quadSheet(n, n, [0, 1], [0, 1]),
        (x, y) => [
          Math.PI * Math.sin(Math.PI * x) * Math.cos(Math.PI * y),
          -Math.PI * Math.cos(Math.PI * x) * Math.sin(Math.PI * y),
          0,
        ],
        { seeds: 'line', from: [0.3, 0.5, 0], to: [0.45, 0.5, 0], count: 3, direction: 'forward', length: 2 },
      );
      const of = made![ALONG_LINE.number];
      let worst = 0;
      for (let i = 0, first = 0; i < of.length; i++) {
        if (of[i] !== of[first]) first = i;
        const at = (j: number): number => psi(lines.points[3 * j], lines.points[3 * j + 1]);
        worst = Math.max(worst, Math.abs(at(i) - at(first)));
      }
      return worst;
    };
    const [coarse, fine] = [spread(10), spread(40)];
    expect(coarse).toBeLessThan(0.05);
    expect(fine).toBeLessThan(coarse / 5);
  });

  it('begin at points, on lines, circles and grids, over surfaces, through bodies and on other parts', () => {
    const mesh = hexBlockBetween(4);
    const seedsOf = (more: Partial<StreamlineOptions>): number[][] =>
      traced(mesh, along, more, new Map([['part tin', hexBlockBetween(2, -0.3, 0.3)]])).fates!.map((f) => [
        ...f.seed,
      ]);
    expect(seedsOf({ seeds: 'points', places: [[0.1, 0.2, 0.3]], lift: 0.1 })[0][2]).toBeCloseTo(0.4);
    const onLine = seedsOf({ seeds: 'line', from: [0, -1, 0], to: [0, 1, 0], count: 5 });
    expect(onLine.map((s) => s[1])).toEqual([-1, -0.5, 0, 0.5, 1]);
    const circle = seedsOf({
      seeds: 'circle',
      centre: [0, 0, 0.5],
      radius: 0.5,
      normal: [0, 0, 1],
      count: 8,
    });
    for (const [x, y, z] of circle) expect([Math.hypot(x, y), z]).toEqual([expect.closeTo(0.5, 6), 0.5]);
    const grid = seedsOf({ seeds: 'grid', normal: [1, 0, 0], offset: -0.5, count: 25 });
    expect(grid.length).toBe(25);
    for (const [x] of grid) expect(x).toBeCloseTo(-0.5);
    for (const s of seedsOf({ seeds: 'surface', count: 50, lift: 0.01 }))
      expect(s.some((v) => Math.abs(Math.abs(v) - 0.99) < 1e-5)).toBe(true);
    const through = seedsOf({ seeds: 'volume', count: 60 });
    expect(through.length).toBe(60);
    expect(through.filter((s) => s[0] < 0).length).toBeGreaterThan(24);
    for (const s of seedsOf({ seeds: 'part', part: 'tin', count: 30, lift: 0.05 }))
      expect(Math.max(...s.map(Math.abs))).toBeGreaterThan(0.299);
  });

  it('begin on the points of a table, all of them or some from all over', () => {
    const places = Array.from({ length: 30 }, (_, i) => [-0.9 + 0.01 * i, 0.1, 0.2]);
    const vertex = 1;
    const table: Mesh = {
      points: Float32Array.from(places.flat()),
      types: new Uint8Array(30).fill(vertex),
      offsets: Uint32Array.from({ length: 31 }, (_, i) => i),
      connectivity: Uint32Array.from({ length: 30 }, (_, i) => i),
    };
    const begun = (count: number): number[] =>
      traced(
        hexBlockBetween(4),
        along,
        { seeds: 'part', part: 'seeds', count },
        new Map([['part seeds', table]]),
      ).fates!.map((f) => f.seed[0]);
    expect(begun(40)).toEqual(places.map(([x]) => expect.closeTo(x, 6)));
    expect(begun(3)).toEqual([0, 10, 20].map((i) => expect.closeTo(places[i][0], 6)));
  });

  it('begin where it flows, and not in parts that have no flow', () => {
    const mesh = hexBlockBetween(6);
    const half = (x: number): number[] => [x > 0.01 ? Number.NaN : 0, x > 0.01 ? Number.NaN : 1, 0];
    const { fates, report } = traced(mesh, half, { seeds: 'volume', count: 30 });
    // The nodes at 0 have a value, those at 1/3 have none: nor has the layer of cells between.
    for (const { seed } of fates!) expect(seed[0]).toBeLessThan(1e-6);
    expect(report!.lines!.ends.outside).toBeUndefined();
  });

  it('stay on the surface they are on', () => {
    const sheet = quadSheet(30, 30, [0, Math.PI], [0, 1]);
    const points = new Float32Array(sheet.points.length);
    for (let i = 0; i < points.length; i += 3)
      points.set([Math.cos(sheet.points[i]), sheet.points[i + 1], Math.sin(sheet.points[i])], i);
    const { mesh: lines } = traced({ ...sheet, points }, (x, _y, z) => [-z + 3 * x, 0.1, x + 3 * z], {
      seeds: 'points',
      places: [[0.99, 0.2, 0.1]],
    });
    expect(lines.points.length).toBeGreaterThan(30);
    for (let i = 0; i < lines.points.length; i += 3)
      expect(Math.hypot(lines.points[i], lines.points[i + 2])).toBeCloseTo(1, 2);
  });

  it('say in words what is wrong and what helps', () => {
    const mesh = hexBlockBetween(3);
    const outside = traced(mesh, along, { seeds: 'points', places: [[5, 0, 0]] });
    expect(said(outside.report!, true)).toContain('Its one seed lies outside');
    const still = traced(mesh, () => [0, 0, 0], { seeds: 'volume', count: 4 });
    expect(said(still.report!, true)).toContain('stands still at every seed');
    const missing = streamlines.run(sourceOf(mesh), options({}));
    expect(said(missing.report!, true)).toContain('no v');
    expect(said(traced(mesh, along, { seeds: 'part', part: 'gone' }).report!, true)).toContain('“gone”');
    const good = traced(mesh, along, { seeds: 'line', from: [0, -2, 0], to: [0, 0.9, 0], count: 30 });
    const words = said(good.report!, false);
    expect(words).toMatch(/lines from 30 seeds; ends: \d+ where it leaves the body/);
    expect(words).toContain('10 seeds lie outside of what flows');
    const nan = traced(mesh, (x) => [x > 0.9 ? Number.NaN : 1, 0, 0], {
      seeds: 'points',
      places: [[0, 0, 0]],
      direction: 'forward',
    });
    expect(said(nan.report!, false)).toContain('no value there');
    // A seed without a value has no line, and no ends.
    const one = traced(mesh, (x) => [x > 0.9 ? Number.NaN : 1, 0, 0], {
      seeds: 'points',
      places: [
        [0, 0, 0],
        [0.8, 0, 0],
      ],
    });
    expect(one.report!.lines).toEqual({
      count: 1,
      seeds: 2,
      ends: { left: 1, 'no value': 1, outside: 1 },
    });
  });
});
