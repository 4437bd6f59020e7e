import { describe, expect, it } from 'vitest';
import type { MeshField } from '#core/model/field.ts';
import { boundsOf, type Mesh } from '#core/model/mesh.ts';
import { replay } from '#core/model/recipe.ts';
import { hexBlockBetween, quadSheet } from '../../tests/made-solids.ts';
import { area, edgeUses } from '../../tests/mesh-checks.ts';
import { outerFaces } from '../fields/surfaces/outer-faces.ts';
import { sourceOf } from './chain/chain.ts';
import { joinReports, sayReport } from './chain/report.ts';
import { type FlowTextureOptions, flowTexture } from './flow-texture.ts';
import { fineTriangles } from './kernels/fine-triangles.ts';
import { joinMeshes } from './kernels/join-meshes.ts';
import { lineConvolution } from './kernels/line-convolution.ts';

type Velocity = (x: number, y: number, z: number) => number[];

const vectorsOf = ({ points }: Mesh, velocity: Velocity): Float32Array =>
  Float32Array.from(
    Array.from({ length: points.length / 3 }, (_, i) =>
      velocity(points[3 * i], points[3 * i + 1], points[3 * i + 2]),
    ).flat(),
  );

/** Whether two points a way apart are alike: the correlation over all pairs of them, by looking up a grid of the points. */
function likeness(mesh: Mesh, greys: Float32Array, way: (x: number, y: number) => number[], size: number) {
  const at = new Map<string, number>();
  const key = (x: number, y: number): string => `${Math.round(x / size)} ${Math.round(y / size)}`;
  const n = mesh.points.length / 3;
  for (let i = 0; i < n; i++) at.set(key(mesh.points[3 * i], mesh.points[3 * i + 1]), i);
  const pairs: [number, number][] = [];
  for (let i = 0; i < n; i++) {
    const [x, y] = [mesh.points[3 * i], mesh.points[3 * i + 1]];
    if (Math.abs(x) > 0.6 || Math.abs(y) > 0.6) continue;
    const [dx, dy] = way(x, y);
    const other = at.get(key(x + dx, y + dy));
    if (other !== undefined && other !== i) pairs.push([greys[i], greys[other]]);
  }
  const mean = pairs.reduce((s, [a, b]) => s + a + b, 0) / (2 * pairs.length);
  let [both, one] = [0, 0];
  for (const [a, b] of pairs) {
    both += (a - mean) * (b - mean);
    one += ((a - mean) ** 2 + (b - mean) ** 2) / 2;
  }
  return both / one;
}

/** A square from -1 to 1 whose fine triangles have their corners on a grid. */
const SIDE = 1 / 64;
const sheet = fineTriangles(quadSheet(2, 2, [-1, 1], [-1, 1]), 1.5 * SIDE, 1e6);

describe('fine triangles', () => {
  it('have no side that is too long, cover what they were cut from, and lead back to it', () => {
    const faces = outerFaces(hexBlockBetween(3));
    const { mesh, recipe, same } = fineTriangles(faces.mesh, 0.1, 1e6);
    const { points } = mesh;
    for (const [side] of edgeUses(mesh)) {
      const [p, q] = side.split(/\D+/).map((i) => points.subarray(3 * Number(i), 3 * Number(i) + 3));
      expect(Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2])).toBeLessThanOrEqual(0.1 + 1e-6);
    }
    expect(area(mesh)).toBeCloseTo(24, 4);
    // No gap opens where one of two neighbours is halved: every side has two triangles.
    for (const uses of edgeUses(mesh).values()) expect(uses).toBe(2);
    for (let k = 0; k < 3; k++) {
      const found = replay(recipe!.points, faces.mesh.points, 3, k);
      for (let i = 0; i < found.length; i++) expect(found[i]).toBeCloseTo(points[3 * i + k], 5);
    }
    expect(same).toEqual(Uint32Array.from(same, (_, i) => i));
  });
  it('know which points of two parts lie at one place', () => {
    const two = joinMeshes([quadSheet(2, 2, [-1, 0], [-1, 1]), quadSheet(2, 2, [0, 1], [-1, 1])]);
    const { mesh, same } = fineTriangles(two, 0.2, 1e6);
    let twins = 0;
    for (let i = 0; i < same.length; i++) {
      if (same[i] === i) continue;
      twins++;
      for (let k = 0; k < 3; k++) expect(mesh.points[3 * i + k]).toBe(mesh.points[3 * same[i] + k]);
      expect(mesh.points[3 * i]).toBe(0);
    }
    expect(twins).toBe(17);
  });
  it('stop where there would be too many', () => {
    expect(fineTriangles(quadSheet(2, 2, [-1, 1], [-1, 1]), 1e-4, 500).mesh.types.length).toBeLessThan(2500);
  });
});

describe('noise drawn out along a flow', () => {
  const streak = 12 * SIDE;
  it('is as alike along it as a box of that length makes it, and not alike across', () => {
    // White noise under a box of half-length L is correlated by 1 - d / (2 L) at a distance d: by hand.
    const greys = lineConvolution(
      sheet,
      vectorsOf(sheet.mesh, () => [2, 0, 0]),
      streak,
    );
    for (const grains of [4, 8, 12, 16]) {
      const along = likeness(sheet.mesh, greys, () => [grains * SIDE, 0], SIDE);
      expect(Math.abs(along - (1 - grains / 24))).toBeLessThan(0.12);
    }
    expect(Math.abs(likeness(sheet.mesh, greys, () => [32 * SIDE, 0], SIDE))).toBeLessThan(0.15);
    for (const grains of [3, 4, 8])
      expect(Math.abs(likeness(sheet.mesh, greys, () => [0, grains * SIDE], SIDE))).toBeLessThan(0.15);
    const backwards = lineConvolution(
      sheet,
      vectorsOf(sheet.mesh, () => [-2, 0, 0]),
      streak,
    );
    expect(likeness(sheet.mesh, backwards, () => [8 * SIDE, 0], SIDE)).toBeGreaterThan(0.5);
  });
  it('goes round a vortex and out of a source', () => {
    const turned = (x: number, y: number, angle: number): number[] => [
      x * Math.cos(angle) - y * Math.sin(angle) - x,
      x * Math.sin(angle) + y * Math.cos(angle) - y,
    ];
    const round = (x: number, y: number): number[] => turned(x, y, (8 * SIDE) / Math.hypot(x, y));
    const outwards = (x: number, y: number): number[] =>
      [x, y].map((v) => (8 * SIDE * v) / (Math.hypot(x, y) || 1));
    const vortex = lineConvolution(
      sheet,
      vectorsOf(sheet.mesh, (x, y) => [-y, x, 0]),
      streak,
    );
    const source = lineConvolution(
      sheet,
      vectorsOf(sheet.mesh, (x, y) => [x, y, 0]),
      streak,
    );
    expect(likeness(sheet.mesh, vortex, round, SIDE)).toBeGreaterThan(0.45);
    expect(Math.abs(likeness(sheet.mesh, vortex, outwards, SIDE))).toBeLessThan(0.15);
    expect(likeness(sheet.mesh, source, outwards, SIDE)).toBeGreaterThan(0.45);
    expect(Math.abs(likeness(sheet.mesh, source, round, SIDE))).toBeLessThan(0.15);
  });
  it('goes on across the seam of two parts', () => {
    const two = joinMeshes([quadSheet(2, 2, [-1, 0], [-1, 1]), quadSheet(2, 2, [0, 1], [-1, 1])]);
    const fine = fineTriangles(two, 1.5 * SIDE, 1e6);
    const greys = lineConvolution(
      fine,
      vectorsOf(fine.mesh, () => [1, 0, 0]),
      streak,
    );
    // Pairs from one side to the other.
    const across = likeness(fine.mesh, greys, (x) => (x < 0 && x > -5 * SIDE ? [5 * SIDE, 0] : [0, 0]), SIDE);
    expect(across).toBeGreaterThan(0.6);
  });
  it('is grey where nothing flows or is known, and ends there', () => {
    const still = lineConvolution(
      sheet,
      vectorsOf(sheet.mesh, (x) => (x > 0 ? [0, 0, 0] : x > -0.5 ? [1, 0, 0] : [Number.NaN, 0, 0])),
      streak,
    );
    const { points } = sheet.mesh;
    let moving = 0;
    for (let i = 0; i < still.length; i++) {
      const x = points[3 * i];
      if (x > 2 * SIDE || x < -0.5 - 2 * SIDE) expect(still[i]).toBe(0.5);
      else if (still[i] !== 0.5) moving++;
      expect(still[i] >= 0 && still[i] <= 1).toBe(true);
    }
    expect(moving).toBeGreaterThan(1000);
  });
});

describe('a flow texture', () => {
  function textured(mesh: Mesh, velocity: Velocity, more: Partial<FlowTextureOptions> = {}) {
    const field: MeshField = {
      location: 'point',
      components: 3,
      axial: false,
      data: vectorsOf(mesh, velocity),
    };
    const piece = sourceOf(mesh, { origin: [0, 0, 0], part: '', fields: new Map([['v', field]]) });
    return flowTexture.run(piece, flowTexture.schema.parse({ field: 'v', grain: 0.05, ...more }));
  }
  const said = (made: ReturnType<typeof textured>): string =>
    sayReport(joinReports(made.report ? [made.report] : []), made.mesh.types.length === 0, {
      length: 'm',
      field: null,
    }).join(' ');

  it('darkens as much as it is asked to, and its points lead back to the body', () => {
    const block = hexBlockBetween(4);
    const made = textured(block, () => [1, 0.3, 0.2], { contrast: 0.4 });
    const { shades, mesh, recipe } = made;
    expect(shades).toHaveLength(mesh.points.length / 3);
    expect(Math.min(...shades!)).toBeCloseTo(0.6, 2);
    expect(Math.max(...shades!)).toBeCloseTo(1, 2);
    const xs = Float32Array.from({ length: block.points.length / 3 }, (_, i) => block.points[3 * i]);
    const found = replay(recipe!.points, xs, 1, 0);
    for (let i = 0; i < found.length; i++) expect(found[i]).toBeCloseTo(mesh.points[3 * i], 5);
    expect(boundsOf(mesh.points)).toEqual([-1, 1, -1, 1, -1, 1]);
  });
  it('says so where a flow stands still at walls, and goes as it rubs along them', () => {
    // What sticks to the floor of the block and to its other walls.
    const sticking: Velocity = (x, y, z) => [(1 - x * x) * (1 - y * y) * (1 - z * z), 0, 0];
    expect(said(textured(hexBlockBetween(6), sticking))).toMatch(/no motion on its faces.*rub along walls/);
    const rubbing = textured(hexBlockBetween(6), sticking, { rubbing: true });
    expect(new Set(rubbing.shades).size).toBeGreaterThan(100);
    expect(said(textured(quadSheet(2, 2, [0, 1], [0, 1]), () => [1, 0, 0], { rubbing: true }))).toMatch(
      /walls/,
    );
  });
  it('is coarser than asked where it would be too fine, and says so', () => {
    expect(said(textured(quadSheet(2, 2, [0, 1], [0, 1]), () => [1, 0, 0], { grain: 1e-4 }))).toMatch(
      /Drawn in grains of .* m, not 0.0001 m/,
    );
  });
});
