import { useEffect, useState } from 'react';
import { ask } from '#engine/server-requests.ts';
import type { KnownRun } from '#web/server/known-runs.ts';
import { useDesk } from './desk-store.ts';

const NONE: readonly KnownRun[] = [];

/** The other runs there are, each name once; none until they are known. */
export function useOtherRuns(): readonly KnownRun[] {
  const own = useDesk((s) => s.runId);
  const [all, setAll] = useState(NONE);
  useEffect(() => {
    // Whoever names one that is not there is told so.
    ask<KnownRun[]>('/api/runs').then(
      (known) => {
        const others = known.filter((r) => r.id !== own);
        setAll(others.filter((r, i) => others.findIndex((o) => o.name === r.name) === i));
      },
      () => undefined,
    );
  }, [own]);
  return all;
}
