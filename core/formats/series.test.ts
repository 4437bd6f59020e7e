import { describe, expect, it } from 'vitest';
import { Findings } from './findings.ts';
import type { OpenedCollection } from './format.ts';
import { openFile } from './registry.ts';
import { planRuns } from './series.ts';
import { writePvd } from './vtk-xml-write.ts';

const collection = (entries: OpenedCollection['entries']): OpenedCollection => ({
  kind: 'collection',
  entries,
  findings: new Findings(),
});

describe('numbered files', () => {
  it('become one run in the order of their numbers', () => {
    const [plan, ...others] = planRuns(['air_10.vtu', 'air_9.vtu', 'air_11.vtu'], new Map());
    expect(others).toHaveLength(0);
    expect(plan.name).toBe('air');
    expect(plan.steps.map((s) => s.files[0].path)).toEqual(['air_9.vtu', 'air_10.vtu', 'air_11.vtu']);
  });
  it('of different names or folders become different runs', () => {
    expect(
      planRuns(['a/air_1.vtu', 'b/air_1.vtu', 'a/tin_1.vtu', 'a/air_2.vtu'], new Map()).map(
        (p) => p.steps.length,
      ),
    ).toEqual([2, 1, 1]);
  });
  it('with gaps say which are missing', () => {
    expect(
      planRuns(
        [1, 2, 4, 5, 6].map((n) => `air_${n}.vtu`),
        new Map(),
      )[0].warnings[0],
    ).toMatch(/gaps: 3 missing/);
  });
  it('counted by tens have no gap', () => {
    expect(
      planRuns(
        [10, 20, 30].map((n) => `air_${n}.vtu`),
        new Map(),
      )[0].warnings,
    ).toEqual([]);
  });
});

describe('collections', () => {
  it('give times, parts and order, and take their files out of the rest', () => {
    const entries = [
      { time: 2, part: 'tins', file: 'tins-2.vtu' },
      { time: 1, part: 'air', file: './air-1.vtu' },
      { time: 1, part: 'tins', file: 'tins-1.vtu' },
      { time: 2, part: 'air', file: 'air-2.vtu' },
    ];
    const files = ['f/tins-1.vtu', 'f/tins-2.vtu', 'f/air-1.vtu', 'f/air-2.vtu', 'f/other.vtu'];
    const plans = planRuns(files, new Map([['f/oven.pvd', collection(entries)]]));
    expect(plans.map((p) => p.name)).toEqual(['oven', 'other']);
    expect(plans[0].steps).toEqual([
      {
        time: 1,
        files: [
          { path: 'f/air-1.vtu', part: 'air' },
          { path: 'f/tins-1.vtu', part: 'tins' },
        ],
      },
      {
        time: 2,
        files: [
          { path: 'f/tins-2.vtu', part: 'tins' },
          { path: 'f/air-2.vtu', part: 'air' },
        ],
      },
    ]);
  });
  it('name what is not there', () => {
    const entries = [
      { time: 0, part: '0', file: 'a.vtu' },
      { time: 1, part: '0', file: 'b.vtu' },
    ];
    const [plan] = planRuns(['a.vtu'], new Map([['x.pvd', collection(entries)]]));
    expect(plan.steps).toHaveLength(1);
    expect(plan.warnings[0]).toMatch(/1 of 2 files .* b\.vtu/);
  });
  it('are read back as written', () => {
    const written = [{ time: 0.25, part: 1, name: 'chamber & air', file: 'a.vtu' }];
    const opened = openFile(new TextEncoder().encode(writePvd(written))) as OpenedCollection;
    expect(opened.entries).toEqual([{ time: 0.25, part: 'chamber & air', file: 'a.vtu' }]);
  });
});
