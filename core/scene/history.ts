import type { Scene } from './document.ts';
import { applyEdit, type Edit, sayEdit } from './edits.ts';
import { type SceneChange, withChanges } from './scene-changes.ts';

interface Entry {
  scene: Scene;
  said: string;
  /** Edits in a row with the same key (one drag, one scrub) are undone together. */
  key: string | null;
  beside?: Beside;
}

/** Something done beside the scene, kept in the order of its edits: whoever did it can do it both ways. */
export interface Beside {
  /** What was done, as undo names it. */
  said: string;
  undo(): void;
  redo(): void;
}

/** A scene with what came before and what was undone. Plain and unchanging: every method gives a new history. */
export class SceneHistory {
  private constructor(
    readonly scene: Scene,
    private readonly past: readonly Entry[],
    private readonly future: readonly Entry[],
  ) {}

  static of(scene: Scene): SceneHistory {
    return new SceneHistory(scene, [], []);
  }

  /** @param key joins this edit with the one before when both carry the same key */
  apply(edit: Edit, key: string | null = null): SceneHistory {
    return this.to(applyEdit(this.scene, edit), sayEdit(edit), key);
  }

  /**
   * Another state of the scene.
   *
   * @param said what was done, as undo names it
   */
  to(scene: Scene, said: string, key: string | null = null): SceneHistory {
    if (scene === this.scene) return this;
    const last = this.past[this.past.length - 1];
    if (key !== null && last?.key === key && this.future.length === 0) {
      return new SceneHistory(scene, this.past, []);
    }
    const entry = { scene: this.scene, said, key };
    return new SceneHistory(scene, [...this.past.slice(-199), entry], []);
  }

  /** Notes what was done beside the scene; undo and redo give it back in its turn. */
  noteBeside(beside: Beside): SceneHistory {
    const entry = { scene: this.scene, said: beside.said, key: null, beside };
    return new SceneHistory(this.scene, [...this.past.slice(-199), entry], []);
  }

  /** What undo and redo would have to do beside the scene. */
  get besideUndo(): Beside | null {
    return this.past[this.past.length - 1]?.beside ?? null;
  }

  get besideRedo(): Beside | null {
    return this.future[0]?.beside ?? null;
  }

  /** The step and the phase on show are part of the saved scene but not of what is undone. */
  showAt({
    step = this.scene.step,
    phase = this.scene.cycle.phase,
  }: {
    step?: number;
    phase?: number;
  }): SceneHistory {
    const { scene } = this;
    if (step === scene.step && scene.onward === 0 && phase === scene.cycle.phase) return this;
    return new SceneHistory(
      { ...scene, step, onward: 0, cycle: { ...scene.cycle, phase } },
      this.past,
      this.future,
    );
  }

  /** What was changed elsewhere, made in this state and in all that undo leads to. */
  withChangesFromElsewhere(changes: readonly SceneChange[]): SceneHistory {
    if (changes.length === 0) return this;
    const also = (scene: Scene): Scene => withChanges(scene, changes).scene;
    const entries = (list: readonly Entry[]): Entry[] => list.map((e) => ({ ...e, scene: also(e.scene) }));
    return new SceneHistory(also(this.scene), entries(this.past), entries(this.future));
  }

  /** A state at the time that is on show now. */
  private asShown(scene: Scene): Scene {
    return { ...scene, step: this.scene.step, onward: this.scene.onward };
  }

  undo(): SceneHistory {
    const entry = this.past[this.past.length - 1];
    if (!entry) return this;
    return new SceneHistory(this.asShown(entry.scene), this.past.slice(0, -1), [
      { ...entry, scene: this.scene, key: null },
      ...this.future,
    ]);
  }

  redo(): SceneHistory {
    const [entry, ...rest] = this.future;
    if (!entry) return this;
    return new SceneHistory(
      this.asShown(entry.scene),
      [...this.past, { ...entry, scene: this.scene, key: null }],
      rest,
    );
  }

  /** What undo would take back, or null. */
  get undoText(): string | null {
    return this.past[this.past.length - 1]?.said ?? null;
  }

  get redoText(): string | null {
    return this.future[0]?.said ?? null;
  }
}
