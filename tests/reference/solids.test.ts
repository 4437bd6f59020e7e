import { existsSync, readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import { cellTypes } from '#core/model/cell-types.ts';
import type { Mesh } from '#core/model/mesh.ts';
import { type ChainStep, runChain, sourceOf } from '#core/ops/chain/chain.ts';
import { inspect } from '../../cli/inspect.ts';
import { pointValues } from '../mesh-checks.ts';
import { openMesh } from '../open-mesh.ts';

const { shelf, family } = JSON.parse(readFileSync('tests/fixtures/expected.json', 'utf8'));

const load = async (path: string, field: string) => {
  const opened = await openMesh(path);
  const raw = opened.readMesh();
  const data = opened.readField(opened.fields.findIndex((f) => f.name === field));
  return {
    source: sourceOf({ ...raw, points: Float32Array.from(raw.points) } as Mesh),
    data,
  };
};

/** Area of the drawn polygons, and the mean over it of values that are linear on the triangles of their fans. */
function areaAndMean(
  { points: p, types, offsets, connectivity }: Mesh,
  values?: Float32Array,
): { area: number; mean: number } {
  let area = 0;
  let sum = 0;
  for (let c = 0; c < types.length; c++) {
    if (cellTypes.get(types[c])!.dimension !== 2) continue;
    for (let i = offsets[c] + 1; i + 1 < offsets[c + 1]; i++) {
      const corners = [connectivity[offsets[c]], connectivity[i], connectivity[i + 1]];
      const [a, b, d] = corners.map((v) => Array.from(p.subarray(3 * v, 3 * v + 3)));
      const u = b.map((v, k) => v - a[k]);
      const w = d.map((v, k) => v - a[k]);
      const piece =
        Math.hypot(u[1] * w[2] - u[2] * w[1], u[2] * w[0] - u[0] * w[2], u[0] * w[1] - u[1] * w[0]) / 2;
      area += piece;
      if (values) sum += (piece * (values[corners[0]] + values[corners[1]] + values[corners[2]])) / 3;
    }
  }
  return { area, mean: sum / area };
}

const plane = (axis: number, offset: number): ChainStep[] => {
  const normal = [0, 0, 0];
  normal[axis] = 1;
  return [{ op: 'section', options: { normal, offset, locked: false } }];
};

describe('the shelf, against facts computed from its file by an independent script', () => {
  for (const [axis, offset, name] of [
    [0, 0.12, 'section_x_0p12'],
    [2, 0.003, 'section_z_0p003'],
  ] as const) {
    it(`${name}: area, mean and extremes of the stress`, async () => {
      const { source, data } = await load('tests/fixtures/shelf/shelf.vtu', 'mises');
      const piece = runChain(source, plane(axis, offset));
      const { mesh } = piece;
      const values = pointValues(piece, data, 1, 0);
      const { area, mean } = areaAndMean(mesh, values);
      const facts = shelf.integrals[name];
      expect(area / facts.area).toBeCloseTo(1, 5);
      expect(mean / facts.field_area_mean).toBeCloseTo(1, 5);
      expect(Math.max(...values) / facts.field_max).toBeCloseTo(1, 5);
      expect(Math.min(...values) / facts.field_min).toBeCloseTo(1, 5);
    });
  }

  it('the surface is that of the labelled boundary triangles', async () => {
    const { source } = await load('tests/fixtures/shelf/shelf.vtu', 'mises');
    const piece = runChain(source, []);
    const { mesh } = piece;
    const labels = Object.values<{ triangles: number; area: number }>(shelf.surface_labels);
    expect(mesh.types).toHaveLength(labels.reduce((n, l) => n + l.triangles, 0));
    expect(areaAndMean(mesh).area).toBeCloseTo(
      labels.reduce((n, l) => n + l.area, 0),
      7,
    );
    for (const cell of piece.route('cell').gather!.index) expect(source.mesh.types[cell]).toBe(10);
  });

  it('inspect finds its counts and ranges', async () => {
    const [run] = (await inspect(['tests/fixtures/shelf/shelf.vtu'])).runs;
    expect(run.parts[0]).toMatchObject({ points: shelf.points, cellsByType: shelf.cells });
    const stress = run.fields.find((f) => f.name === 'stress')!;
    expect(stress.min).toBeNull();
    stress.componentRanges.forEach((r, k) => {
      const wanted = shelf.fields.stress.first.components[k];
      for (const key of ['min', 'max', 'mean'] as const)
        expect(Math.abs(r[key]! / wanted[key] - 1)).toBeLessThan(1e-6);
    });
  });
});

describe('four oven cases in four encodings', () => {
  for (const facts of family.case.filter((c: { file: string }) =>
    existsSync(`tests/fixtures/family/${c.file}`),
  )) {
    it(facts.file, async () => {
      const path = `tests/fixtures/family/${facts.file}`;
      const { source, data } = await load(path, 'T');
      const piece = runChain(source, plane(2, 0.2));
      const { mesh } = piece;
      const { area, mean } = areaAndMean(mesh, pointValues(piece, data, 1, 0));
      expect(area).toBeCloseTo(0.6 * 0.45, 6);
      expect(mean / facts.section_z_0p2_T_mean).toBeCloseTo(1, 3);
      const { T } = facts.fields;
      const field = (await inspect([path])).runs[0].fields.find((f) => f.name === 'T')!;
      for (const key of ['min', 'max', 'mean'] as const)
        expect(Math.abs(field[key]! / T.first[key] - 1)).toBeLessThan(1e-6);
    });
  }
});
