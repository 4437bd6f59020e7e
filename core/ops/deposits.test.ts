import { describe, expect, it } from 'vitest';
import { VERTEX } from '#core/model/cell-types.ts';
import type { Mesh } from '#core/model/mesh.ts';
import { replay } from '#core/model/recipe.ts';
import { hexBlockBetween, quadSheet, seeded } from '../../tests/made-solids.ts';
import { area } from '../../tests/mesh-checks.ts';
import { LANDED } from '../fields/sources/landed.ts';
import { PART_NUMBER } from '../fields/sources/part-number.ts';
import { NearestFace } from '../fields/surfaces/nearest-face.ts';
import type { MeshField } from '../model/field.ts';
import { sourceOf } from './chain/chain.ts';
import { joinReports, sayReport } from './chain/report.ts';
import { besideName } from './chain/workpiece.ts';
import { deposits } from './deposits.ts';
import { joinMeshes } from './kernels/join-meshes.ts';

const grainsAt = (...places: number[][]): Mesh => ({
  points: Float32Array.from(places.flat()),
  types: new Uint8Array(places.length).fill(VERTEX),
  offsets: Uint32Array.from({ length: places.length + 1 }, (_, i) => i),
  connectivity: Uint32Array.from(places, (_, i) => i),
});

function landedOn(mesh: Mesh, grains: Mesh | null, within: number, part = 'floor') {
  const beside = new Map(grains ? [[besideName({ kind: 'part', name: 'dust' }), grains]] : []);
  const piece = sourceOf(mesh, { origin: [0, 0, 0], part, fields: new Map(), beside });
  return deposits.run(piece, deposits.schema.parse({ from: 'dust', within }));
}

const said = (...made: ReturnType<typeof landedOn>[]): string =>
  sayReport(
    joinReports(made.flatMap((m) => m.report ?? [])),
    made.every((m) => m.mesh.types.length === 0),
    {
      length: 'm',
      field: null,
    },
  ).join(' ');

describe('the nearest face', () => {
  it('is that of a search through all, by many points of each', () => {
    const number = seeded(5);
    // Against triangles taken apart into fine grids of points: no nearer one than found, and one nearly as near.
    const mesh = quadSheet(3, 2, [0, 3], [0, 2]);
    for (let i = 0; i < mesh.points.length; i += 3) mesh.points[i + 2] = 0.4 * Math.sin(3 * mesh.points[i]);
    const nearest = new NearestFace(mesh, 0.8);
    const fine = 40;
    for (let k = 0; k < 60; k++) {
      const [x, y, z] = [3.4 * number() - 0.2, 2.4 * number() - 0.2, 1.4 * number() - 0.7];
      let best = Infinity;
      for (let c = 0; c < mesh.types.length; c++)
        for (const [a, b, d] of [0, 1].map((t) => {
          const loop = mesh.connectivity.subarray(mesh.offsets[c], mesh.offsets[c + 1]);
          return [loop[0], loop[t + 1], loop[t + 2]];
        }))
          for (let i = 0; i <= fine; i++)
            for (let j = 0; i + j <= fine; j++) {
              const w = [1 - (i + j) / fine, i / fine, j / fine];
              const p = [0, 1, 2].map((m) =>
                [a, b, d].reduce((sum, v, n) => sum + w[n] * mesh.points[3 * v + m], 0),
              );
              best = Math.min(best, Math.hypot(p[0] - x, p[1] - y, p[2] - z));
            }
      const found = nearest.find(x, y, z);
      if (found < 0) expect(best).toBeGreaterThan(0.8);
      else {
        expect(nearest.distance).toBeLessThanOrEqual(best + 1e-9);
        expect(nearest.distance).toBeGreaterThan(best - 0.05);
      }
    }
  });
});

describe('deposits', () => {
  it('are counted face by face and by area, each grain once', () => {
    // Four faces of one square metre; two grains on the first, one on the border of two, one too far above.
    const floor = quadSheet(2, 2, [0, 2], [0, 2]);
    const made = landedOn(
      floor,
      grainsAt([0.5, 0.5, 0.01], [0.2, 0.7, -0.02], [1, 0.5, 0], [0.5, 0.5, 0.2]),
      0.05,
    );
    const counts = made.made![LANDED.count];
    const byFace = [0, 1, 2, 3].map((f) => counts[4 * f]);
    // Of two faces that are as near the first has it.
    expect(byFace).toEqual([3, 0, 0, 0]);
    for (let f = 0; f < 4; f++)
      for (let k = 0; k < 4; k++) {
        expect(counts[4 * f + k]).toBe(byFace[f]);
        expect(made.made![LANDED.density][4 * f + k]).toBeCloseTo(byFace[f], 6);
      }
    expect(said(made)).toBe('Landed of 4: 3 on floor (0.75 per m²).');
  });
  it('over all faces sum up to what lies on them, by a plain loop; and points lead back', () => {
    const number = seeded(9);
    const block = hexBlockBetween(5);
    // On the top of the block, and as many far above it.
    const grains = grainsAt(
      ...Array.from({ length: 400 }, (_, i) => [
        2 * number() - 1,
        2 * number() - 1,
        i % 2 === 0 ? 1.01 : 1.5,
      ]),
    );
    const made = landedOn(block, grains, 0.02);
    const density = made.made![LANDED.density];
    let sum = 0;
    for (let c = 0; c < made.mesh.types.length; c++) sum += density[made.mesh.offsets[c]] * 0.4 ** 2;
    expect(sum).toBeCloseTo(200, 3);
    expect(area(made.mesh)).toBeCloseTo(24, 4);
    const xs = Float32Array.from({ length: block.points.length / 3 }, (_, i) => block.points[3 * i]);
    const back = replay(made.recipe!.points, xs, 1, 0);
    for (let i = 0; i < back.length; i++) expect(back[i]).toBe(made.mesh.points[3 * i]);
  });
  it('between two parts counts once, on the nearer one', () => {
    // Two floors, one above the other, as one mesh whose cells have the number of their part.
    const both = joinMeshes([quadSheet(1, 1, [0, 1], [0, 1]), quadSheet(1, 1, [0, 1], [0, 1])]);
    for (let i = 12; i < both.points.length; i += 3) both.points[i + 2] = 0.1;
    const numbers: MeshField = { location: 'cell', components: 1, axial: false, data: Float32Array.of(2, 3) };
    const beside = new Map([
      [
        besideName({ kind: 'part', name: 'dust' }),
        grainsAt([0.5, 0.4, 0.02], [0.5, 0.4, 0.07], [0.4, 0.2, 0.09]),
      ],
    ]);
    const fields = new Map([[PART_NUMBER, numbers]]);
    const piece = sourceOf(both, { origin: [0, 0, 0], part: 'floor,shelf', fields, beside });
    const options = { from: 'dust', within: 0.08, names: ['dust', 'floor', 'shelf'] };
    expect(said(deposits.run(piece, deposits.schema.parse(options)))).toBe(
      'Landed of 3: 1 on floor (1 per m²), 2 on shelf (2 per m²).',
    );
  });
  it('of several parts are told one by one; nothing near, or nothing there, with what helps', () => {
    const grains = grainsAt([0.5, 0.5, 0], [5.5, 0.5, 0], [5.6, 0.4, 0]);
    const floors = [
      landedOn(quadSheet(1, 1, [0, 1], [0, 1]), grains, 0.1, 'floor'),
      landedOn(quadSheet(1, 1, [5, 7], [0, 1]), grains, 0.1, 'shelf'),
    ];
    expect(said(...floors)).toBe('Landed of 3: 1 on floor (1 per m²), 2 on shelf (1 per m²).');
    expect(said(landedOn(quadSheet(1, 1, [0, 1], [8, 9]), grains, 0.1))).toMatch(
      /0 on floor.*count within a larger distance/,
    );
    expect(said(landedOn(quadSheet(1, 1, [0, 1], [0, 1]), null, 0.1))).toMatch(/part “dust”/);
  });
});
