import { expect, it } from 'vitest';
import { fieldOf } from '../../../tests/made-solids.ts';
import { area, edgeUses } from '../../../tests/mesh-checks.ts';
import type { Mesh } from '../../model/mesh.ts';
import { replay } from '../../model/recipe.ts';
import { sourceOf } from '../chain/chain.ts';
import { surface } from '../surface.ts';

/** The corners of an octahedron, one quadratic tetrahedron in each of its eight octants, middles drawn to the sphere. */
function ball(): Mesh {
  const points: number[][] = [[0, 0, 0]];
  const known = new Map<string, number>();
  const point = (p: number[]): number => {
    const key = p.map((v) => v.toFixed(6)).join();
    const found = known.get(key) ?? points.push(p) - 1;
    known.set(key, found);
    return found;
  };
  const middle = (a: number[], b: number[], onSphere: boolean): number => {
    const m = a.map((v, k) => (v + b[k]) / 2);
    return point(onSphere ? m.map((v) => v / Math.hypot(...m)) : m);
  };
  const nodes: number[] = [];
  for (const x of [1, -1])
    for (const y of [1, -1])
      for (const z of [1, -1]) {
        const [a, b, c] = [
          [x, 0, 0],
          [0, y, 0],
          [0, 0, z],
        ];
        const o = [0, 0, 0];
        nodes.push(
          0,
          point(a),
          point(b),
          point(c),
          middle(o, a, false),
          middle(a, b, true),
          middle(b, o, false),
          middle(o, c, false),
          middle(a, c, true),
          middle(b, c, true),
        );
      }
  return {
    points: Float32Array.from(points.flat()),
    types: new Uint8Array(8).fill(24),
    offsets: Uint32Array.from({ length: 9 }, (_, c) => 10 * c),
    connectivity: Uint32Array.from(nodes),
  };
}

const skin = (smooth: number) => surface.run(sourceOf(ball()), { smooth, between: false, sets: [] });

it('curved faces come closer to the sphere the finer they are cut, and stay closed', () => {
  const sphere = 4 * Math.PI;
  const errors = [0, 1, 2, 3].map((level) => {
    const { mesh } = skin(level);
    for (const uses of edgeUses(mesh).values()) expect(uses).toBe(2);
    expect(mesh.types).toHaveLength(8 * 4 ** level);
    return Math.abs(area(mesh) - sphere) / sphere;
  });
  expect(errors[0]).toBeGreaterThan(0.4);
  // Six nodes an octant are no sphere themselves: the limit is their own curved face, met with order 2.
  expect(errors[3]).toBeLessThan(0.1);
  const fall = (errors[1] - errors[2]) / (errors[2] - errors[3]);
  expect(fall).toBeGreaterThan(3);
  expect(fall).toBeLessThan(5);
});

it('their recipe is exact for quadratic fields', () => {
  const mesh = ball();
  const f = (x: number, y: number, z: number): number => 1 + x - 2 * y + 0.5 * z;
  const { mesh: out, recipe } = skin(3);
  const values = replay(recipe!.points, fieldOf(mesh, f), 1, 0);
  const wanted = fieldOf(out, f);
  for (let i = 0; i < values.length; i++) expect(values[i]).toBeCloseTo(wanted[i], 5);
});

it('faces between part sets are drawn when asked', () => {
  const block = ball();
  const piece = sourceOf(block, {
    origin: [0, 0, 0],
    part: '',
    fields: new Map([
      [
        'set:half',
        { location: 'cell', components: 1, axial: false, data: Uint8Array.of(1, 1, 1, 1, 0, 0, 0, 0) },
      ],
    ]),
  });
  const plain = surface.run(piece, { smooth: 0, between: false, sets: [] });
  const between = surface.run(piece, { smooth: 0, between: true, sets: ['half'] });
  expect(between.mesh.types.length - plain.mesh.types.length).toBe(4);
});
