import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, it } from 'vitest';
import { readRuns } from '../../tests/read-run.ts';
import { at, CELL, fanAndVent, isTin, SIZE, SteadyOven, ui } from './fan-and-vent.ts';

const [NX, NY, NZ] = SIZE;
const gentle = new SteadyOven({ fan: 600, vent: 45 });
const strong = new SteadyOven({ fan: 2400, vent: 45 });

it('no air is made or lost anywhere, and none goes through tins', () => {
  let worst = 0;
  for (let k = 0; k < NZ; k++)
    for (let j = 0; j < NY; j++)
      for (let i = 0; i < NX; i++) {
        worst = Math.max(worst, Math.abs(strong.divergence(i, j, k)));
        if (isTin(i, j, k)) expect(strong.u[ui(i, j, k)]).toBe(0);
      }
  expect(worst).toBeLessThan(1e-8);
  let leaving = 0;
  for (let k = 0; k < NZ; k++) for (let j = 0; j < NY; j++) leaving += CELL ** 2 * strong.u[ui(NX, j, k)];
  expect(leaving).toBeCloseTo(strong.moved, 12);
});

it('heat that comes in goes out again, to a ten-thousandth', () => {
  for (const oven of [gentle, strong]) {
    const { air, walls, boiling } = oven.heatOut;
    expect(Math.abs(air + walls + boiling - oven.heatIn) / oven.heatIn).toBeLessThan(1e-4);
    expect(Math.min(air, walls, boiling)).toBeGreaterThan(0);
  }
});

it('nothing is warmer than the air that comes in, nor colder than the room; the core of a tin lags behind its rim', () => {
  for (const t of gentle.temperature) {
    expect(t).toBeLessThanOrEqual(235);
    expect(t).toBeGreaterThanOrEqual(25);
  }
  // The first tin of the middle shelf.
  expect(gentle.temperature[at(7, 5, 11)]).toBeLessThan(gentle.temperature[at(3, 5, 11)]);
});

it('a faster fan bakes hotter and more evenly, and air from both openings more evenly than from one', () => {
  expect(strong.tins.mean).toBeGreaterThan(gentle.tins.mean);
  expect(strong.tins.spread).toBeLessThan(gentle.tins.spread);
  for (const vent of [15, 75])
    expect(new SteadyOven({ fan: 600, vent }).tins.spread).toBeGreaterThan(gentle.tins.spread);
});

it('comes as a table that names a file for each run', async () => {
  const files = new Map<string, string | Uint8Array>();
  fanAndVent.compute(
    (name, content) => files.set(name, content),
    () => undefined,
  );
  const folder = mkdtempSync(join(tmpdir(), 'dresser-fan-'));
  try {
    for (const [name, content] of files) writeFileSync(join(folder, name), content);
    const { runs, problems } = await readRuns([folder]);
    expect(problems).toEqual([]);
    expect(runs.map((r) => r.name).sort()).toEqual(
      [600, 1200, 1800, 2400].flatMap((fan) => [15, 45, 75].map((vent) => `oven-${fan}-${vent}`)).sort(),
    );
    const run = runs.find((r) => r.name === 'oven-2400-45')!;
    expect(run.parts.map((p) => p.name)).toEqual(['chamber air', 'tins']);
    const { mean, spread } = strong.tins;
    expect(run.parameters).toMatchObject({ 'fan [rpm]': 2400, 'vent [deg]': 45, 'fan power [W]': 801.79 });
    expect(run.parameters!['tins [°C]']).toBeCloseTo(mean, 1);
    expect(run.parameters!['spread of tins [°C]']).toBeCloseTo(spread, 1);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});
