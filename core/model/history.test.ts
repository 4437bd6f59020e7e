import { describe, expect, it } from 'vitest';
import { History } from './history.ts';

const begun = () => History.of('a').to('b', 'say b').to('c', 'say c');

describe('a history of a document', () => {
  it('goes back and forth, and says what that would do', () => {
    const history = begun();
    expect([history.now, history.undoText, history.redoText]).toEqual(['c', 'say c', null]);
    const back = history.undo();
    expect([back.now, back.undoText, back.redoText]).toEqual(['b', 'say b', 'say c']);
    expect(back.redo().now).toBe('c');
    expect(back.undo().undo().now).toBe('a');
    expect(history.redo()).toBe(history);
    // What was undone is gone once something else is done.
    expect(back.to('d', 'say d').redoText).toBeNull();
    expect(history.to('c', 'say c again')).toBe(history);
  });

  it('takes edits of one key together, and not across an undo', () => {
    const dragged = History.of(0).to(1, 'drag', 'x').to(2, 'drag', 'x').to(3, 'drag', 'x');
    expect(dragged.undo().now).toBe(0);
    expect(dragged.undo().redo().to(4, 'drag', 'x').undo().now).toBe(3);
    expect(dragged.to(4, 'drag', 'y').undo().now).toBe(3);
  });

  it('keeps two hundred states', () => {
    let history = History.of(0);
    for (let n = 1; n <= 250; n++) history = history.to(n, `say ${n}`);
    let back = history;
    for (let n = 0; n < 300; n++) back = back.undo();
    expect(back.now).toBe(50);
  });

  it('is shown otherwise, and changed everywhere, without anything to undo', () => {
    const history = begun();
    expect(history.shownAs('C').undo().now).toBe('b');
    expect(history.undo((state) => state.toUpperCase()).now).toBe('B');
    const all = history.undo().everywhere((state) => `${state}!`);
    expect([all.undo().now, all.now, all.redo().now]).toEqual(['a!', 'b!', 'c!']);
  });

  it('notes what was done beside it in its turn', () => {
    const done: string[] = [];
    const beside = { said: 'keep a shot', undo: () => done.push('undo'), redo: () => done.push('redo') };
    const history = begun().noteBeside(beside);
    expect([history.undoText, history.now]).toEqual(['keep a shot', 'c']);
    history.besideUndo?.undo();
    const back = history.undo();
    expect([back.now, back.besideUndo]).toEqual(['c', null]);
    back.besideRedo?.redo();
    expect(done).toEqual(['undo', 'redo']);
  });
});
