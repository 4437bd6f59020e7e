import { readFileSync } from 'node:fs';
import { linearRegression, linearRegressionLine, mean, rSquared } from 'simple-statistics';
import { beforeAll, describe, expect, it } from 'vitest';
import type { RunDescription } from '#core/model/run.ts';
import { fitResponse } from '#core/response/fit-response.ts';
import { polynomial } from '#core/response/polynomial.ts';
import { endsOfScales, joinEnds, type ScaleEnds } from '#core/scene/scale-ends.ts';
import { readScript } from '#core/scene/scene-script.ts';
import { likelyMatrix, runMatrix } from '#core/sets/run-matrix.ts';
import { type RunTable, runTable } from '#core/sets/run-table.ts';
import { readRuns } from '../read-run.ts';

interface FamilyCase {
  file: string;
  fan_rpm: number;
  vent_deg: number;
  mean_T: number;
  fields: Record<'T', { first: { min: number; max: number } }>;
}

/** Facts computed from the same files by an independent script. */
const cases: FamilyCase[] = JSON.parse(readFileSync('tests/fixtures/expected.json', 'utf8')).family.case;

let runs: RunDescription[];
let table: RunTable;
beforeAll(async () => {
  ({ runs } = await readRuns(['tests/fixtures/samples/family.zip']));
  table = runTable(runs.map(({ name, parameters }) => ({ id: name, name, parameters })));
});

const numbers = (key: string) => table.columns.find((c) => c.key === key)!.values.map(Number);

describe('the ovens of the family, as a set', () => {
  it('have what was chosen for them told from what came of it', () => {
    expect(Object.fromEntries(table.columns.map((c) => [c.key, c.role]))).toEqual({
      fan_rpm: 'input',
      vent_deg: 'input',
      mean_T: 'output',
      T_spread: 'output',
      power_W: 'output',
    });
  });

  it('stand in the cells of their inputs, one in each', () => {
    const wish = likelyMatrix(table);
    expect([wish.across, wish.down]).toEqual(['vent_deg', 'fan_rpm']);
    const rows = table.rows.map((_, row) => row);
    const { across, down, cells } = runMatrix(table, rows, wish);
    const named = cells.map((line) => line.map((found) => found.map((row) => table.rows[row].name)));
    expect(named).toEqual(
      down.map((fan) =>
        across.map((vent) =>
          cases
            .filter((c) => c.fan_rpm === fan && c.vent_deg === vent)
            .map((c) => c.file.replace('.vtu', '')),
        ),
      ),
    );
    expect(named.flat(2)).toHaveLength(cases.length);
  });

  it('share a scale from the lowest to the highest value of all', () => {
    const scene = readScript('Surface of everything, coloured by T', runs[0]);
    const ends = runs.map((run) => endsOfScales(scene, run, [])).reduce(joinEnds, {} as ScaleEnds);
    const facts = cases.map((c) => c.fields.T.first);
    const [low, high] = ends[scene.scales[0].id];
    expect(low).toBeCloseTo(Math.min(...facts.map((f) => f.min)), 4);
    expect(high).toBeCloseTo(Math.max(...facts.map((f) => f.max)), 4);
  });

  it('have the line of each vent, and each run told by the others, as the package simple-statistics finds them', () => {
    const [fans, vents, temperatures] = ['fan_rpm', 'vent_deg', 'mean_T'].map(numbers);
    for (const vent of new Set(vents)) {
      const points = fans.flatMap((fan, i) => (vents[i] === vent ? [[fan, temperatures[i]]] : []));
      const line = (of: number[][]) => linearRegressionLine(linearRegression(of));
      const fit = fitResponse(
        polynomial,
        { degree: 1 },
        { inputs: points.map(([fan]) => [fan]), outputs: points.map(([, value]) => value) },
      );
      expect(fit.surface.at([1800])).toBeCloseTo(line(points)(1800), 8);
      expect(fit.quality.explained).toBeCloseTo(rSquared(points, line(points)), 10);
      const leftOut = points.map(([fan, value], i) => value - line(points.toSpliced(i, 1))(fan));
      for (const [i, wanted] of leftOut.entries()) expect(fit.leftOut[i]).toBeCloseTo(wanted, 8);
      const middle = mean(points.map(([, value]) => value));
      const [missed, spread] = [leftOut, points.map(([, value]) => value - middle)].map((all) =>
        all.reduce((sum, d) => sum + d * d, 0),
      );
      expect(fit.quality.predicted).toBeCloseTo(1 - missed / spread, 9);
    }
  });
});
