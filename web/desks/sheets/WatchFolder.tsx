import { useEffect, useState } from 'react';
import type { RunSet } from '#core/sets/run-set.ts';
import { ask } from '#engine/server-requests.ts';
import { ServerFolder } from '#web/desks/intake/ServerFolder.tsx';
import type { DocumentSaver } from '#web/desks/shared/document-saver.ts';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { ProblemNote } from '#web/desks/shared/ProblemNote.tsx';
import { Chooser } from '#web/desks/stage/Chooser.tsx';
import type { ListedRun } from '#web/server/run-sets.ts';
import type { ToldArrival, WatchState } from '#web/server/watched-sets.ts';
import { editSet, useRunSet, useSet } from './set-store.ts';

/** How often it is asked what came in, in milliseconds. */
const ASKED_EVERY = 2000;
const USUAL_REST = 10;
const USUAL_MARK = 'done';
/** More arrivals than this stay folded. */
const SHOWN = 4;

type Watch = NonNullable<RunSet['watch']>;

interface Props {
  /** Id of the set. */
  id: string;
  saver: DocumentSaver<RunSet>;
}

/** The folder whose runs come into the set by themselves: which, when they are whole, and what came. */
export function WatchFolder({ id, saver }: Props) {
  const { watch } = useRunSet();
  const state = useWatchState(id, saver, watch?.on === true);
  const change = (to: Partial<Watch>): void => {
    const before = watch ?? { folder: '', rest: USUAL_REST, mark: null, on: false };
    editSet({ type: 'set.watch', watch: { ...before, ...to } });
  };
  return (
    <section aria-label="Watched folder" className="flex flex-col gap-2">
      <p>
        New runs{' '}
        <Chooser word={saidWatch(watch)} label="Runs that come by themselves" wide>
          <div className="flex flex-col gap-3">
            <label className="flex flex-col gap-1">
              <span className="head">Folder on the server</span>
              <input
                className="field w-full"
                defaultValue={watch?.folder ?? ''}
                key={watch?.folder}
                onBlur={(e) => e.target.value !== (watch?.folder ?? '') && change({ folder: e.target.value })}
                onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
              />
            </label>
            <ServerFolder onOpen={(folder) => change({ folder })} word="Watch this folder" foldersOnly />
            <fieldset>
              <legend className="head mb-1">Files are whole</legend>
              <div className="flex flex-wrap items-center gap-1.5">
                <Pill on={(watch?.mark ?? null) === null} onClick={() => change({ mark: null })}>
                  when they rest
                </Pill>
                <Pill on={(watch?.mark ?? null) !== null} onClick={() => change({ mark: USUAL_MARK })}>
                  when a file says so
                </Pill>
              </div>
              {watch?.mark != null ? (
                <label className="mt-2 flex items-center gap-2 text-sm">
                  named
                  <input
                    className="field w-40"
                    aria-label="Name of the file that says so"
                    defaultValue={watch.mark}
                    onBlur={(e) => e.target.value.trim() !== '' && change({ mark: e.target.value.trim() })}
                  />
                </label>
              ) : (
                <label className="mt-2 flex items-center gap-2 text-sm">
                  for
                  <input
                    type="number"
                    min={0}
                    max={86_400}
                    className="field w-20"
                    aria-label="Seconds of rest"
                    defaultValue={watch?.rest ?? USUAL_REST}
                    onBlur={(e) =>
                      change({ rest: Math.min(86_400, Math.max(0, Number(e.target.value) || 0)) })
                    }
                  />
                  seconds
                </label>
              )}
            </fieldset>
            <button
              type="button"
              className={watch?.on ? 'quiet' : 'act'}
              disabled={!watch?.folder}
              onClick={() => change({ on: !watch?.on })}
            >
              {watch?.on ? 'Stop watching' : 'Watch it'}
            </button>
          </div>
        </Chooser>
        {watch?.on && <span className="text-soft">{state && !state.watching ? ', in a moment' : ''}</span>}.
      </p>
      {state?.problem && <ProblemNote problem={state.problem} />}
      {state && state.told.length > 0 && <Told told={state.told} />}
    </section>
  );
}

const saidWatch = (watch: Watch | null): string =>
  watch?.on ? `come from ${watch.folder}` : 'are brought in by hand';

function Told({ told }: { told: readonly ToldArrival[] }) {
  const [open, setOpen] = useState(false);
  const shown = open ? told : told.slice(0, SHOWN);
  return (
    <ul aria-label="What came in" className="flex flex-col gap-1 text-sm">
      {shown.map((one) => (
        <li key={`${one.at} ${one.name}`}>
          <span className="font-medium">{one.name}</span>{' '}
          <span className="text-soft">
            {saidArrival(one)}, {new Date(one.at).toLocaleTimeString('en-GB')}
          </span>
          {[...one.problems.map((p) => `${p.reason}. ${p.remedy}`), ...one.mismatches].map((text) => (
            <p key={text} className="text-warn">
              {text}
            </p>
          ))}
        </li>
      ))}
      {told.length > SHOWN && (
        <li>
          <button type="button" className="word" onClick={() => setOpen(!open)}>
            {open ? 'fewer' : `${told.length - SHOWN} more`}
          </button>
        </li>
      )}
    </ul>
  );
}

function saidArrival({ runs, again }: ToldArrival): string {
  if (runs.length === 0) return 'could not be brought in';
  const count = runs.length === 1 ? '' : `${runs.length} runs `;
  return again ? `${count}came again` : `${count}came in`;
}

/** What came in, asked for as long as the folder is watched; the runs that came are on the desk then too. */
function useWatchState(id: string, saver: DocumentSaver<RunSet>, on: boolean): WatchState | null {
  const [state, setState] = useState<WatchState | null>(null);
  useEffect(() => {
    let gone = false;
    let latest = '';
    const look = async (): Promise<void> => {
      const now = await ask<WatchState>(`/api/sets/${id}/watch`).catch(() => null);
      if (gone || !now) return;
      setState(now);
      const newest = now.told[0]?.at ?? '';
      if (newest !== latest) {
        latest = newest;
        const runs = await ask<ListedRun[]>('/api/runs/listed').catch(() => null);
        if (runs && !gone) useSet.setState({ runs });
        await saver.lookAround();
      }
    };
    void look();
    const timer = on ? setInterval(() => void look(), ASKED_EVERY) : undefined;
    return () => {
      gone = true;
      clearInterval(timer);
    };
  }, [id, on, saver]);
  return state;
}
