import type { Scene } from '#core/scene/document.ts';
import { changesBetween, type SceneChange, withChanges } from '#core/scene/scene-changes.ts';
import { ask, problemFrom, RequestProblem } from '#engine/server-requests.ts';
import type { SaveConflict, Saved } from '#web/server/scenes.ts';

/** Rest after the last edit before it is saved, and before a failed save is tried again, in milliseconds. */
const REST = 600;
const RETRY = 3000;

export type SaveState =
  | { kind: 'saved' }
  | { kind: 'saving' }
  /** With what is wrong, and what to do. */
  | { kind: 'failed'; reason: string }
  /** Somebody else changed the same things: which, and what stands there now. */
  | { kind: 'conflict'; places: string[]; theirs: Scene };

interface SaverHost {
  id: string;
  /** The scene as it stands on the desk. */
  now(): Scene;
  /** Makes changes of others on the desk too. */
  adopt(changes: SceneChange[]): void;
  told(state: SaveState): void;
}

/**
 * Saves a scene by sending what has changed since it was last known to be saved. What others saved meanwhile comes
 * back with the answer and is taken over; where both touched the same thing, the person decides.
 */
export class SceneSaver {
  private timer = 0;
  private underWay = false;
  private conflict: SaveConflict | null = null;

  constructor(
    private readonly host: SaverHost,
    /** The scene as the server has it, and the revision of that. */
    private base: Scene,
    private revision: number,
  ) {}

  /** Something may have changed. */
  notice(): void {
    if (this.conflict || changesBetween(this.base, this.host.now()).length === 0) return;
    clearTimeout(this.timer);
    this.host.told({ kind: 'saving' });
    this.timer = window.setTimeout(() => void this.save(), REST);
  }

  /** The page is about to go: what is left is sent without waiting for the answer. */
  leave(): void {
    clearTimeout(this.timer);
    const changes = changesBetween(this.base, this.host.now());
    if (changes.length === 0 || this.conflict) return;
    this.base = this.host.now();
    void this.send(changes, true).catch(() => undefined);
  }

  /** Looks whether the scene was changed elsewhere, and takes it over. */
  async lookAround(): Promise<void> {
    if (this.underWay || this.conflict) return;
    const row = await ask<{ revision: number; document: Scene }>(`/api/scenes/${this.host.id}`).catch(
      () => null,
    );
    if (!row || this.underWay || row.revision === this.revision) return;
    const changes = changesBetween(this.base, row.document);
    this.base = row.document;
    this.revision = row.revision;
    this.host.adopt(changes);
    this.notice();
  }

  /** Keeps what stands on the desk, over what others did to the same things. */
  keepMine(): void {
    if (!this.conflict) return;
    this.base = this.conflict.document;
    this.revision = this.conflict.revision;
    this.conflict = null;
    void this.save();
  }

  /** Takes what others did; of one's own changes those stay that touch other things. */
  takeTheirs(): void {
    if (!this.conflict) return;
    const { document, revision } = this.conflict;
    const mine = changesBetween(this.base, this.host.now());
    const { scene } = withChanges(document, mine);
    this.base = document;
    this.revision = revision;
    this.conflict = null;
    this.host.adopt(changesBetween(this.host.now(), scene));
    void this.save();
  }

  private send(changes: SceneChange[], keepalive: boolean): Promise<Saved> {
    return ask<Saved>(`/api/scenes/${this.host.id}`, {
      method: 'PUT',
      json: { revision: this.revision, changes },
      keepalive,
    });
  }

  private async save(): Promise<void> {
    clearTimeout(this.timer);
    if (this.underWay) {
      this.timer = window.setTimeout(() => void this.save(), REST);
      return;
    }
    const sent = this.host.now();
    const changes = changesBetween(this.base, sent);
    if (changes.length === 0) {
      this.host.told({ kind: 'saved' });
      return;
    }
    this.underWay = true;
    try {
      const { revision, document } = await this.send(changes, false);
      this.revision = revision;
      this.base = document ?? sent;
      if (document) this.host.adopt(changesBetween(sent, document));
      const more = changesBetween(this.base, this.host.now()).length > 0;
      this.host.told({ kind: more ? 'saving' : 'saved' });
      if (more) this.timer = window.setTimeout(() => void this.save(), REST);
    } catch (error) {
      this.failed(error);
    } finally {
      this.underWay = false;
    }
  }

  private failed(error: unknown): void {
    if (error instanceof RequestProblem && error.status === 409) {
      this.conflict = error.answer as SaveConflict;
      this.host.told({ kind: 'conflict', places: this.conflict.places, theirs: this.conflict.document });
      return;
    }
    const { reason, remedy } = problemFrom(error);
    this.host.told({ kind: 'failed', reason: `${reason}. ${remedy}` });
    // What the server refuses it refuses again; everything else may pass.
    if (!(error instanceof RequestProblem && error.status === 422))
      this.timer = window.setTimeout(() => void this.save(), RETRY);
  }
}
