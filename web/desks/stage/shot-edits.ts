import type { Scene } from '#core/scene/document.ts';
import { ask, problemFrom } from '#engine/server-requests.ts';
import { setRemoved } from '#web/desks/shared/removing.tsx';
import { useDesk } from './desk-store.ts';

/** A kept state of the scene. */
export interface Shot {
  id: string;
  name: string;
  caption: string | null;
  /** Its place among the shots of the scene. */
  position: number;
  /** Null when it cannot be opened; `problem` says why. */
  document: Scene | null;
  problem: string | null;
  thumbnail: string;
}

/** What can be changed of a shot. */
export type ShotChange = Partial<Pick<Shot, 'name' | 'thumbnail'> & { document: Scene }>;

/** Keeps the scene as it stands. */
export const keepShot = (shot: { name: string; document: Scene; thumbnail: string }): Promise<void> =>
  attempt('was not kept', async () => {
    const { id: scene } = useDesk.getState();
    const kept = await ask<Shot>(`/api/scenes/${scene}/shots`, { method: 'POST', json: shot });
    put(kept);
    note(`keeping ${kept.name}`, { undo: () => takeAway(kept), redo: () => bringBack(kept) });
  });

export const removeShot = (shot: Shot): Promise<void> =>
  attempt('was not deleted', async () => {
    await takeAway(shot);
    note(`deleting ${shot.name}`, { undo: () => bringBack(shot), redo: () => takeAway(shot) });
  });

/** Gives a shot another name, or another content. */
export const changeShot = (shot: Shot, change: ShotChange): Promise<void> =>
  attempt('was not changed', async () => {
    const { name, thumbnail, document } = shot;
    const before = { name, thumbnail, ...(document && { document }) };
    const put = (fields: ShotChange) => send(shot, fields);
    await put(change);
    note(change.name === undefined ? `the new content of ${name}` : `the name of ${change.name}`, {
      undo: () => put(before),
      redo: () => put(change),
    });
  });

async function send({ id }: Shot, fields: ShotChange): Promise<void> {
  put(await ask<Shot>(`/api/shots/${id}`, { method: 'PUT', json: fields }));
}

async function takeAway(shot: Shot): Promise<void> {
  await setRemoved({ kind: 'shot', ...shot }, true);
  useDesk.setState((s) => ({ shots: s.shots.filter(({ id }) => id !== shot.id) }));
}

async function bringBack(shot: Shot): Promise<void> {
  await setRemoved({ kind: 'shot', ...shot }, false);
  put(shot);
}

/** Puts a shot in its place on the desk. */
function put(shot: Shot): void {
  useDesk.setState((s) => ({
    shots: [...s.shots.filter(({ id }) => id !== shot.id), shot].sort((a, b) => a.position - b.position),
  }));
}

/** Makes it a step of undo. */
function note(said: string, { undo, redo }: { undo(): Promise<void>; redo(): Promise<void> }): void {
  const beside = {
    said,
    undo: () => void attempt('is as it was', undo),
    redo: () => void attempt('is as it was', redo),
  };
  useDesk.setState((s) => ({ history: s.history.noteBeside(beside) }));
}

async function attempt(failed: string, work: () => Promise<void>): Promise<void> {
  try {
    await work();
  } catch (error) {
    const { reason, remedy } = problemFrom(error);
    useDesk.setState({ trouble: `The shot ${failed}: ${reason}. ${remedy}` });
  }
}
