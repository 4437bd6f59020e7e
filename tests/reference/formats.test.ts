import { readFileSync } from 'node:fs';
import { describe, expect, it } from 'vitest';
import type { InspectedRun } from '#core/measure/inspect-report.ts';
import { inspect } from '../../cli/inspect.ts';

/**
 * Files written by general-purpose libraries (meshio, trimesh, ase, netCDF4, pyevtk) and what those libraries say is in
 * them; see tests/fixtures/make/formats.py.
 */
interface Fact {
  points?: number;
  cells?: Record<string, number>;
  bounds?: number[];
  times?: number[];
  timeUnit?: string;
  parts?: Record<string, number>;
  fields?: Record<string, { components: number; ranges: [number, number, number][] }>;
}

const folder = 'tests/fixtures/formats';
const facts: Record<string, Fact> = JSON.parse(readFileSync(`${folder}/facts.json`, 'utf8'));

const read = async (name: string): Promise<InspectedRun> => {
  const report = await inspect([`${folder}/${name}`]);
  expect(report.errors).toEqual([]);
  expect(report.runs).toHaveLength(1);
  return report.runs[0];
};

const close = (actual: number | null, wanted: number, name: string): void => {
  expect(Math.abs(actual! - wanted), name).toBeLessThanOrEqual(1e-6 * Math.max(1, Math.abs(wanted)));
};

/** Cells by type over all parts. */
function cellsOf(run: InspectedRun): Record<string, number> {
  const out: Record<string, number> = {};
  for (const part of run.parts)
    for (const [type, n] of Object.entries(part.cellsByType)) out[type] = (out[type] ?? 0) + n;
  return out;
}

describe('files of other programs hold what their writers say', () => {
  for (const [name, fact] of Object.entries(facts)) {
    it(name, async () => {
      const run = await read(name);
      if (fact.cells) expect(cellsOf(run)).toEqual(fact.cells);
      // A file that keeps its blocks apart has points of borders in each of them.
      if (fact.points && run.parts.length === 1) expect(run.parts[0].points).toBe(fact.points);
      if (fact.bounds) {
        for (let k = 0; k < 6; k++) {
          const bounds = run.parts.map((p) => p.bounds[k]);
          close(k % 2 ? Math.max(...bounds) : Math.min(...bounds), fact.bounds[k], `bound ${k}`);
        }
      }
      if (fact.times) expect(run.steps.map((s) => s.time)).toEqual(fact.times);
      if (fact.timeUnit) expect(run.timeUnit).toBe(fact.timeUnit);
      if (fact.parts) {
        const found = Object.fromEntries(run.parts.map((p) => [p.name, p.cells]));
        expect(found).toEqual(fact.parts);
      }
      for (const [key, wanted] of Object.entries(fact.fields ?? {})) {
        const [location, ...label] = key.split(':');
        const field = run.fields.find((f) => f.location === location && f.name === label.join(':'));
        expect(field, key).toBeDefined();
        expect(field!.components).toBe(wanted.components);
        for (const [k, [min, max, mean]] of wanted.ranges.entries()) {
          const range = field!.componentRanges[k];
          close(range.min, min, `${key} min`);
          close(range.max, max, `${key} max`);
          if (run.parts.length === 1) close(range.mean, mean, `${key} mean`);
        }
      }
    });
  }

  it('atoms: positions, properties and the corners of a tilted box', async () => {
    const run = await read('atoms.xyz');
    const fact = facts['atoms.xyz'] as unknown as {
      position: number[][];
      heat: number[][];
      corner: number[];
    };
    const ranges = (name: string) =>
      run.fields.find((f) => f.name === name)!.componentRanges.map((r) => [r.min, r.max, r.mean]);
    for (const name of ['position', 'heat'] as const) {
      for (const [k, wanted] of fact[name].entries())
        for (const [i, v] of wanted.entries()) close(ranges(name)[k][i], v, `${name} ${k}`);
    }
    const box = run.parts.find((p) => p.name === 'box')!;
    expect([box.bounds[1], box.bounds[3], box.bounds[5]]).toEqual(fact.corner);
  });
});

describe('Exodus II', () => {
  it('has blocks as parts, sets as part sets, and results over time', async () => {
    const run = await read('sets.e');
    expect(run.parts.map((p) => [p.name, p.points, p.cellsByType])).toEqual([
      ['left', 8, { hexahedron: 1 }],
      ['right', 8, { hexahedron: 1 }],
    ]);
    expect(run.sets).toEqual([
      { name: 'corner', parts: [{ part: 'left', cells: 1 }] },
      { name: 'outlet', parts: [{ part: 'right', cells: 1 }] },
    ]);
    expect(run.steps.map((s) => s.time)).toEqual([0.5, 1.5]);
    expect(run.fields.map((f) => [f.name, f.location, f.components])).toEqual([
      ['heat', 'point', 1],
      ['disp', 'point', 3],
      ['load', 'cell', 1],
    ]);
    expect(run.fields[0]).toMatchObject({ min: 0, max: 111 });
    expect(run.fields[1].componentRanges.map((r) => r.max)).toEqual([121, 131, 141]);
    expect(run.fields[2]).toMatchObject({ min: 0, max: 11 });
  });
});

describe('CGNS written with the library of the standard (tests/fixtures/make/ducts.c)', () => {
  it('structured zones are parts with values on points and in cells', async () => {
    const run = await read('ducts-structured.cgns');
    expect(run.parts.map((p) => [p.name, p.points, p.cellsByType])).toEqual([
      ['lower duct', 12, { hexahedron: 2 }],
      ['upper duct', 12, { hexahedron: 2 }],
    ]);
    expect(run.parts[1].bounds).toEqual([0, 2, 0, 1, 2, 3]);
    expect(run.fields.map((f) => [f.name, f.location, f.components, f.min, f.max])).toEqual([
      ['Temperature', 'point', 1, 20, 140],
      ['Velocity', 'point', 3, 0, Math.sqrt(4 + 1 + 9)],
      ['Load', 'cell', 1, 5, 7],
    ]);
  });
  it('cells told by their faces, with a boundary of one of them', async () => {
    const run = await read('ducts-polyhedral.cgns');
    expect(run.parts.map((p) => [p.name, p.points, p.cellsByType])).toEqual([
      ['air', 8, { hexahedron: 1 }],
      ['outlet', 4, { polygon: 1 }],
    ]);
    expect(run.parts[1].bounds).toEqual([0, 1, 0, 1, 1, 1]);
  });
  it('unstructured zones have their boundary sections as parts, families as sets, and times', async () => {
    const run = await read('ducts-unstructured.cgns');
    expect(run.parts.map((p) => [p.name, p.cellsByType])).toEqual([
      ['air', { hexahedron: 2, pyramid: 1 }],
      ['inlet face', { quad: 1 }],
      ['side wall', { quad: 2 }],
    ]);
    expect(run.sets).toEqual([
      { name: 'blowing', parts: [{ part: 'inlet face', cells: 1 }] },
      { name: 'still', parts: [{ part: 'side wall', cells: 2 }] },
    ]);
    expect(run.steps.map((s) => s.time)).toEqual([0.25, 0.75]);
    expect(run.fields[0]).toMatchObject({ name: 'Temperature', min: 20, max: 1032 });
  });
});
