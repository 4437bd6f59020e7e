import type { StoreApi } from 'zustand';
import {
  type DocumentChange,
  type DocumentForm,
  differences,
  withDifferences,
} from '#core/model/document-changes.ts';
import { ask, problemFrom, RequestProblem } from '#engine/server-requests.ts';
import type { SaveConflict, Saved } from '#web/server/saved-documents.ts';

/** Rest after the last edit before it is saved, and before a failed save is tried again, in milliseconds. */
const REST = 600;
const RETRY = 3000;

export type SaveState<T> =
  | { kind: 'saved' }
  | { kind: 'saving' }
  /** With what is wrong, and what to do. */
  | { kind: 'failed'; reason: string }
  /** Somebody else changed the same things: which, and what stands there now. */
  | { kind: 'conflict'; places: string[]; theirs: T };

interface SaverHost<T> {
  /** Where it is read from, and saved to. */
  address: string;
  form: DocumentForm;
  /** The document as it stands on the desk. */
  now(): T;
  /** Makes changes of others on the desk too. */
  adopt(changes: DocumentChange[]): void;
  told(state: SaveState<T>): void;
}

/**
 * Saves a document by sending what has changed since it was last known to be saved. What others saved meanwhile comes
 * back with the answer and is taken over; where both touched the same thing, the person decides.
 */
export class DocumentSaver<T extends object> {
  private timer = 0;
  private underWay = false;
  private conflict: SaveConflict<T> | null = null;

  constructor(
    private readonly host: SaverHost<T>,
    /** The document as the server has it, and the revision of that. */
    private base: T,
    private revision: number,
  ) {}

  /**
   * Saves whenever the document in a store changes, until the function it gives is called.
   *
   * @param documentIn the document as a state of the store has it
   */
  savesAlong<S>(store: StoreApi<S>, documentIn: (state: S) => T): () => void {
    const leave = (): void => this.leave();
    const look = (): void => void this.lookAround();
    const unsubscribe = store.subscribe((state, before) => {
      if (documentIn(state) !== documentIn(before)) this.notice();
    });
    addEventListener('pagehide', leave);
    addEventListener('focus', look);
    return () => {
      unsubscribe();
      removeEventListener('pagehide', leave);
      removeEventListener('focus', look);
      this.leave();
    };
  }

  /** Something may have changed. */
  notice(): void {
    if (this.conflict || this.changes(this.base, this.host.now()).length === 0) return;
    clearTimeout(this.timer);
    this.host.told({ kind: 'saving' });
    this.timer = window.setTimeout(() => void this.save(), REST);
  }

  /** The page is about to go: what is left is sent without waiting for the answer. */
  leave(): void {
    clearTimeout(this.timer);
    const changes = this.changes(this.base, this.host.now());
    if (changes.length === 0 || this.conflict) return;
    this.base = this.host.now();
    void this.send(changes, true).catch(() => undefined);
  }

  /** Looks whether the document was changed elsewhere, and takes it over. */
  async lookAround(): Promise<void> {
    if (this.underWay || this.conflict) return;
    const row = await ask<{ revision: number; document: T }>(this.host.address).catch(() => null);
    if (!row || this.underWay || row.revision === this.revision) return;
    const changes = this.changes(this.base, row.document);
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
    const mine = this.changes(this.base, this.host.now());
    const merged = withDifferences(this.host.form, document as Record<string, unknown>, mine);
    this.base = document;
    this.revision = revision;
    this.conflict = null;
    this.host.adopt(this.changes(this.host.now(), merged.document as T));
    void this.save();
  }

  private changes(before: T, after: T): DocumentChange[] {
    return differences(this.host.form, before as Record<string, unknown>, after as Record<string, unknown>);
  }

  private send(changes: DocumentChange[], keepalive: boolean): Promise<Saved<T>> {
    return ask<Saved<T>>(this.host.address, {
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
    const changes = this.changes(this.base, sent);
    if (changes.length === 0) {
      this.host.told({ kind: 'saved' });
      return;
    }
    this.underWay = true;
    try {
      const { revision, document } = await this.send(changes, false);
      this.revision = revision;
      this.base = document ?? sent;
      if (document) this.host.adopt(this.changes(sent, document));
      const more = this.changes(this.base, this.host.now()).length > 0;
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
      this.conflict = error.answer as SaveConflict<T>;
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
