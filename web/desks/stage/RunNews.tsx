import { Info } from 'lucide-react';
import { useEffect, useState } from 'react';
import { ask } from '#engine/server-requests.ts';
import { FormerFiles } from '#web/desks/shared/FormerFiles.tsx';
import type { SourceState } from '#web/server/run-changes.ts';
import { useDesk } from './desk-store.ts';

/** How often the files of the run are looked at, in milliseconds. */
const PAUSE = 60_000;

/** The way to the page of the run; it says so when its files have grown or changed since they were read. */
export function RunNews() {
  const run = useDesk((s) => s.runId);
  const [state, setState] = useState<SourceState | null>(null);
  useEffect(() => {
    const look = () => ask<SourceState>(`/api/runs/${run}/source`).then(setState, () => undefined);
    void look();
    const timer = setInterval(look, PAUSE);
    return () => clearInterval(timer);
  }, [run]);
  const grown = state?.newSteps ?? 0;
  const news =
    grown > 0
      ? `${grown} new ${grown === 1 ? 'step' : 'steps'}`
      : state?.changed.length
        ? 'files changed'
        : null;
  return (
    <>
      <FormerFiles run={run} onTrouble={(trouble) => useDesk.setState({ trouble })} />
      <a
        href={`/run/${run}`}
        className={news ? 'quiet h-8' : 'mark'}
        aria-label="What the run holds, and its files"
        title="What the run holds, and its files"
      >
        <Info size={17} /> {news}
      </a>
    </>
  );
}
