import { describe, expect, it } from 'vitest';
import { differences, withDifferences } from '../model/document-changes.ts';
import { History } from '../model/history.ts';
import {
  emptyRunSet,
  type RunSet,
  type RunSetEdit,
  runSetEditsSaid,
  runSetForm,
  runSetSchema,
  tableOfSet,
  withRunSetEdit,
} from './run-set.ts';

const runs = ['oven_900_15', 'oven_900_30', 'oven_1500_15', 'loaf'].map((name, i) => ({
  id: `r${i}`,
  name,
  parameters: { power: 100 * (i + 1) } as Record<string, number | string>,
}));
const edited = (...edits: RunSetEdit[]): RunSet => edits.reduce(withRunSetEdit, emptyRunSet('Ovens'));
const all: RunSetEdit = { type: 'set.runs.add', runs: ['r0', 'r1', 'r2'] };
const columns = (set: RunSet) =>
  Object.fromEntries(tableOfSet(set, runs).columns.map((c) => [c.key, c.values]));

describe('a set of runs', () => {
  it('keeps what pictures are made of it, and what is meant by names, and forgets that again', () => {
    const rule: RunSetEdit = { type: 'set.rule', of: 'fields', asked: 'point:T', meant: 'point:Temp' };
    const set = edited(all, { type: 'set.batch', change: { shots: ['front'], scales: 'kept' } }, rule);
    expect(set.batch).toMatchObject({ shots: ['front'], scales: 'kept', formats: ['png'] });
    expect(set.rules).toEqual({ fields: { 'point:T': 'point:Temp' }, parts: {} });
    expect(runSetSchema.parse(set)).toEqual(set);
    expect(withRunSetEdit(set, { ...rule, meant: null }).rules).toEqual({ fields: {}, parts: {} });
  });
  it('has what files say of its runs, then what their names say, then what is typed', () => {
    const set = edited(all, { type: 'set.pattern', pattern: 'oven_{fan}_{vent}' });
    expect(columns(set)).toEqual({ power: [100, 200, 300], fan: [900, 900, 1500], vent: [15, 30, 15] });
    const typed = edited(
      all,
      { type: 'set.pattern', pattern: 'oven_{power}_{vent}' },
      { type: 'set.type', run: 'r1', key: 'power', value: 7 },
      { type: 'set.type', run: 'r1', key: 'baker', value: 'Ada' },
    );
    expect(columns(typed)).toEqual({
      power: [900, 7, 1500],
      vent: [15, 30, 15],
      baker: [null, 'Ada', null],
    });
    // What stands in names was chosen, though it differs in every run and comes behind what was computed.
    const computed = runs.slice(0, 3).map((run, i) => ({
      ...run,
      name: `oven_${900 + i}`,
      parameters: { heat: Math.sqrt(2 + i) } as Record<string, number | string>,
    }));
    const named = tableOfSet(edited(all, { type: 'set.pattern', pattern: 'oven_{fan}' }), computed);
    expect(named.columns.map((c) => [c.key, c.role])).toEqual([
      ['heat', 'output'],
      ['fan', 'input'],
    ]);
    const back = withRunSetEdit(typed, { type: 'set.type', run: 'r1', key: 'power', value: null });
    expect(columns(back).power).toEqual([900, 900, 1500]);
  });

  it('tells of runs that are gone, of names that are not of the pattern and of a pattern that is none', () => {
    const set = edited({ type: 'set.runs.add', runs: ['r0', 'gone', 'r3'] });
    expect(tableOfSet(set, runs).rows.map((r) => r.id)).toEqual(['r0', 'r3']);
    expect(tableOfSet(set, runs).findings[0]).toBe('1 of 3 runs of this set are no longer there.');
    const named = withRunSetEdit(set, { type: 'set.pattern', pattern: 'oven_{fan}_{vent}' });
    expect(tableOfSet(named, runs).findings[1]).toBe('The name of loaf is not made as “oven_{fan}_{vent}”.');
    const open = withRunSetEdit(set, { type: 'set.pattern', pattern: 'oven_{fan' });
    expect(tableOfSet(open, runs).findings[1]).toMatch(/open or closed alone/);
    expect(columns(open)).toEqual({ power: [100, 400] });
  });

  it('is corrected, marked, filtered and laid out; runs that leave it take what is known of them along', () => {
    const set = edited(
      all,
      all,
      { type: 'set.rename', name: 'Fan tests' },
      { type: 'set.column', key: 'power', change: { role: 'input' } },
      { type: 'set.column', key: 'power', change: { unit: 'W' } },
      { type: 'set.type', run: 'r1', key: 'baker', value: 'Ada' },
      { type: 'set.mark', runs: ['r0', 'r1'], on: true },
      { type: 'set.mark', runs: ['r0'], on: false },
      { type: 'set.view', change: { hidden: ['r1'], group: 'power' } },
      { type: 'set.matrix', change: { across: 'power' } },
    );
    expect(set).toMatchObject({
      name: 'Fan tests',
      runs: ['r0', 'r1', 'r2'],
      columns: { power: { role: 'input', unit: 'W' } },
      marked: ['r1'],
      view: { hidden: ['r1'], group: 'power', sort: null },
      matrix: { across: 'power', down: null },
    });
    expect(tableOfSet(set, runs).columns[0]).toMatchObject({ role: 'input', unit: 'W' });
    const less = withRunSetEdit(set, { type: 'set.runs.remove', runs: ['r1'] });
    expect([less.runs, less.marked, less.typed, less.view.hidden]).toEqual([['r0', 'r2'], [], {}, []]);
  });

  it('takes the changes of two who work at once, and gives back what both changed', () => {
    const set = edited(all);
    const mine = withRunSetEdit(set, { type: 'set.column', key: 'power', change: { unit: 'W' } });
    const theirs = [
      { type: 'set.column', key: 'fan', change: { role: 'input' } },
      { type: 'set.rename', name: 'Fans' },
    ] as const;
    const other = theirs.reduce<RunSet>(withRunSetEdit, set);
    const both = withDifferences(runSetForm, other, differences(runSetForm, set, mine));
    expect(both.refused).toEqual([]);
    expect(both.document).toMatchObject({
      name: 'Fans',
      columns: { power: { unit: 'W' }, fan: { role: 'input' } },
    });
    const named = withRunSetEdit(set, { type: 'set.rename', name: 'Ovens of May' });
    const clash = withDifferences(runSetForm, other, differences(runSetForm, set, named));
    expect(clash.refused).toEqual([{ at: ['name'], was: 'Ovens', now: 'Ovens of May' }]);
    expect(clash.document).toEqual(other);
  });

  it('is a document that is checked when it is read, and undone as one', () => {
    const set = edited(all, {
      type: 'set.view',
      change: { filters: [{ kind: 'between', key: 'power', low: 100, high: null }] },
    });
    expect(runSetSchema.parse(JSON.parse(JSON.stringify(set)))).toEqual(set);
    expect(runSetSchema.safeParse({ ...set, runs: [3] }).success).toBe(false);
    expect(
      runSetSchema.safeParse({ ...set, typed: { r0: { power: Number.POSITIVE_INFINITY } } }).success,
    ).toBe(false);
    const edit: RunSetEdit = { type: 'set.rename', name: 'Others' };
    const history = History.of(set).to(withRunSetEdit(set, edit), runSetEditsSaid[edit.type]);
    expect([history.undoText, history.undo().now.name]).toEqual(['rename the set', 'Ovens']);
  });
});
