import { History } from 'lucide-react';
import { Popover } from 'radix-ui';
import { type FormEvent, useState } from 'react';
import type { FileProblem } from '#core/model/read-error.ts';
import { ask, problemFrom } from '#engine/server-requests.ts';
import { ProblemNote } from './ProblemNote.tsx';

interface State {
  revision: number;
  saved: string;
  note: string | null;
}

interface Props<A> {
  /** What has them, in a word. */
  what: string;
  /** Where they are asked for, and where the state of now is kept. */
  address: string;
  /** Whether the state of now can be kept under a note. */
  canKeep?: boolean;
  /** Shows the state as the server gives it; undo takes that back. */
  bringBack(answer: A): void;
}

const when = new Intl.DateTimeFormat('en-GB', { dateStyle: 'medium', timeStyle: 'medium' });

/** The states a document had before; each can be brought back. */
export function EarlierStates<A>({ what, address, canKeep = false, bringBack }: Props<A>) {
  const [states, setStates] = useState<State[] | null>(null);
  const [problem, setProblem] = useState<FileProblem | null>(null);
  const attempt = async (action: () => Promise<void>) => {
    try {
      setProblem(null);
      await action();
    } catch (error) {
      setProblem(problemFrom(error));
    }
  };
  const look = () => attempt(async () => setStates((await ask<{ states: State[] }>(address)).states));
  const show = ({ revision }: State) =>
    attempt(async () => bringBack(await ask<A>(`${address}?revision=${revision}`)));
  const keep = (note: string) =>
    attempt(async () => {
      await ask(address, { method: 'POST', json: { note } });
      await look();
    });
  return (
    <Popover.Root onOpenChange={(open) => open && void look()}>
      <Popover.Trigger
        className="mark"
        aria-label={`Earlier states of this ${what}`}
        title={`Earlier states of this ${what}`}
      >
        <History size={17} />
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content align="end" sideOffset={8} className="card z-50 w-80 p-3">
          {canKeep && <KeepNow what={what} onKeep={keep} />}
          <p className="head mb-1.5">Earlier states</p>
          {problem && <ProblemNote problem={problem} />}
          {states?.length === 0 && (
            <p className="text-soft">None yet. The last twenty are kept here as you work.</p>
          )}
          <ul className="max-h-80 overflow-y-auto">
            {states?.map((state) => (
              <li key={state.revision}>
                <button
                  type="button"
                  className="flex w-full items-baseline justify-between gap-3 rounded-md px-2 py-1 text-left hover:bg-sunk"
                  onClick={() => void show(state)}
                >
                  <span className={canKeep && state.note ? 'font-medium' : ''}>
                    {canKeep && state.note ? state.note : when.format(new Date(state.saved))}
                  </span>
                  <span className="text-xs text-soft">
                    {canKeep
                      ? state.note
                        ? when.format(new Date(state.saved))
                        : `state ${state.revision}`
                      : (state.note ?? `state ${state.revision}`)}
                  </span>
                </button>
              </li>
            ))}
          </ul>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function KeepNow({ what, onKeep }: { what: string; onKeep(note: string): void }) {
  const [note, setNote] = useState('');
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    onKeep(note);
    setNote('');
  };
  return (
    <form onSubmit={submit} className="mb-3 flex gap-2 border-b border-rule pb-3">
      <input
        className="field min-w-0 flex-1"
        aria-label={`What this version of the ${what} is called`}
        placeholder="Name of this version"
        value={note}
        onChange={(e) => setNote(e.target.value)}
      />
      <button type="submit" className="act h-8" disabled={note.trim() === ''}>
        Keep
      </button>
    </form>
  );
}
