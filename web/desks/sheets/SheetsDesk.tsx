import { useState } from 'react';
import { ask } from '#engine/server-requests.ts';
import { DocumentList } from '#web/desks/shared/DocumentList.tsx';
import { ProblemNote } from '#web/desks/shared/ProblemNote.tsx';
import { TopBar } from '#web/desks/shared/TopBar.tsx';
import { useWork } from '#web/desks/shared/work-state.ts';
import type { ListedRun, ListedSet } from '#web/server/run-sets.ts';
import type { ListedSideBySide } from '#web/server/side-by-sides.ts';
import { RunChoices } from './RunChoices.tsx';

interface Props {
  sets: ListedSet[];
  besides: ListedSideBySide[];
  runs: ListedRun[];
}

/** Where sets of runs are made and found again. */
export function SheetsDesk({ sets, besides, runs }: Props) {
  return (
    <div className="flex h-screen flex-col overflow-hidden">
      <TopBar desk="sheets" stageHref={null} />
      <main className="flex-1 overflow-y-auto">
        <div className="mx-auto max-w-5xl px-8 py-9">
          <h1 className="font-book text-[34px] leading-tight font-medium">Many runs at once</h1>
          <p className="mt-2 max-w-[62ch] text-soft">
            Put runs together to a set: a table of what was chosen for each and what came of it. Pictures set
            up on one of them are made of all.
          </p>
          <div className="mt-7 grid grid-cols-[minmax(0,1fr)_380px] gap-9">
            <div className="flex min-w-0 flex-col gap-8">
              <DocumentList
                title="Sets of runs"
                kind="set"
                first={sets}
                address="/api/sets"
                page="/sheets"
                none="None yet: choose runs beside, and make the first."
                bin="Delete the set; its runs stay"
                says={({ runs }) => (runs === 1 ? '1 run' : `${runs} runs`)}
              />
              <DocumentList
                title="Side by side"
                kind="beside"
                first={besides}
                address="/api/beside"
                page="/sheets/beside"
                none="None yet: mark two to nine runs in the table of a set."
                bin="Delete it; its runs and scenes stay"
                says={({ panes }) => (panes === 1 ? '1 pane' : `${panes} panes`)}
              />
            </div>
            <NewSet runs={runs} />
          </div>
        </div>
      </main>
    </div>
  );
}

function NewSet({ runs }: { runs: ListedRun[] }) {
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [name, setName] = useState('');
  const { problem, run: work } = useWork();
  const choose = (ids: readonly string[], on: boolean): void =>
    setChosen((before) => new Set(on ? [...before, ...ids] : [...before].filter((id) => !ids.includes(id))));
  const make = () =>
    work('Making the set', async () => {
      // Brought in last stands first; a set begins with what came first.
      const inOrder = runs.filter((r) => chosen.has(r.id)).map((r) => r.id);
      const { id } = await ask<{ id: string }>('/api/sets', {
        method: 'POST',
        json: { name: name.trim() || 'Runs', runs: inOrder.reverse() },
      });
      location.href = `/sheets/${id}`;
    });
  if (runs.length === 0)
    return (
      <section aria-label="New set">
        <h2 className="head mb-3">New set</h2>
        <p className="text-soft">
          There are no runs yet.{' '}
          <a href="/" className="word">
            Bring some in
          </a>
          ; a table (CSV) that names their files beside what was chosen for each gives them all at once.
        </p>
      </section>
    );
  return (
    <section aria-label="New set" className="card flex flex-col gap-3 self-start p-4">
      <h2 className="head">New set</h2>
      <label>
        <span className="sr-only">Name of the new set</span>
        <input
          className="field w-full"
          placeholder="Name of the set"
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
      </label>
      <RunChoices runs={runs} chosen={chosen} onChoose={choose} />
      <button type="button" className="act" disabled={chosen.size === 0} onClick={make}>
        {chosen.size === 0
          ? 'Make a set'
          : `Make a set of ${chosen.size === 1 ? '1 run' : `${chosen.size} runs`}`}
      </button>
      {problem && <ProblemNote problem={problem} />}
    </section>
  );
}
