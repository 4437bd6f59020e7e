import { describe, expect, it } from 'vitest';
import { hexBlockBetween, mixedBlock, quadSheet, seeded, tetraBlock } from '../../tests/made-solids.ts';
import { asked, onPoints, piece } from '../../tests/measured-pieces.ts';
import { cubesOfEveryKind } from '../../tests/mesh-checks.ts';
import { gradientAtPoints } from '../fields/gradient.ts';
import { outerFaces } from '../fields/surfaces/outer-faces.ts';
import { TRIANGLE } from '../model/cell-types.ts';
import type { Mesh } from '../model/mesh.ts';
import { flowThrough } from './flow-through.ts';
import { integral } from './integral.ts';
import { centreOfMass } from './mass.ts';
import { size } from './size.ts';

type Vector = [number, number, number];

/** Every point is moved at random, those of the outside as well. */
function shaken(mesh: Mesh, by: number, seed: number): Mesh {
  const random = seeded(seed);
  return { ...mesh, points: mesh.points.map((v) => v + by * (random() - 0.5)) };
}

/** v = b + A x with random numbers, and what follows by hand: its divergence, and its curl. */
function linear(seed: number) {
  const random = seeded(seed);
  const a = Array.from({ length: 9 }, () => 2 * random() - 1);
  const b = Array.from({ length: 3 }, () => 2 * random() - 1);
  return {
    at: (...p: number[]): number[] =>
      [0, 1, 2].map((r) => b[r] + p.reduce((sum, v, c) => sum + a[3 * r + c] * v, 0)),
    divergence: a[0] + a[4] + a[8],
    curl: [a[7] - a[5], a[2] - a[6], a[3] - a[1]],
  };
}

const solids: [string, Mesh][] = [
  ...Object.entries(cubesOfEveryKind()),
  ['many hexahedra', hexBlockBetween(3)],
  ['many tetrahedra', tetraBlock(3)],
  ['mixed cells', mixedBlock(4)],
];

describe('the divergence theorem on cells that were moved at random', () => {
  it.each(solids)('holds on %s: what goes out is what arises inside', (_, cube) => {
    for (const seed of [1, 2, 3]) {
      // Flat faces of many corners stay flat when the whole is stretched; others are moved corner by corner.
      const mesh = shaken(cube, 0.12, seed);
      const field = linear(10 * seed);
      const on = piece(mesh, { v: onPoints(mesh, field.at) }, [3, -2, 1]);
      const out = asked(flowThrough, on, { field: 'v', component: 'magnitude' }).value;
      const volume = asked(size, on, { of: 'volume' }).value;
      expect(Math.abs(out - field.divergence * volume)).toBeLessThan(2e-5 * Math.max(1, volume));
      // The volume itself is a third of what goes out of it by the place.
      const place = piece(mesh, { v: onPoints(mesh, (x, y, z) => [x, y, z]) });
      const threefold = asked(flowThrough, place, { field: 'v', component: 'magnitude' }).value;
      expect(Math.abs(threefold - 3 * volume)).toBeLessThan(2e-5 * Math.max(1, volume));
      // And a linear field in the mean is what it is at the centre of mass.
      const centre = asked(centreOfMass, piece(mesh)).value as Vector;
      const whole = asked(integral, piece(mesh, { v: onPoints(mesh, field.at) }), {
        field: 'v',
        component: 'magnitude',
        whole: true,
      }).value as number[];
      for (const [k, v] of field.at(...centre).entries())
        expect(Math.abs(whole[k] / volume - v)).toBeLessThan(2e-5);
    }
  });
});

/** The integral of a vector along the border of a surface, each edge as its face walks it. */
function circulation(
  { points, offsets, connectivity, types }: Mesh,
  at: (...p: number[]) => number[],
): number {
  const edges = new Map<string, [number, number]>();
  for (let c = 0; c < types.length; c++)
    for (let i = offsets[c]; i < offsets[c + 1]; i++) {
      const [a, b] = [connectivity[i], connectivity[i + 1 === offsets[c + 1] ? offsets[c] : i + 1]];
      const name = [Math.min(a, b), Math.max(a, b)].join();
      if (edges.has(name)) edges.delete(name);
      else edges.set(name, [a, b]);
    }
  let sum = 0;
  for (const [a, b] of edges.values()) {
    const [p, q] = [a, b].map((n) => [...points.subarray(3 * n, 3 * n + 3)]);
    const middle = at(...p.map((v, k) => (v + q[k]) / 2));
    sum += middle.reduce((s, v, k) => s + v * (q[k] - p[k]), 0);
  }
  return sum;
}

describe('Stokes’ theorem on surfaces that were moved at random', () => {
  const sheet = quadSheet(5, 4, [0, 2], [0, 1]);
  const halved: Mesh = {
    ...sheet,
    types: new Uint8Array(2 * sheet.types.length).fill(TRIANGLE),
    offsets: Uint32Array.from({ length: 2 * sheet.types.length + 1 }, (_, i) => 3 * i),
    connectivity: Uint32Array.from(
      Array.from(sheet.types, (_, c) => [...sheet.connectivity.subarray(4 * c, 4 * c + 4)]).flatMap(
        ([a, b, c, d]) => [a, b, c, a, c, d],
      ),
    ),
  };
  // The outside of a body without its first face, of every kind of faces.
  const open = ([name, mesh]: [string, Mesh]): [string, Mesh] => {
    const { mesh: faces } = outerFaces(mesh);
    const from = faces.offsets[1];
    return [
      `the open skin of ${name}`,
      {
        points: faces.points,
        types: faces.types.slice(1),
        offsets: faces.offsets.slice(1).map((o) => o - from),
        connectivity: faces.connectivity.slice(from),
      },
    ];
  };
  it.each([['quads', sheet], ['triangles', halved], ...solids.map(open)] as [string, Mesh][])(
    'holds on %s: what turns across it goes around its border',
    (_, surface) => {
      for (const seed of [4, 5]) {
        const mesh = shaken(surface, 0.15, seed);
        const field = linear(seed);
        const on = piece(mesh, { w: onPoints(mesh, () => field.curl) });
        const across = asked(flowThrough, on, { field: 'w', component: 'magnitude' }).value;
        expect(Math.abs(Math.abs(across) - Math.abs(circulation(mesh, field.at)))).toBeLessThan(2e-5);
      }
    },
  );
});

describe('a flow of Taylor and Green', () => {
  // u = sin x cos y, v = -cos x sin y (Taylor, Green, Proc. R. Soc. A 158 (1937) 499; from memory): free of divergence, its curl is
  // 2 sin x sin y, its energy over a cell of pi by pi is pi² / 4 for each height.
  const flow = (x: number, y: number): number[] => [Math.sin(x) * Math.cos(y), -Math.cos(x) * Math.sin(y), 0];
  const errors = (n: number): { curl: number; divergence: number; energy: number } => {
    const mesh = hexBlockBetween(n, 0, Math.PI);
    const v = onPoints(mesh, flow);
    const g = gradientAtPoints(mesh, v.data, 3);
    const out = { curl: 0, divergence: 0, energy: 0 };
    for (let i = 0; i < mesh.points.length / 3; i++) {
      const [x, y, z] = mesh.points.subarray(3 * i, 3 * i + 3);
      const inside = [x, y, z].every((c) => c > 0.01 && c < Math.PI - 0.01);
      if (!inside) continue;
      const at = 9 * i;
      const curl = 2 * Math.sin(x) * Math.sin(y);
      out.curl = Math.max(out.curl, Math.abs(g[at + 3] - g[at + 1] - curl));
      out.divergence = Math.max(out.divergence, Math.abs(g[at] + g[at + 4] + g[at + 8]));
    }
    const half = piece(mesh, { e: onPoints(mesh, (x, y) => (flow(x, y)[0] ** 2 + flow(x, y)[1] ** 2) / 2) });
    out.energy = Math.abs(asked(integral, half, { field: 'e' }).value - (Math.PI ** 2 / 4) * Math.PI);
    return out;
  };
  it('is met with the second order: curl, divergence, energy', () => {
    const [coarse, fine] = [errors(8), errors(16)];
    expect(Math.log2(coarse.curl / fine.curl)).toBeGreaterThan(1.8);
    expect(fine.divergence).toBeLessThan(1e-5);
    // Trapezoids over a whole period are exact (Euler, Maclaurin).
    expect(fine.energy).toBeLessThan(1e-4);
  });
});
