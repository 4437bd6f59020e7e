import { History } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import type { Scene } from '#core/scene/document.ts';
import { ask, problemFrom } from '#engine/server-requests.ts';
import { edit, goToStep, useDesk } from './desk-store.ts';

interface State {
  revision: number;
  saved: string;
  note: string | null;
}

const when = new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeStyle: 'medium' });

/** The states a scene had before; each can be brought back, and undo takes that back again. */
export function EarlierStates({ id }: { id: string }) {
  const [states, setStates] = useState<State[] | null>(null);
  const attempt = async (action: () => Promise<void>) => {
    try {
      await action();
    } catch (error) {
      const { reason, remedy } = problemFrom(error);
      useDesk.setState({ trouble: `The earlier state was not brought back: ${reason}. ${remedy}` });
    }
  };
  const look = () =>
    attempt(async () => setStates((await ask<{ states: State[] }>(`/api/scenes/${id}/states`)).states));
  const bringBack = ({ revision }: State) =>
    attempt(async () => {
      const state = await ask<{ document: Scene; repairs: string[] }>(
        `/api/scenes/${id}/states?revision=${revision}`,
      );
      edit({ type: 'scene.replace', scene: state.document });
      goToStep(state.document.step);
      useDesk.setState({ repairs: state.repairs });
    });
  return (
    <Popover.Root onOpenChange={(open) => open && void look()}>
      <Popover.Trigger
        className="mark"
        aria-label="Earlier states of this scene"
        title="Earlier states of this scene"
      >
        <History size={17} />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="end" sideOffset={8} className="card z-50 w-80 p-3">
          <p className="head mb-1.5">Earlier states</p>
          {states?.length === 0 && (
            <p className="text-soft">None yet. The last twenty are kept here as you work.</p>
          )}
          <ul className="max-h-80 overflow-y-auto">
            {states?.map((state) => (
              <li key={state.revision}>
                <button
                  type="button"
                  className="flex w-full items-baseline justify-between gap-3 rounded-md px-2 py-1 text-left hover:bg-sunk"
                  onClick={() => void bringBack(state)}
                >
                  <span>{when.format(new Date(state.saved))}</span>
                  <span className="text-xs text-soft">{state.note ?? `state ${state.revision}`}</span>
                </button>
              </li>
            ))}
          </ul>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
