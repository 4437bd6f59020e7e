import { describe, expect, it } from 'vitest';
import { Findings } from './door/findings.ts';
import type { CollectionEntry, OpenedCollection } from './format.ts';
import { openFile } from './registry.ts';
import { arrange, type KnownFile, planRuns, timeInName, troublesOfRows, withTimes } from './series.ts';
import { writePvd } from './vtk-xml/vtk-xml-write.ts';

const collection = (entries: (Omit<CollectionEntry, 'piece'> & { piece?: number })[]): OpenedCollection => ({
  kind: 'collection',
  entries: entries.map((e) => ({ piece: null, ...e })),
  findings: new Findings(),
});

const files = (...paths: string[]): KnownFile[] =>
  paths.map((path) => ({ path, kind: 'run', steps: [null] }));
const plan = (...paths: string[]) => planRuns(files(...paths), new Map());
const paths = (p: ReturnType<typeof plan>[number]): string[][] =>
  p.steps.map((s) => s.files.map((f) => f.path));

describe('numbered files', () => {
  it('become one run in the order of their numbers', () => {
    const [only, ...others] = plan('air_10.vtu', 'air_9.vtu', 'air_11.vtu');
    expect(others).toHaveLength(0);
    expect(only.name).toBe('air');
    expect(paths(only)).toEqual([['air_9.vtu'], ['air_10.vtu'], ['air_11.vtu']]);
  });
  it('of different names or folders become different runs', () => {
    expect(
      plan('a/air_1.vtu', 'b/air_1.vtu', 'a/tin_1.vtu', 'a/air_2.vtu').map((p) => p.steps.length),
    ).toEqual([2, 1, 1]);
  });
  it('with gaps say which are missing', () => {
    expect(plan(...[1, 2, 4, 5, 6].map((n) => `air_${n}.vtu`))[0].warnings[0]).toMatch(/gaps: 3 missing/);
  });
  it('counted by tens, or by decimals, have no gap', () => {
    expect(plan(...[10, 20, 30].map((n) => `air_${n}.vtu`))[0].warnings).toEqual([]);
    const [decimal] = plan('air_0.25.vtu', 'air_1.5.vtu', 'air_0.5.vtu');
    expect(decimal.warnings).toEqual([]);
    expect(paths(decimal).flat()).toEqual(['air_0.25.vtu', 'air_0.5.vtu', 'air_1.5.vtu']);
  });
  it('with two numbers that fill a table are steps of partitions', () => {
    const [only] = plan('d_1_0.vtu', 'd_0_1.vtu', 'd_0_0.vtu', 'd_1_1.vtu');
    expect(only.arrangement).toBe('steps of pieces');
    expect(paths(only)).toEqual([
      ['d_0_0.vtu', 'd_0_1.vtu'],
      ['d_1_0.vtu', 'd_1_1.vtu'],
    ]);
    expect(only.steps[0].files.map((f) => f.piece)).toEqual([0, 1]);
  });
  it('of processes of a divided case are partitions', () => {
    const [only] = plan(
      'case/processor0/constant/polyMesh/points',
      'case/processor1/constant/polyMesh/points',
    );
    expect(only.arrangement).toBe('pieces');
    expect(only.steps).toHaveLength(1);
  });
  it('that hold several steps each follow each other', () => {
    const known: KnownFile[] = [
      { path: 'w_2.dump', kind: 'run', steps: [20, 30] },
      { path: 'w_1.dump', kind: 'run', steps: [0, 10] },
    ];
    const [only] = planRuns(known, new Map());
    expect(only.steps.map((s) => [s.time, s.files[0].path, s.files[0].step])).toEqual([
      [0, 'w_1.dump', 0],
      [10, 'w_1.dump', 1],
      [20, 'w_2.dump', 0],
      [30, 'w_2.dump', 1],
    ]);
  });
});

describe('what the person may correct', () => {
  const three = files('tin_1.vtu', 'tin_2.vtu', 'tin_3.vtu');
  it('steps become parts or partitions', () => {
    expect(arrange(three, 'parts').steps[0].files.map((f) => f.part)).toEqual(['tin_1', 'tin_2', 'tin_3']);
    const pieces = arrange(three, 'pieces');
    expect(pieces.steps).toHaveLength(1);
    expect(pieces.steps[0].files.map((f) => [f.part, f.piece])).toEqual([
      ['tin', 0],
      ['tin', 1],
      ['tin', 2],
    ]);
  });
  it('times are typed or taken from the names', () => {
    const steps = arrange(files('t_0.5.vtu', 't_0.75.vtu'), 'steps');
    expect(withTimes(steps, { kind: 'names' }).steps.map((s) => s.time)).toEqual([0.5, 0.75]);
    const typed = withTimes(steps, { kind: 'typed', start: 10, interval: 0.5 });
    expect(typed.steps.map((s) => s.time)).toEqual([10, 10.5]);
    expect(withTimes(steps, { kind: 'stated' })).toBe(steps);
    expect(timeInName('a/oven_1e-3.vtu')).toBe(1e-3);
    expect(timeInName('oven.vtu')).toBeNull();
  });
  it('fields without a mesh go to the only run with one', () => {
    const [only] = planRuns(
      [
        ...files('oven.msh'),
        { path: 'heat_2.msh', kind: 'fields', steps: [2] },
        { path: 'heat_1.msh', kind: 'fields', steps: [1] },
      ],
      new Map(),
    );
    expect(only.fieldFiles).toEqual(['heat_1.msh', 'heat_2.msh']);
    // A mesh of one step has those of its fields.
    expect(only.steps.map((s) => [s.time, s.files[0].path])).toEqual([
      [1, 'oven.msh'],
      [2, 'oven.msh'],
    ]);
  });
  it('a table of runs makes one run of each row, with its parameters', () => {
    const table: KnownFile = {
      path: 'runs.csv',
      kind: 'table',
      steps: [null],
      reading: { as: 'runs', file: 0 },
      rows: [
        { file: 'a.vtu', parameters: { fan_rpm: 900 } },
        { file: 'b.vtu', parameters: { fan_rpm: 1500 } },
        { file: 'gone.vtu', parameters: {} },
      ],
    };
    const plans = planRuns([...files('a.vtu', 'b.vtu'), table], new Map());
    expect(plans.map((p) => [p.name, p.parameters])).toEqual([
      ['a', [['fan_rpm', 900]]],
      ['b', [['fan_rpm', 1500]]],
    ]);
    const [missing, ...others] = troublesOfRows(table, ['a.vtu', 'b.vtu', 'runs.csv']);
    expect(missing.reason).toBe('row 3 names a file that is not there: gone.vtu');
    expect(others).toEqual([]);
  });
});

describe('a table of runs', () => {
  it('tells of rows that name the same file, and takes the first', () => {
    const table: KnownFile = {
      path: 'set/runs.csv',
      kind: 'table',
      steps: [null],
      reading: { as: 'runs', file: 0 },
      rows: ['a.vtu', 'b.vtu', './a.vtu', 'a.vtu'].map((file, i) => ({ file, parameters: { i } })),
    };
    const all = [...files('set/a.vtu', 'set/b.vtu'), table];
    expect(planRuns(all, new Map()).map((p) => [p.name, p.parameters])).toEqual([
      ['a', [['i', 0]]],
      ['b', [['i', 1]]],
    ]);
    const [twins] = troublesOfRows(
      table,
      all.map((f) => f.path),
    );
    expect(twins).toMatchObject({
      reason: 'rows 3 and 4 name a file that an earlier row names already: a.vtu',
      where: 'rows 3 and 4',
    });
  });
  it('names files that list others, as of a run in parts or in time', () => {
    const rows = ['b.pvd', 'a.pvd', 'c.vtu', 'b.pvd'].map((file, i) => ({ file, parameters: { i } }));
    const table: KnownFile = { path: 'set/runs.csv', kind: 'table', steps: [null], rows };
    const steps = (of: string) =>
      collection([
        { time: 1, part: 'air', file: `${of}-1.vtu` },
        { time: 2, part: 'air', file: `${of}-2.vtu` },
      ]);
    const known = [...files('set/a-1.vtu', 'set/a-2.vtu', 'set/b-1.vtu', 'set/b-2.vtu', 'set/c.vtu'), table];
    const collections = new Map(['a', 'b', 'other'].map((of) => [`set/${of}.pvd`, steps(of)]));
    // One that no row names is a run all the same.
    expect(planRuns(known, collections).map((p) => [p.name, p.steps.length, p.parameters])).toEqual([
      ['other', 0, []],
      ['b', 2, [['i', 0]]],
      ['a', 2, [['i', 1]]],
      ['c', 1, [['i', 2]]],
    ]);
    // A second table that names the same makes no run of it again.
    const again: KnownFile = { ...table, path: 'set/again.csv' };
    expect(planRuns([...known, again], collections).map((p) => p.name)).toEqual([
      'other',
      'b',
      'a',
      'c',
      'again',
    ]);
    const paths = [...known.map((f) => f.path), ...collections.keys()];
    expect(troublesOfRows(table, paths).map((t) => t.reason)).toEqual([
      'row 4 names a file that an earlier row names already: b.pvd',
    ]);
  });
  it('names the first of many files that are not there, and counts the others', () => {
    const rows = Array.from({ length: 9 }, (_, i) => ({ file: `gone-${i}.vtu`, parameters: {} }));
    const table = { path: 'runs.csv', kind: 'table', steps: [null], rows } as KnownFile;
    const [missing] = troublesOfRows(table, ['runs.csv']);
    expect(missing.reason).toBe(
      'rows 1, 2, 3, 4, 5 and 4 more name files that are not there: gone-0.vtu, gone-1.vtu, gone-2.vtu, gone-3.vtu, gone-4.vtu and 4 more',
    );
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
    const known = files('f/tins-1.vtu', 'f/tins-2.vtu', 'f/air-1.vtu', 'f/air-2.vtu', 'f/other.vtu');
    const plans = planRuns(known, new Map([['f/oven.pvd', collection(entries)]]));
    expect(plans.map((p) => p.name)).toEqual(['oven', 'other']);
    const file = (path: string, part: string) => ({ path, part, piece: null, step: 0 });
    expect(plans[0].steps).toEqual([
      { time: 1, files: [file('f/air-1.vtu', 'air'), file('f/tins-1.vtu', 'tins')] },
      { time: 2, files: [file('f/tins-2.vtu', 'tins'), file('f/air-2.vtu', 'air')] },
    ]);
  });
  it('lead through the lists they list', () => {
    const outer = collection([
      { time: 0, part: '0', file: 'd_0.pvtu' },
      { time: 1, part: '0', file: 'd_1.pvtu' },
    ]);
    const inner = (n: number) =>
      collection([0, 1].map((k) => ({ time: null, part: '0', file: `d_${n}_${k}.vtu`, piece: k })));
    const plans = planRuns(
      files('d_0_0.vtu', 'd_0_1.vtu', 'd_1_0.vtu', 'd_1_1.vtu'),
      new Map([
        ['d.pvd', outer],
        ['d_0.pvtu', inner(0)],
        ['d_1.pvtu', inner(1)],
      ]),
    );
    expect(plans).toHaveLength(1);
    expect(plans[0].steps.map((s) => [s.time, s.files.map((f) => [f.path, f.piece])])).toEqual([
      [
        0,
        [
          ['d_0_0.vtu', 0],
          ['d_0_1.vtu', 1],
        ],
      ],
      [
        1,
        [
          ['d_1_0.vtu', 0],
          ['d_1_1.vtu', 1],
        ],
      ],
    ]);
  });
  it('that list themselves or each other come to an end', () => {
    const ring = new Map([
      ['a.pvd', collection([{ time: 0, part: '0', file: 'b.pvd' }])],
      [
        'b.pvd',
        collection([
          { time: 0, part: '0', file: 'a.pvd' },
          { time: 0, part: '0', file: 'x.vtu' },
        ]),
      ],
      ['c.pvd', collection([{ time: 0, part: '0', file: 'c.pvd' }])],
    ]);
    expect(planRuns(files('x.vtu'), ring).length).toBeLessThan(4);
  });
  it('name what is not there', () => {
    const entries = [
      { time: 0, part: '0', file: 'a.vtu' },
      { time: 1, part: '0', file: 'b.vtu' },
    ];
    const [only] = planRuns(files('a.vtu'), new Map([['x.pvd', collection(entries)]]));
    expect(only.steps).toHaveLength(1);
    expect(only.warnings[0]).toMatch(/1 of 2 files .* b\.vtu/);
  });
  it('are read back as written', async () => {
    const written = [{ time: 0.25, part: 1, name: 'chamber & air', file: 'a.vtu' }];
    const opened = (await openFile(new TextEncoder().encode(writePvd(written)))) as OpenedCollection;
    expect(opened.entries).toEqual([{ time: 0.25, part: 'chamber & air', file: 'a.vtu', piece: null }]);
  });
});
