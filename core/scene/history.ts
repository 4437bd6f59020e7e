import { type Beside, History } from '../model/history.ts';
import type { Scene } from './document.ts';
import { applyEdit, type Edit, sayEdit } from './edits.ts';
import { type SceneChange, withChanges } from './scene-changes.ts';

/** A scene with what came before and what was undone. Plain and unchanging: every method gives a new history. */
export class SceneHistory {
  private constructor(private readonly states: History<Scene>) {}

  static of(scene: Scene): SceneHistory {
    return new SceneHistory(History.of(scene));
  }

  get scene(): Scene {
    return this.states.now;
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
    return this.with(this.states.to(scene, said, key));
  }

  private with(states: History<Scene>): SceneHistory {
    return states === this.states ? this : new SceneHistory(states);
  }

  /** Notes what was done beside the scene; undo and redo give it back in its turn. */
  noteBeside(beside: Beside): SceneHistory {
    return this.with(this.states.noteBeside(beside));
  }

  /** What undo and redo would have to do beside the scene. */
  get besideUndo(): Beside | null {
    return this.states.besideUndo;
  }

  get besideRedo(): Beside | null {
    return this.states.besideRedo;
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
    return this.with(this.states.shownAs({ ...scene, step, onward: 0, cycle: { ...scene.cycle, phase } }));
  }

  /** What was changed elsewhere, made in this state and in all that undo leads to. */
  withChangesFromElsewhere(changes: readonly SceneChange[]): SceneHistory {
    if (changes.length === 0) return this;
    return this.with(this.states.everywhere((scene) => withChanges(scene, changes).scene));
  }

  undo(): SceneHistory {
    return this.with(this.states.undo(this.asShown));
  }

  redo(): SceneHistory {
    return this.with(this.states.redo(this.asShown));
  }

  /** A state at the time that is on show now. */
  private asShown = (scene: Scene): Scene => {
    const { step, onward } = this.scene;
    return { ...scene, step, onward };
  };

  /** What undo would take back, or null. */
  get undoText(): string | null {
    return this.states.undoText;
  }

  get redoText(): string | null {
    return this.states.redoText;
  }
}
