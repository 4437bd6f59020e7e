import { describe, expect, it } from 'vitest';
import type { MeshField } from '#core/model/field.ts';
import type { Mesh } from '#core/model/mesh.ts';
import { replay } from '#core/model/recipe.ts';
import { hexBlockBetween, tetraBlock } from '../../tests/made-solids.ts';
import { ALONG_LINE } from '../fields/sources/along-line.ts';
import { sourceOf } from './chain/chain.ts';
import { type FrictionLineOptions, frictionLines } from './friction-lines.ts';

type Velocity = (x: number, y: number, z: number) => number[];

function rubbed(mesh: Mesh, velocity: Velocity, more: Partial<FrictionLineOptions>) {
  const data = new Float32Array(mesh.points.length);
  for (let i = 0; i < data.length; i += 3) {
    const [x, y, z] = mesh.points.slice(i, i + 3);
    data.set(velocity(x, y, z), i);
  }
  const field: MeshField = { location: 'point', components: 3, axial: false, data };
  const piece = sourceOf(mesh, { origin: [0, 0, 0], part: '', fields: new Map([['v', field]]) });
  return frictionLines.run(piece, frictionLines.schema.parse({ field: 'v', ...more }));
}

/** Points of the lines that begin on the floor of a block from -1 to 1, line by line. */
function onFloor({ mesh, made }: ReturnType<typeof rubbed>): number[][][] {
  const lines: number[][][] = [];
  for (const [i, n] of made![ALONG_LINE.number].entries())
    (lines[n - 1] ??= []).push([...mesh.points.subarray(3 * i, 3 * i + 3)]);
  return lines;
}

const floor = { seeds: 'points' as const, places: [[0.3, 0.1, -1]] as [number, number, number][] };

describe('skin-friction lines', () => {
  for (const [name, mesh] of [
    ['hexahedra', hexBlockBetween(8)],
    ['tetrahedra', tetraBlock(8, -1, 1)],
  ] as const)
    it(`follow a flow that grows with its height over the floor, on ${name}`, () => {
      // By hand: u = (3, 4, 0) h rubs along (3, 4, 0) everywhere on the floor.
      const [line] = onFloor(
        rubbed(mesh, (_x, _y, z) => [3 * (z + 1), 4 * (z + 1), 0], { ...floor, length: 0.4 }),
      );
      expect(line.length).toBeGreaterThan(5);
      for (const [x, y, z] of line) {
        expect(z).toBeCloseTo(-1, 5);
        expect((y - 0.1) * 3).toBeCloseTo((x - 0.3) * 4, 3);
      }
      const [from, to] = [line[0], line.at(-1)!];
      expect(Math.hypot(to[0] - from[0], to[1] - from[1])).toBeCloseTo(0.8, 3);
    });

  it('turn in circles under a vortex and go outwards under what strikes the floor', () => {
    // By hand: u = h (-y, x, 0) rubs along circles; u = (x h, y h, -h^2) (free of sources) along rays.
    const mesh = hexBlockBetween(8);
    const [circle] = onFloor(
      rubbed(mesh, (x, y, z) => [-y * (z + 1), x * (z + 1), 0], { ...floor, length: 1 }),
    );
    const radius = Math.hypot(0.3, 0.1);
    for (const [x, y] of circle) expect(Math.hypot(x, y)).toBeCloseTo(radius, 2);
    const [ray] = onFloor(
      rubbed(mesh, (x, y, z) => [x * (z + 1), y * (z + 1), -((z + 1) ** 2)], { ...floor, length: 0.5 }),
    );
    for (const [x, y] of ray) expect(y / x).toBeCloseTo(1 / 3, 2);
  });

  it('begin all over the walls, stay on them, and lead every point back to the body', () => {
    const mesh = hexBlockBetween(6);
    const made = rubbed(mesh, (x, y, z) => [z + 1, x, y], { seeds: 'surface', count: 60, length: 0.5 });
    expect(made.report!.lines!.count).toBeGreaterThan(50);
    const { points } = made.mesh;
    // Round an edge a step cuts off less than a fiftieth of a cell.
    for (let i = 0; i < points.length; i += 3)
      expect(Math.abs(Math.max(...[0, 1, 2].map((k) => Math.abs(points[i + k]))) - 1)).toBeLessThan(
        1 / 3 / 50,
      );
    const xs = Float32Array.from({ length: mesh.points.length / 3 }, (_, i) => mesh.points[3 * i]);
    const found = replay(made.recipe!.points, xs, 1, 0);
    for (let i = 0; i < found.length; i++) expect(found[i]).toBeCloseTo(points[3 * i], 4);
  });

  it('say what they lack', () => {
    expect(rubbed(hexBlockBetween(2), () => [1, 0, 0], { field: 'gone' }).report!.lacking).toBe('gone');
    const still = rubbed(hexBlockBetween(3), () => [1, 0, 0], floor);
    expect(still.report!.lines!.count).toBe(0);
  });

  it.each([
    ['hexahedra', hexBlockBetween(7)],
    ['tetrahedra', tetraBlock(7, -1, 1)],
  ])('are none under a flow that is the same everywhere, whatever its digits, on %s', (_, mesh) => {
    const over = { seeds: 'surface' as const, count: 60 };
    expect(rubbed(mesh, () => [0.1, 0.7, 0.3], over).report!.lines!.count).toBe(0);
    // A thousandth of it that changes is seen.
    const little = rubbed(mesh, (_x, _y, z) => [0.1 + 1e-3 * z, 0.7, 0.3], over);
    expect(little.report!.lines!.count).toBeGreaterThan(20);
  });
});
