import type { Scene } from '#core/scene/document.ts';
import type { ShotKind } from '#core/scene/shot-groups.ts';
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
  /** Empty where it was not drawn yet. */
  thumbnail: string;
  kind: ShotKind;
  /** Of its film, in seconds, where it shows that. */
  filmTime: number | null;
  /** The heading it was put under by hand. */
  folder: string | null;
  tags: string[];
  /** For whoever presents it. */
  notes: string;
}

/** What can be changed of a shot. */
export type ShotChange = Partial<
  Pick<Shot, 'name' | 'thumbnail' | 'kind' | 'filmTime' | 'folder' | 'tags' | 'notes'> & { document: Scene }
>;

/** Keeps the scene as it stands. */
export const keepShot = (
  shot: Pick<Shot, 'name' | 'thumbnail' | 'kind' | 'filmTime'> & { document: Scene },
): Promise<void> =>
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
    const { name } = shot;
    // What is put back is what was changed.
    const before = Object.fromEntries(
      (Object.keys(change) as (keyof ShotChange)[]).flatMap((what) =>
        what === 'document' && shot.document === null ? [] : [[what, shot[what]]],
      ),
    ) as ShotChange;
    const put = (fields: ShotChange) => send(shot, fields);
    await put(change);
    note(sayChange(name, change), {
      undo: () => put(before),
      redo: () => put(change),
    });
  });

function sayChange(name: string, change: ShotChange): string {
  if (change.name !== undefined) return `the name of ${change.name}`;
  if (change.document) return `the new content of ${name}`;
  if (change.notes !== undefined) return `the notes of ${name}`;
  return change.tags ? `the tags of ${name}` : `the heading of ${name}`;
}

/** Puts the shots in an order, by their ids. */
export const orderShots = (ids: readonly string[]): Promise<void> =>
  attempt('was not moved', async () => {
    const before = useDesk.getState().shots.map((s) => s.id);
    const to = async (order: readonly string[]) => {
      const { id: scene } = useDesk.getState();
      const all = await ask<string[]>(`/api/scenes/${scene}/shots`, { method: 'PUT', json: { order } });
      useDesk.setState((s) => ({
        shots: s.shots
          .map((shot) => ({ ...shot, position: all.indexOf(shot.id) }))
          .sort((a, b) => a.position - b.position),
      }));
    };
    await to(ids);
    note('the order of the shots', { undo: () => to(before), redo: () => to(ids) });
  });

/** The small picture of a shot is drawn: no step of undo. */
export const showShotPicture = (shot: Shot, thumbnail: string): Promise<void> => send(shot, { thumbnail });

async function send({ id }: Shot, fields: ShotChange): Promise<void> {
  put(await ask<Shot>(`/api/shots/${id}`, { method: 'PUT', json: fields }));
}

async function takeAway(shot: Shot): Promise<void> {
  await setRemoved({ ...shot, kind: 'shot' }, true);
  useDesk.setState((s) => ({ shots: s.shots.filter(({ id }) => id !== shot.id) }));
}

async function bringBack(shot: Shot): Promise<void> {
  await setRemoved({ ...shot, kind: 'shot' }, false);
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
