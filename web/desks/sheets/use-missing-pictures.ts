import { useEffect } from 'react';
import { drawMissing, type Undrawn } from '#web/desks/shared/first-thumbnails.ts';
import type { ListedRun } from '#web/server/run-sets.ts';
import { useSet } from './set-store.ts';

/** Rest after the last row came into sight before anything is drawn, in milliseconds. */
const REST = 600;

/** Draws the small pictures that runs in sight are lacking, one after the other; other runs in sight begin it anew. */
export function useMissingPictures(inSight: readonly ListedRun[]): void {
  useEffect(() => {
    const undrawn = inSight.flatMap(({ id, scene, pictured }): Undrawn[] =>
      scene && !pictured ? [{ id: scene, run: id }] : [],
    );
    if (undrawn.length === 0) return;
    const abort = new AbortController();
    const timer = setTimeout(
      () =>
        void drawMissing(undrawn, abort.signal, (scene) =>
          useSet.setState(({ runs }) => ({
            runs: runs.map((run) => (run.scene === scene ? { ...run, pictured: true } : run)),
          })),
        ),
      REST,
    );
    return () => {
      clearTimeout(timer);
      abort.abort();
    };
  }, [inSight.map(({ id }) => id).join()]);
}
