import { useState } from 'react';
import { ask, problemFrom } from '#engine/server-requests.ts';

/** Something of the server that can be taken away and brought back. */
export interface Removal {
  kind: 'run' | 'scene' | 'shot' | 'style' | 'set' | 'beside' | 'report';
  id: string;
  name: string;
}

/** Takes something away, or brings it back as it was. */
export const setRemoved = ({ kind, id }: Removal, removed: boolean): Promise<unknown> =>
  ask('/api/removed', { method: 'PUT', json: { kind, id, removed } });

/**
 * Taking things off a list without being asked first, since the last one can be brought back.
 *
 * @param changed called when a thing is gone or there again
 */
export function useRemoving(changed: (thing: Removal, removed: boolean) => void) {
  const [last, setLast] = useState<Removal | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);

  const attempt = async (work: () => Promise<void>) => {
    setTrouble(null);
    try {
      await work();
    } catch (error) {
      const { reason, remedy } = problemFrom(error);
      setTrouble(`Nothing was changed: ${reason}. ${remedy}`);
    }
  };
  const remove = (thing: Removal) =>
    attempt(async () => {
      await setRemoved(thing, true);
      setLast(thing);
      changed(thing, true);
    });
  const bringBack = (thing: Removal) =>
    attempt(async () => {
      await setRemoved(thing, false);
      setLast(null);
      changed(thing, false);
    });
  const deleteForGood = ({ kind, id }: Removal) =>
    attempt(async () => {
      await ask(`/api/${kind}s/${id}`, { method: 'DELETE' });
      setLast(null);
    });

  const notice = (
    <div role="status">
      {trouble && <p className="mb-3 text-warn">{trouble}</p>}
      {last && (
        <div className="mb-3 flex items-center gap-3 rounded-lg border border-rule bg-accent-wash px-4 py-2">
          <p className="min-w-0 flex-1">
            “{last.name}” is off the list. For a day it can be brought back; its files stay in any case.
          </p>
          <button type="button" className="act h-8" onClick={() => bringBack(last)}>
            Bring it back
          </button>
          <button type="button" className="quiet h-8" onClick={() => deleteForGood(last)}>
            Delete for good
          </button>
        </div>
      )}
    </div>
  );
  return { remove, notice };
}
