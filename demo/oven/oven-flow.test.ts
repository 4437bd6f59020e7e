import { expect, it } from 'vitest';
import { memorySource } from '#core/formats/bytes/byte-source.ts';
import type { OpenedRun } from '#core/formats/format.ts';
import { portableTools } from '#core/formats/portable-tools.ts';
import { xdmf } from '#core/formats/xdmf/xdmf.ts';
import { XdmfSeries } from '../shared/xdmf-series.ts';
import { AirPressure } from './air-pressure.ts';
import {
  AIR,
  CELL,
  cellIndex,
  LOAF,
  NX,
  NY,
  NZ,
  SLOT_SPEED,
  SLOT_TEMPERATURE,
  START_TEMPERATURE,
} from './chamber.ts';
import { OvenFiles } from './oven.ts';
import { OvenFlow, ui } from './oven-flow.ts';

it('pressure is found in few rounds, also around corners, and its equation holds', () => {
  const size: [number, number, number] = [18, 14, 16];
  // A block stands in the middle.
  const isAir = (at: number): boolean => {
    const [i, j, k] = [at % 18, Math.floor(at / 18) % 14, Math.floor(at / 252)];
    return !(i > 5 && i < 12 && j > 3 && j < 10 && k > 4 && k < 11);
  };
  const air = new AirPressure(size, isAir);
  const { cells } = air;
  const right = Float64Array.from(cells, (_, n) => Math.sin(n));
  const mean = right.reduce((a, b) => a + b, 0) / right.length;
  for (let n = 0; n < right.length; n++) right[n] -= mean;
  const x = new Float64Array(cells.length);
  expect(air.solve(x, right)).toBeLessThan(20);
  const at = new Map(Array.from(cells, (c, n) => [c, n]));
  let off = 0;
  let all = 0;
  for (const [n, c] of cells.entries()) {
    const [i, j, k] = [c % 18, Math.floor(c / 18) % 14, Math.floor(c / 252)];
    const around = [
      i > 0 ? c - 1 : -1,
      i < 17 ? c + 1 : -1,
      j > 0 ? c - 18 : -1,
      j < 13 ? c + 18 : -1,
      k > 0 ? c - 252 : -1,
      k < 15 ? c + 252 : -1,
    ].flatMap((o) => at.get(o) ?? []);
    const found = around.reduce((sum, o) => sum + x[n] - x[o], 0);
    off += (found - right[n]) ** 2;
    all += right[n] ** 2;
  }
  expect(Math.sqrt(off / all)).toBeLessThan(3e-3);
});

const flow = new OvenFlow();

it('the flow of the oven is free of divergence, warms air and loaves, and stays between the two temperatures', () => {
  const mean = (what: number): number => {
    const all = [...flow.temperature].filter((_, c) => flow.solid[c] === what);
    return all.reduce((a, b) => a + b, 0) / all.length;
  };
  for (let n = 0; n < 6; n++) flow.advance(2 / 3);
  // The projection stops at a residual of 0.2 % of the whole; single cells may be off by a few times that share of what
  // the slot brings through a face.
  expect(flow.largestDivergence()).toBeLessThan((0.02 * SLOT_SPEED) / CELL);
  expect(mean(AIR)).toBeGreaterThan(START_TEMPERATURE + 2);
  expect(mean(LOAF)).toBeGreaterThan(START_TEMPERATURE);
  expect(mean(LOAF)).toBeLessThan(mean(AIR));
  expect(flow.temperature.every((t) => t > START_TEMPERATURE - 1 && t < SLOT_TEMPERATURE + 1)).toBe(true);
  const through = (i: number): number => {
    let sum = 0;
    for (let k = 0; k < NZ; k++) for (let j = 0; j < NY; j++) sum += flow.u[ui(i, j, k)];
    return sum;
  };
  // What comes in through the slot leaves through the fan in the same wall: nothing is left for any section.
  const slotFlow = flow.u.reduce((a, b) => Math.max(a, b), 0) * 100;
  for (const i of [0, 1, 10, 40, NX]) expect(Math.abs(through(i)) / slotFlow).toBeLessThan(0.05);
});

it('the files of the oven hold its parts with their temperature; its air has at least 150,000 cells', async () => {
  const files = new Map<string, Uint8Array>();
  const keep = (name: string, content: string | Uint8Array): void => {
    files.set(name, typeof content === 'string' ? new TextEncoder().encode(content) : content);
  };
  const made = new OvenFiles(flow);
  const series = new XdmfSeries(keep, made.parts);
  series.step(4, made.fields());
  const opened = (await xdmf.open(memorySource(new TextEncoder().encode(series.file())), {
    ...portableTools,
    name: 'oven.xdmf',
    beside: (p) => (files.has(p) ? memorySource(files.get(p)!) : null),
  })) as OpenedRun;
  expect(opened.steps).toEqual([4]);
  expect(opened.parts.map((p) => p.name)).toEqual([
    'chamber air',
    'loaves',
    'tins',
    'racks',
    'fan',
    'door glass',
    'walls',
  ]);
  const air = opened.parts[0].at(0)!;
  const cells = flow.solid.reduce((n, s) => n + (s === AIR ? 1 : 0), 0);
  expect(cells).toBeGreaterThan(150_000);
  expect(air.readMesh().types.length).toBe(cells);
  for (const part of opened.parts) {
    const state = part.at(0)!;
    const { points } = state.readMesh();
    expect(state.fields[0].name).toBe('temperature');
    const values = state.readField(0);
    expect(values.length).toBe(points.length / 3);
    expect(Array.from(values).every((v) => v >= START_TEMPERATURE - 1 && v <= SLOT_TEMPERATURE + 1)).toBe(
      true,
    );
  }
  // The hottest air is where the slot blows it in.
  const { points } = air.readMesh();
  const values = air.readField(0);
  const hottest = Array.from(values).reduce((best, v, i) => (v > values[best] ? i : best), 0);
  expect(points[3 * hottest]).toBeLessThan(0.2);
  expect(cellIndex(1, 0, 0)).toBe(1);
});
