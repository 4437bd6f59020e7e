interface Entry<T> {
  state: T;
  said: string;
  /** Edits in a row with the same key (one drag, one scrub) are undone together. */
  key: string | null;
  beside?: Beside;
}

/** Something done beside a document, kept in the order of its edits: whoever did it can do it both ways. */
export interface Beside {
  /** What was done, as undo names it. */
  said: string;
  undo(): void;
  redo(): void;
}

/** So many states are kept before the present one. */
const KEPT = 200;

/** A document with what came before and what was undone. Plain and unchanging: every method gives a new history. */
export class History<T> {
  private constructor(
    readonly now: T,
    private readonly past: readonly Entry<T>[],
    private readonly future: readonly Entry<T>[],
  ) {}

  static of<T>(now: T): History<T> {
    return new History<T>(now, [], []);
  }

  /**
   * Another state of the document.
   *
   * @param said what was done, as undo names it
   * @param key joins it with the one before when both carry the same key
   */
  to(next: T, said: string, key: string | null = null): History<T> {
    if (next === this.now) return this;
    const last = this.past[this.past.length - 1];
    if (key !== null && last?.key === key && this.future.length === 0)
      return new History(next, this.past, []);
    return new History(next, this.withPast({ state: this.now, said, key }), []);
  }

  /** Notes what was done beside the document; undo and redo give it back in its turn. */
  noteBeside(beside: Beside): History<T> {
    return new History(
      this.now,
      this.withPast({ state: this.now, said: beside.said, key: null, beside }),
      [],
    );
  }

  private withPast(entry: Entry<T>): Entry<T>[] {
    return [...this.past.slice(1 - KEPT), entry];
  }

  /** What undo and redo would have to do beside the document. */
  get besideUndo(): Beside | null {
    return this.past[this.past.length - 1]?.beside ?? null;
  }

  get besideRedo(): Beside | null {
    return this.future[0]?.beside ?? null;
  }

  /** The present state in another form that is nothing to undo. */
  shownAs(now: T): History<T> {
    return now === this.now ? this : new History(now, this.past, this.future);
  }

  /** Every state changed alike: this one and all that undo and redo lead to. */
  everywhere(change: (state: T) => T): History<T> {
    const changed = (list: readonly Entry<T>[]): Entry<T>[] =>
      list.map((e) => ({ ...e, state: change(e.state) }));
    return new History(change(this.now), changed(this.past), changed(this.future));
  }

  /** @param shown how a state that comes back is shown now */
  undo(shown: (state: T) => T = (state) => state): History<T> {
    const entry = this.past[this.past.length - 1];
    if (!entry) return this;
    return new History(shown(entry.state), this.past.slice(0, -1), [
      { ...entry, state: this.now, key: null },
      ...this.future,
    ]);
  }

  redo(shown: (state: T) => T = (state) => state): History<T> {
    const [entry, ...rest] = this.future;
    if (!entry) return this;
    return new History(shown(entry.state), [...this.past, { ...entry, state: this.now, key: null }], rest);
  }

  /** What undo would take back, or null. */
  get undoText(): string | null {
    return this.past[this.past.length - 1]?.said ?? null;
  }

  get redoText(): string | null {
    return this.future[0]?.said ?? null;
  }
}
