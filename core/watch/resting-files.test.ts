import { describe, expect, it } from 'vitest';
import { RestingFiles, type SeenFile } from './resting-files.ts';

const file = (path: string, size: number, changed = 0): SeenFile => ({ path, size, changed });

describe('files of a folder that is written to', () => {
  it('are whole once they rest for as long as is asked, counted anew whenever they grow', () => {
    const folder = new RestingFiles({ rest: 10, mark: null });
    expect(folder.look([file('a.vtu', 5)], 0)).toEqual({ whole: [], waiting: ['a.vtu'] });
    expect(folder.look([file('a.vtu', 9)], 8).whole).toEqual([]);
    expect(folder.look([file('a.vtu', 9)], 17).whole).toEqual([]);
    expect(folder.look([file('a.vtu', 9)], 18).whole).toEqual(['a.vtu']);
    // Written anew to the same size, it is waited for again.
    expect(folder.look([file('a.vtu', 9, 3)], 30).waiting).toEqual(['a.vtu']);
    expect(folder.look([file('a.vtu', 9, 3)], 40).whole).toEqual(['a.vtu']);
  });

  it('that are empty are only begun, and those that went are forgotten', () => {
    const folder = new RestingFiles({ rest: 10, mark: null });
    folder.look([file('a.vtu', 0), file('b.vtu', 1)], 0);
    expect(folder.look([file('a.vtu', 0), file('b.vtu', 1)], 50)).toEqual({
      whole: ['b.vtu'],
      waiting: ['a.vtu'],
    });
    folder.look([], 60);
    expect(folder.look([file('b.vtu', 1)], 70).waiting).toEqual(['b.vtu']);
  });

  it('do not rest by the clock of their disk, whatever that says', () => {
    const folder = new RestingFiles({ rest: 10, mark: null });
    const ahead = file('a.vtu', 5, 10 ** 13);
    expect(folder.look([ahead], 0).whole).toEqual([]);
    expect(folder.look([ahead], 10).whole).toEqual(['a.vtu']);
  });

  it('are whole by a mark in their folder, and by no other', () => {
    const folder = new RestingFiles({ rest: 10, mark: 'done' });
    const files = [file('one/a.vtu', 5), file('one/done', 0), file('two/b.vtu', 5), file('two/done.txt', 0)];
    expect(folder.look(files, 0)).toEqual({ whole: ['one/a.vtu'], waiting: ['two/b.vtu', 'two/done.txt'] });
    expect(folder.look([file('a.vtu', 5), file('done', 0)], 1).whole).toEqual(['a.vtu']);
  });

  it('are whole by a mark behind their own name', () => {
    const folder = new RestingFiles({ rest: 10, mark: '.ok' });
    const files = [file('a.vtu', 5), file('a.vtu.ok', 0), file('b.vtu', 5)];
    expect(folder.look(files, 0)).toEqual({ whole: ['a.vtu'], waiting: ['b.vtu'] });
  });
});
