import { useState } from 'react';
import { Tick } from '#web/desks/shared/Tick.tsx';
import type { ListedRun } from '#web/server/run-sets.ts';

interface Props {
  runs: readonly ListedRun[];
  chosen: ReadonlySet<string>;
  onChoose(runs: readonly string[], on: boolean): void;
}

/** More than this are not listed: one goes on typing. */
const MOST = 200;

/** Runs to choose from, by a piece of their names. */
export function RunChoices({ runs, chosen, onChoose }: Props) {
  const [typed, setTyped] = useState('');
  const wanted = typed.trim().toLowerCase();
  const found = runs.filter((r) => r.name.toLowerCase().includes(wanted));
  const ids = found.map((r) => r.id);
  const all = ids.length > 0 && ids.every((id) => chosen.has(id));
  return (
    <div className="flex min-h-0 flex-col gap-2">
      <input
        aria-label="Runs whose names have"
        className="field w-full"
        placeholder="runs whose names have …"
        value={typed}
        onChange={(e) => setTyped(e.target.value)}
      />
      <Tick
        label={`all ${found.length}${wanted ? ' of these' : ''}`}
        checked={all}
        onChange={(on) => onChoose(ids, on)}
      />
      <ul className="flex max-h-72 min-h-0 flex-col gap-0.5 overflow-y-auto" aria-label="Runs to choose">
        {found.slice(0, MOST).map((run) => (
          <li key={run.id} className="flex items-baseline gap-2">
            <Tick label={run.name} checked={chosen.has(run.id)} onChange={(on) => onChoose([run.id], on)} />
            <span className="ml-auto shrink-0 text-xs text-soft">
              {run.steps === 1 ? '1 step' : `${run.steps} steps`}
            </span>
          </li>
        ))}
      </ul>
      {found.length > MOST && (
        <p className="text-xs text-soft">{found.length - MOST} more: type a piece of their names</p>
      )}
    </div>
  );
}
