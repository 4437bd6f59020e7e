import { describe, expect, it } from 'vitest';
import { Arrivals } from './arrivals.ts';
import type { SeenFile } from './resting-files.ts';

const file = (path: string, size = 10, changed = 1): SeenFile => ({ path, size, changed });
const rests = { rest: 100, mark: null };
const names = (found: readonly { name: string }[]): string[] => found.map((a) => a.name);

describe('arrivals in a watched folder', () => {
  it('are files by themselves and folders as a whole, by numbers in their names', () => {
    const arrivals = new Arrivals(rests);
    const files = [file('case10.vtu'), file('case9.vtu'), file('b/mesh.vtu'), file('b/more/walls.vtu')];
    expect(arrivals.look(files, 0)).toEqual([]);
    const found = arrivals.look(files, 100);
    expect(names(found)).toEqual(['b', 'case9.vtu', 'case10.vtu']);
    expect(found[0].paths).toEqual(['b/mesh.vtu', 'b/more/walls.vtu']);
  });

  it('are waited for while any file of theirs is written', () => {
    const arrivals = new Arrivals(rests);
    arrivals.look([file('b/one', 10), file('b/two', 10), file('c', 5)], 0);
    const grown = [file('b/one', 10), file('b/two', 11), file('c', 5)];
    expect(names(arrivals.look(grown, 100))).toEqual(['c']);
    expect(names(arrivals.look(grown, 200))).toEqual(['b', 'c']);
  });

  it('come again, with the runs that came of them, when they have changed, and only then', () => {
    const arrivals = new Arrivals({ rest: 0, mark: null });
    const [first] = arrivals.look([file('a')], 0);
    expect(first.before).toEqual([]);
    arrivals.take(first, ['run-1']);
    expect(arrivals.look([file('a')], 10)).toEqual([]);
    const [second] = arrivals.look([file('a', 11, 2)], 20);
    expect(second.before).toEqual(['run-1']);
    arrivals.take(second, ['run-2']);
    expect(arrivals.look([file('a', 11, 2)], 30)).toEqual([]);
  });

  it('are known again by one who is told what was taken in', () => {
    const before = new Arrivals({ rest: 0, mark: null });
    for (const one of before.look([file('a'), file('b')], 0)) before.take(one, [`run of ${one.name}`]);
    const kept = JSON.parse(JSON.stringify(before.known()));
    const after = new Arrivals({ rest: 0, mark: null }, kept);
    expect(after.look([file('a'), file('b')], 50)).toEqual([]);
    expect(after.look([file('a'), file('b', 12)], 60)).toMatchObject([{ name: 'b', before: ['run of b'] }]);
  });

  it('wait for their mark, which is none of their files', () => {
    const arrivals = new Arrivals({ rest: 0, mark: 'done' });
    expect(arrivals.look([file('a/x.vtu')], 0)).toEqual([]);
    expect(arrivals.look([file('a/x.vtu'), file('a/done')], 10)).toMatchObject([
      { name: 'a', paths: ['a/x.vtu'] },
    ]);
  });
});
