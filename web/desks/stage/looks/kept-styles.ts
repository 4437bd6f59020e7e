import { create } from 'zustand';
import type { OwnFinish } from '#core/light/own-finish.ts';
import { type Look, readLook, writtenLook } from '#core/scene/looks/look.ts';
import { USUAL_LOOK } from '#core/scene/looks/registry.ts';
import { ask, problemFrom } from '#engine/server-requests.ts';
import { setRemoved } from '#web/desks/shared/removing.tsx';
import type { KeptStyle } from '#web/server/styles.ts';
import { useDesk } from '../desk-store.ts';

interface KeptStyles {
  looks: KeptStyle<Look>[];
  finishes: KeptStyle<OwnFinish>[];
  /** The look new scenes begin with, by its id. */
  newScenes: string;
}

/** Looks and finishes of one's own, which every scene may use. */
export const useKeptStyles = create<KeptStyles>(() => ({ looks: [], finishes: [], newScenes: USUAL_LOOK }));

const byName = <T>(list: KeptStyle<T>[]): KeptStyle<T>[] =>
  [...list].sort((a, b) => a.name.localeCompare(b.name));

/** A look that cannot be read any more is not offered. */
const readable = (kept: KeptStyle[]): KeptStyle<Look>[] =>
  kept.flatMap((one) => {
    try {
      return [{ ...one, document: readLook(one.document).look }];
    } catch {
      return [];
    }
  });

export const loadLooks = (): Promise<void> =>
  attempt('Looks of your own cannot be shown', async () => {
    const [looks, { look }] = await Promise.all([
      ask<KeptStyle[]>('/api/styles/look'),
      ask<{ look: string }>('/api/new-scenes'),
    ]);
    useKeptStyles.setState({ looks: readable(looks), newScenes: look });
  });

export const loadFinishes = (): Promise<void> =>
  attempt('Finishes of your own cannot be shown', async () =>
    useKeptStyles.setState({ finishes: await ask<KeptStyle<OwnFinish>[]>('/api/styles/finish') }),
  );

export const keepLook = (look: Look): Promise<void> =>
  attempt('The look was not kept', async () => {
    const kept = await ask<KeptStyle>('/api/styles/look', { method: 'POST', json: writtenLook(look) });
    const { looks } = useKeptStyles.getState();
    useKeptStyles.setState({
      looks: byName([...looks.filter((l) => l.id !== kept.id), ...readable([kept])]),
    });
  });

export const keepFinish = (finish: OwnFinish): Promise<void> =>
  attempt('The finish was not kept', async () => {
    const kept = await ask<KeptStyle<OwnFinish>>('/api/styles/finish', { method: 'POST', json: finish });
    const { finishes } = useKeptStyles.getState();
    useKeptStyles.setState({ finishes: byName([...finishes.filter((f) => f.id !== kept.id), kept]) });
  });

/** Takes one away; undo brings it back. Scenes that use it stay as they are. */
export const removeStyle = (kind: 'look' | 'finish', { id, name }: KeptStyle): Promise<void> =>
  attempt('Nothing was taken away', async () => {
    const put = async (removed: boolean): Promise<void> => {
      await setRemoved({ kind: 'style', id, name }, removed);
      await (kind === 'look' ? loadLooks() : loadFinishes());
    };
    await put(true);
    const undo = (removed: boolean) => () => void attempt('It is as it was', () => put(removed));
    const beside = { said: `taking the ${kind} ${name} away`, undo: undo(false), redo: undo(true) };
    useDesk.setState((s) => ({ history: s.history.noteBeside(beside) }));
  });

/** Makes new scenes begin with a look. */
export const beginScenesWith = (look: string): Promise<void> =>
  attempt('New scenes begin as before', async () => {
    await ask('/api/new-scenes', { method: 'PUT', json: { look } });
    useKeptStyles.setState({ newScenes: look });
  });

async function attempt(failed: string, work: () => Promise<void>): Promise<void> {
  try {
    await work();
  } catch (error) {
    const { reason, remedy } = problemFrom(error);
    useDesk.setState({ trouble: `${failed}: ${reason}. ${remedy}` });
  }
}
