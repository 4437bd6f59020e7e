import { describe, expect, it } from 'vitest';
import { differences, ORDER, withDifferences } from '../model/document-changes.ts';
import { History } from '../model/history.ts';
import {
  emptyRunSet,
  type RunSet,
  type RunSetEdit,
  runSetForm,
  runSetSchema,
  withRunSetEdit,
} from './run-set.ts';
import { type SetShot, setShotSchema, setViews, shownInFormOfNow, shownOf, usualShown } from './set-view.ts';

const shotOf = (set: RunSet, id: string, kind: SetShot['kind'] = 'table'): SetShot => ({
  id,
  name: `Shot ${id}`,
  kind,
  shown: shownOf(set),
  folder: null,
  tags: [],
  notes: '',
  thumbnail: '',
});
const edited = (set: RunSet, ...edits: RunSetEdit[]): RunSet => edits.reduce(withRunSetEdit, set);

const ovens: RunSet = { ...emptyRunSet('Ovens'), runs: ['a', 'b', 'c'], marked: ['b'] };
/** Sorted, filtered, laid out, paged to its second run, and a fit chosen. */
const dressed = edited(
  ovens,
  { type: 'set.view', change: { sort: { key: 'fan', down: true }, hidden: ['c'], group: 'vent' } },
  {
    type: 'set.view',
    change: { filters: [{ kind: 'between', key: 'fan', low: 900, high: null }] },
  },
  { type: 'set.matrix', change: { across: 'fan', down: 'vent', at: { load: 3 } } },
  { type: 'set.response', change: { view: 'surface', output: 'mean', at: 3 } },
  { type: 'set.sheet', change: { shot: 's1', run: 'b', scales: 'each' } },
);

describe('a shot of a set', () => {
  it('brings back exactly how the set was looked at, and nothing else of it', () => {
    const kept = edited(dressed, { type: 'set.shot.keep', shot: shotOf(dressed, '1', 'matrix') });
    const changed = edited(
      { ...kept, ...usualShown },
      { type: 'set.mark', runs: ['a'], on: true },
      { type: 'set.runs.add', runs: ['d'] },
    );
    expect(shownOf(changed)).not.toEqual(shownOf(dressed));
    const opened = edited(changed, { type: 'set.shot.open', id: '1' });
    expect(shownOf(opened)).toEqual(shownOf(dressed));
    expect(opened).toMatchObject({ marked: ['b', 'a'], runs: ['a', 'b', 'c', 'd'] });
    expect(edited(changed, { type: 'set.shot.open', id: 'gone' })).toEqual(changed);
  });
  it('is opened as one step that can be undone', () => {
    const kept = edited(ovens, { type: 'set.shot.keep', shot: shotOf(dressed, '1') });
    const history = History.of(kept).to(
      edited(kept, { type: 'set.shot.open', id: '1' }),
      'open a shot',
      null,
    );
    expect(history.now.view.group).toBe('vent');
    expect(history.undo().now).toEqual(kept);
  });
  it('is named, noted, kept anew in its place, put in order and deleted', () => {
    const three = edited(
      ovens,
      ...['1', '2', '3'].map((id): RunSetEdit => ({ type: 'set.shot.keep', shot: shotOf(ovens, id) })),
    );
    const ids = (set: RunSet): string[] => set.shots.map((s) => s.id);
    const again = edited(three, { type: 'set.shot.keep', shot: shotOf(dressed, '2', 'strip') });
    expect(ids(again)).toEqual(['1', '2', '3']);
    expect(again.shots[1]).toMatchObject({ kind: 'strip', shown: { sheet: { run: 'b' } } });
    const named = edited(three, {
      type: 'set.shot.change',
      id: '3',
      change: { name: 'Best', folder: 'Review', tags: ['fan'], notes: 'Say why' },
    });
    expect(named.shots[2]).toMatchObject({ name: 'Best', folder: 'Review', tags: ['fan'], notes: 'Say why' });
    // One that another desk kept meanwhile stands behind those whose order is said.
    expect(ids(edited(three, { type: 'set.shot.order', ids: ['3', '1'] }))).toEqual(['3', '1', '2']);
    expect(ids(edited(three, { type: 'set.shot.remove', id: '1' }))).toEqual(['2', '3']);
  });
  it('of two desks are both kept, in the order that one of them gave', () => {
    const one = edited(ovens, { type: 'set.shot.keep', shot: shotOf(ovens, '1') });
    const base = edited(one, { type: 'set.shot.keep', shot: shotOf(ovens, '2') });
    const mine = edited(base, { type: 'set.shot.order', ids: ['2', '1'] });
    const theirs = edited(base, { type: 'set.shot.keep', shot: shotOf(dressed, '3') });
    const changes = differences(runSetForm, base, mine);
    expect(changes.map((c) => c.at)).toEqual([['shots', ORDER]]);
    const { document, refused } = withDifferences(runSetForm, theirs, changes);
    expect(refused).toEqual([]);
    expect(document.shots.map((s) => s.id).sort()).toEqual(['1', '2', '3']);
    expect(document.shots.findIndex((s) => s.id === '2')).toBeLessThan(
      document.shots.findIndex((s) => s.id === '1'),
    );
  });
  it('is checked when it is read', () => {
    for (const kind of setViews)
      expect(setShotSchema.safeParse(shotOf(dressed, '1', kind)).success).toBe(true);
    const set = edited(dressed, { type: 'set.shot.keep', shot: shotOf(dressed, '1') });
    expect(runSetSchema.parse(set)).toEqual(set);
    const wrong = (change: object): boolean =>
      !setShotSchema.safeParse({ ...shotOf(dressed, '1'), ...change }).success;
    expect(wrong({ kind: 'pie' })).toBe(true);
    expect(wrong({ name: '' })).toBe(true);
    // It is shown as a picture: nothing else may stand there.
    expect(wrong({ thumbnail: 'javascript:alert(1)' })).toBe(true);
    expect(wrong({ thumbnail: 'data:text/html;base64,AAAA' })).toBe(true);
    expect(wrong({ thumbnail: 'data:image/jpeg;base64,AAAA' })).toBe(false);
    expect(wrong({ shown: { ...usualShown, view: null } })).toBe(true);
  });
});

describe('what is shown of a set', () => {
  it('that was kept before something was added gets what is usual there', () => {
    expect(shownInFormOfNow({})).toEqual(usualShown);
    const { view: _, ...response } = dressed.response;
    const { run: __, ...sheet } = dressed.sheet;
    const old = { ...shownOf(dressed), response, sheet } as never;
    expect(shownInFormOfNow(old)).toEqual({
      ...shownOf(dressed),
      response: { ...dressed.response, view: 'curves' },
      sheet: { ...dressed.sheet, run: null },
    });
  });
});
