import { readFileSync } from 'node:fs';
import { unzipSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import { openFile } from '../formats/registry.ts';
import { likelyMatrix, runMatrix } from './run-matrix.ts';
import { runTable } from './run-table.ts';
import { type RowsView, shownRows } from './shown-rows.ts';

/** The table of a family of cases, as it lies beside their files: fan speed by vane angle, and what came of each. */
const manifest = unzipSync(readFileSync('tests/fixtures/samples/family.zip'));
const opened = await openFile(manifest['manifest.csv'] ?? manifest['family/manifest.csv'], 'manifest.csv');
if (opened.kind !== 'table') throw new Error('the manifest is no table');
const family = opened.runRows!().map(({ file, parameters }, i) => ({
  id: `run-${i + 1}`,
  name: file,
  parameters,
}));
const table = runTable(family);
const column = (key: string, of = table) => of.columns.find((c) => c.key === key)!;
const plain: RowsView = { sort: null, filters: [], hidden: [], group: null };

describe('the table of a set of runs', () => {
  it('tells what was chosen from what came of it', () => {
    expect(table.columns.map((c) => [c.name, c.role, c.unit])).toEqual([
      ['fan_rpm', 'input', null],
      ['vent_deg', 'input', null],
      ['mean_T', 'output', null],
      ['T_spread', 'output', null],
      ['power_W', 'output', null],
    ]);
    expect(table.rows).toHaveLength(12);
    expect(table.findings).toEqual([]);
    const named = runTable([{ id: 'a', name: 'a', parameters: { 'power [W]': 3 } }]).columns[0];
    expect([named.name, named.unit]).toEqual(['power', 'W']);
  });

  it('knows inputs that differ in every run by how short they are, and names by being texts', () => {
    const spread = [0.1, 0.35, 0.72, 0.9].map((opening, i) => ({
      id: `r${i}`,
      name: `r${i}`,
      parameters: { title: `trial ${i}`, opening, loss: 1 / (3 + opening), round: 2 * i },
    }));
    expect(runTable(spread).columns.map((c) => c.role)).toEqual(['label', 'input', 'output', 'output']);
    const words = ['steel', 'tin', 'steel', 'tin'].map((tin, i) => ({
      id: `r${i}`,
      name: `r${i}`,
      parameters: { tin },
    }));
    expect(runTable(words).columns[0].role).toBe('input');
  });

  it('knows that long numbers follow from an input when they come back with it, and short ones may have been chosen', () => {
    const fans = [600, 600, 1200, 1200, 1800, 1800];
    const runs = (of: (fan: number, row: number) => Record<string, number>) =>
      fans.map((fan, i) => ({ id: `r${i}`, name: `r${i}`, parameters: { fan, ...of(fan, i) } }));
    const roles = (of: Parameters<typeof runs>[0]) => runTable(runs(of)).columns.map((c) => c.role);
    const power = (fan: number): number => Math.round(58.37 * (fan / 1000) ** 3 * 100) / 100;
    expect(roles((fan) => ({ power: power(fan) }))).toEqual(['input', 'output']);
    expect(roles((fan) => ({ hertz: fan / 60 }))).toEqual(['input', 'input']);
    // It comes back with another fan as well: somebody chose it.
    expect(roles((_, row) => ({ opening: row % 2 ? 0.12345 : 0.54321 }))).toEqual(['input', 'input']);
    // One value in all runs follows from nothing.
    expect(roles(() => ({ density: 1.20451 }))).toEqual(['input', 'input']);
    // Laid out, what says the same as another comes last.
    const twice = runTable(runs((fan, row) => ({ hertz: fan / 60, vent: row % 2 })));
    expect(likelyMatrix(twice)).toMatchObject({ across: 'fan', down: 'vent' });
  });

  it('is corrected by hand, for all runs at once', () => {
    const wishes = { power_W: { role: 'input', unit: 'W', name: 'power' }, gone: { role: 'input' } } as const;
    const corrected = runTable(family, wishes);
    expect(column('power_W', corrected)).toMatchObject({ name: 'power', role: 'input', unit: 'W' });
    expect(corrected.columns.map((c) => c.role).slice(0, 3)).toEqual(['input', 'input', 'output']);
    expect(column('mean_T', runTable(family, { mean_T: { unit: '°C' } })).unit).toBe('°C');
  });

  it('takes decimal commas and words for nothing, and tells of texts among numbers', () => {
    const runs = ['12,5', '13', 'n/a', 'broken', '14.25'].map((mass, i) => ({
      id: `r${i}`,
      name: `loaf ${i}`,
      parameters: { mass },
    }));
    const { columns, findings } = runTable(runs);
    expect(columns[0]).toMatchObject({ numeric: true, values: [12.5, 13, null, null, 14.25] });
    expect(findings[0]).toMatch(/“broken” of loaf 3 is no number/);
    expect(findings[1]).toBe('“mass” is lacking in 2 of 5 runs.');
  });

  it('brings what is said in several units into one, and tells of it', () => {
    const of = (...powers: (string | number)[]) =>
      runTable(powers.map((power, i) => ({ id: `r${i}`, name: `r${i}`, parameters: { power } })));
    const mixed = of('800 W', '1,2 kW', '950W', 700, 'n/a');
    expect(mixed.columns[0]).toMatchObject({ numeric: true, unit: 'W', values: [800, 1200, 950, 700, null] });
    expect(mixed.findings).toContain('“power” is said in W and kW; here all of it is in W.');
    const odd = of('800 W', '3 m', '1 kW', '2 racks');
    expect(odd.columns[0].values).toEqual([800, null, 1000, null]);
    expect(odd.findings).toEqual(
      expect.arrayContaining([
        '“3 m” of r1 does not measure what the others of “power” do, in W; it is left out.',
        '“2 racks” of r3 is no number, as the others of “power” are; it is left out.',
      ]),
    );
    // Degrees are no mere factor.
    const warm = runTable([
      { id: 'a', name: 'a', parameters: { 'air [°C]': 200 } },
      { id: 'b', name: 'b', parameters: { 'air [°C]': '473.15 K' } },
    ]);
    expect(warm.columns[0].values[1]).toBeCloseTo(200, 10);
    // Numbers of things are no units.
    expect(of('2 racks', '3 racks').columns[0]).toMatchObject({ numeric: false, unit: null });
  });

  it('puts columns together that differ by their unit only, unless a run has both', () => {
    const rows: Record<string, number | string>[] = [
      { 'power [W]': 800 },
      { 'power [kW]': 1.2 },
      { 'power [kW]': '0,7' },
    ];
    const of = (all: Record<string, number | string>[]) =>
      runTable(all.map((parameters, i) => ({ id: `r${i}`, name: `r${i}`, parameters })));
    const put = of(rows);
    expect(put.columns.map((c) => [c.key, c.unit, c.values])).toEqual([['power [W]', 'W', [800, 1200, 700]]]);
    expect(put.findings).toContain('“power” is said in W and kW; here all of it is in W.');
    expect(of([{ 'power [W]': 800, 'power [kW]': 0.8 }]).columns).toHaveLength(2);
    expect(of([{ 'power [W]': 800 }, { 'power [m]': 0.8 }]).columns).toHaveLength(2);
  });

  it('tells of constants, of what is lacking, of twins and of a set of one', () => {
    const odd = [
      { id: 'a', name: 'a', parameters: { fan: 900, vent: 0, load: 3 } },
      { id: 'b', name: 'b', parameters: { fan: 900, vent: 15, load: 3 } },
      { id: 'c', name: 'c', parameters: { fan: 900, vent: 0, load: 3 } },
      { id: 'd', name: 'd', parameters: { fan: 900, vent: 15 } as Record<string, number> },
    ];
    expect(runTable(odd).findings).toEqual([
      '“fan” is 900 in all runs: nothing can be told from it.',
      '“load” is lacking in 1 of 4 runs.',
      '“load” is 3 in all runs: nothing can be told from it.',
      'c has the same inputs as a.',
    ]);
    expect(runTable(odd.slice(0, 1)).findings[0]).toMatch(/one run only/);
    expect(runTable([])).toEqual({ rows: [], columns: [], findings: [] });
  });
});

describe('the rows that are shown', () => {
  const rows = (view: Partial<RowsView>, of = table) =>
    shownRows(of, { ...plain, ...view }).map((g) => g.rows.map((r) => r + 1));

  it('are sorted either way, those that say nothing last', () => {
    const key = 'mean_T';
    expect(rows({ sort: { key, down: false } })[0].slice(0, 3)).toEqual([4, 3, 8]);
    expect(rows({ sort: { key, down: true } })[0].slice(0, 3)).toEqual([9, 5, 10]);
    const some = runTable([...family, { id: 'x', name: 'x', parameters: { fan_rpm: 900 } }]);
    for (const down of [false, true]) expect(rows({ sort: { key, down } }, some)[0].at(-1)).toBe(13);
    const named = ['case 10', 'case 9', 'Case 1'].map((n) => ({ id: n, name: n, parameters: { n } }));
    expect(rows({ sort: { key: 'n', down: false } }, runTable(named))).toEqual([[3, 2, 1]]);
    // Rows that are equal keep their order.
    expect(rows({ sort: { key: 'fan_rpm', down: true } })[0]).toEqual([
      9, 10, 11, 12, 5, 6, 7, 8, 1, 2, 3, 4,
    ]);
  });

  it('are filtered by numbers and texts, hidden by hand, and grouped', () => {
    expect(rows({ filters: [{ key: 'vent_deg', kind: 'between', low: 15, high: 30 }] })).toEqual([
      [2, 3, 6, 7, 10, 11],
    ]);
    expect(
      rows({
        filters: [
          { key: 'vent_deg', kind: 'among', texts: ['0'] },
          { key: 'power_W', kind: 'between', low: null, high: 1500 },
        ],
        hidden: ['run-1'],
      }),
    ).toEqual([[5]]);
    const groups = shownRows(table, { ...plain, group: 'vent_deg', sort: { key: 'power_W', down: true } });
    expect(groups.map((g) => [g.value, g.rows.map((r) => r + 1)])).toEqual([
      [0, [9, 5, 1]],
      [15, [10, 6, 2]],
      [30, [11, 7, 3]],
      [45, [12, 8, 4]],
    ]);
    // A column that is gone filters, sorts and groups nothing.
    expect(rows({ filters: [{ key: 'gone', kind: 'among', texts: [] }], group: 'gone' })).toHaveLength(1);
  });
});

describe('runs laid out by two inputs', () => {
  const all = table.rows.map((_, i) => i);

  it('stand by the two that have the most values', () => {
    const wish = likelyMatrix(table);
    expect(wish).toMatchObject({ across: 'vent_deg', down: 'fan_rpm' });
    const { across, down, cells, others } = runMatrix(table, all, wish);
    expect([across, down, others]).toEqual([[0, 15, 30, 45], [900, 1500, 2400], []]);
    expect(cells.map((row) => row.map(([r]) => r + 1))).toEqual([
      [1, 2, 3, 4],
      [5, 6, 7, 8],
      [9, 10, 11, 12],
    ]);
  });

  it('leave places empty, hold several, and show the others at one value', () => {
    const three = runTable(
      [
        [1, 1, 1],
        [1, 2, 1],
        [2, 2, 1],
        [1, 1, 2],
        [1, 1, 1],
      ].map(([a, b, c], i) => ({ id: `${i}`, name: `${i}`, parameters: { a, b, c } })),
    );
    const wish = { across: 'a', down: 'b', at: {} };
    const rows = [0, 1, 2, 3, 4];
    const made = runMatrix(three, rows, wish);
    expect(made.others).toEqual([{ key: 'c', values: [1, 2], shown: 1 }]);
    expect(made.cells).toEqual([
      [[0, 4], []],
      [[1], [2]],
    ]);
    expect(runMatrix(three, rows, { ...wish, at: { c: 2 } }).cells[0]).toEqual([[3], []]);
    expect(runMatrix(three, rows, { ...wish, at: { c: 7 } }).others[0].shown).toBe(1);
    // With one parameter they stand in a strip.
    expect(runMatrix(three, rows, { across: 'a', down: null, at: { c: 1, b: 1 } })).toMatchObject({
      down: [null],
      cells: [[[0, 4], []]],
    });
  });

  it('are not laid out by what differs in every run, while there is something else', () => {
    const named = runTable(
      table.rows.map(({ id, name }, row) => ({
        id,
        name,
        parameters: {
          number: row + 1,
          fan: table.columns.find((c) => c.key === 'fan_rpm')!.values[row]!,
          vent: table.columns.find((c) => c.key === 'vent_deg')!.values[row]!,
        },
      })),
    );
    const wish = likelyMatrix(named);
    expect(wish).toMatchObject({ across: 'vent', down: 'fan' });
    const { cells, others } = runMatrix(named, all, wish);
    expect(others).toEqual([]);
    expect(cells.flat().map((cell) => cell.length)).toEqual(Array(12).fill(1));
    // Where there is nothing else it is better than nothing.
    const strip = runTable(named.rows.map((r, number) => ({ ...r, parameters: { number } })));
    expect(likelyMatrix(strip)).toMatchObject({ across: 'number', down: null });
  });
});
