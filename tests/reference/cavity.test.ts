import { readFileSync } from 'node:fs';
import { beforeAll, describe, expect, it } from 'vitest';
import type { InspectReport } from '#core/measure/inspect-report.ts';
import type { Mesh } from '#core/model/mesh.ts';
import { runChain, sourceOf } from '#core/ops/chain/chain.ts';
import { inspect } from '../../cli/inspect.ts';
import { pointValues } from '../mesh-checks.ts';
import { openMesh } from '../open-mesh.ts';

const { cavity: facts } = JSON.parse(readFileSync('tests/fixtures/expected.json', 'utf8'));

const near = (actual: number | null, wanted: number, relative = 1e-6): void => {
  expect(Math.abs(actual! - wanted)).toBeLessThanOrEqual(relative * Math.max(Math.abs(wanted), 1e-6));
};

describe('the cavity as inspect sees it', () => {
  let report: InspectReport;
  const ends: Record<'first' | 'last', InspectReport> = {} as never;
  beforeAll(async () => {
    report = await inspect(['tests/fixtures/cavity/cavity.pvd']);
    ends.first = await inspect(['tests/fixtures/cavity/cavity_00.vtu']);
    ends.last = await inspect(['tests/fixtures/cavity/cavity_20.vtu']);
  });

  it('has the points, cells, bounds and times of the files', () => {
    const [run] = report.runs;
    expect(report.errors).toEqual([]);
    expect(run.dimension).toBe(2);
    expect(run.parts[0]).toMatchObject({
      points: facts.points,
      cellsByType: facts.cells,
      bounds: facts.bounds.flat(),
    });
    expect(run.steps.map((s) => s.time)).toEqual(facts.times);
  });

  for (const when of ['first', 'last'] as const) {
    it(`has the ranges and means of every field in the ${when} step`, () => {
      for (const [name, fact] of Object.entries<Record<string, never>>(facts.fields)) {
        const field = ends[when].runs[0].fields.find((f) => f.name === name)!;
        expect(field).toMatchObject({ location: fact.location, components: fact.components });
        const wanted = fact[when] as {
          min: number;
          components?: { min: number; max: number; mean: number }[];
          magnitude?: { min: number; max: number; mean: number };
        };
        const main = wanted.magnitude ?? (wanted as unknown as { min: number; max: number; mean: number });
        for (const key of ['min', 'max', 'mean'] as const) near(field[key], main[key]);
        wanted.components?.forEach((c, k) => {
          for (const key of ['min', 'max', 'mean'] as const) near(field.componentRanges[k][key], c[key]);
        });
      }
    });
  }

  it('spans at least the first and the last step in its overall ranges', () => {
    const velocity = report.runs[0].fields.find((f) => f.name === 'velocity')!;
    expect(velocity.max!).toBeGreaterThanOrEqual(facts.fields.velocity.last.magnitude.max * (1 - 1e-6));
    expect(velocity.nanCount).toBe(0);
  });
});

it('area and integral of the temperature over the drawn triangles are those of the facts', async () => {
  for (const [file, fact] of [
    ['cavity_00.vtu', 'T_integral_first'],
    ['cavity_20.vtu', 'T_integral_last'],
  ] as const) {
    const opened = await openMesh(`tests/fixtures/cavity/${file}`);
    const T = opened.readField(opened.fields.findIndex((f) => f.name === 'T'));
    const piece = runChain(sourceOf(opened.readMesh() as Mesh), []);
    const { mesh } = piece;
    const values = pointValues(piece, T, 1, 0);
    const { points: p, connectivity: c, offsets } = mesh;
    let area = 0;
    let integral = 0;
    for (let i = 0; i < mesh.types.length; i++) {
      const [a, b, d] = c.subarray(offsets[i], offsets[i + 1]);
      const piece =
        Math.abs(
          (p[3 * b] - p[3 * a]) * (p[3 * d + 1] - p[3 * a + 1]) -
            (p[3 * d] - p[3 * a]) * (p[3 * b + 1] - p[3 * a + 1]),
        ) / 2;
      area += piece;
      integral += (piece * (values[a] + values[b] + values[d])) / 3;
    }
    expect(mesh.types).toHaveLength(facts.cells.triangle);
    expect(area).toBeCloseTo(facts.integrals.area, 6);
    near(integral, facts.integrals[fact]);
  }
});

describe('the published benchmark of the cavity', () => {
  /**
   * G. de Vahl Davis, "Natural convection of air in a square cavity: a bench mark numerical solution", Int. J. Numer.
   * Methods Fluids 3 (1983): for Ra = 1e5 the largest horizontal velocity on the vertical mid-line is 34.73, the
   * largest vertical velocity on the horizontal mid-line 68.59.
   */
  const largest = async (normal: [number, number, number], component: number): Promise<number> => {
    const opened = await openMesh('tests/fixtures/cavity/cavity_20.vtu');
    const velocity = opened.readField(opened.fields.findIndex((f) => f.name === 'velocity'));
    const source = sourceOf(opened.readMesh() as Mesh);
    const piece = runChain(source, [{ op: 'section', options: { normal, offset: 0.5, locked: false } }]);
    return Math.max(...pointValues(piece, velocity, 3, component));
  };

  it('u on the vertical mid-line is within 2 %', async () => {
    const u = await largest([1, 0, 0], 0);
    expect(Math.abs(u - 34.73) / 34.73).toBeLessThan(0.02);
    expect(u).toBeCloseTo(facts.integrals.largest_u_on_x_0p5.at_points, 4);
  });
  it('v on the horizontal mid-line is within 2 %', async () => {
    const v = await largest([0, 1, 0], 1);
    expect(Math.abs(v - 68.59) / 68.59).toBeLessThan(0.02);
    expect(v).toBeCloseTo(facts.integrals.largest_v_on_y_0p5.at_points, 3);
  });
});
