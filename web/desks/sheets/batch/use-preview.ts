import { useEffect, useState } from 'react';
import type { BatchSettings } from '#core/batch/batch-settings.ts';
import type { FileProblem } from '#core/model/read-error.ts';
import { ask, problemFrom } from '#engine/server-requests.ts';
import type { BatchPreview, LackingInRuns } from '#web/server/batch-preview.ts';

/** What is asked of the server; see `BatchWish`. */
export interface AskedBatch {
  set: string;
  settings: BatchSettings;
  runs: readonly string[];
  folder: string;
  again: boolean;
}

/** Rest after the last change before the server is asked, in milliseconds. */
const REST = 350;

interface Told<T> {
  told: T | null;
  problem: FileProblem | null;
}

/** Asks about a batch whenever what it is asked about changes; the answer before stays until the next is there. */
function useAnswer<T>(address: string, asked: AskedBatch, about: string): Told<T> {
  const [state, setState] = useState<Told<T>>({ told: null, problem: null });
  useEffect(() => {
    let gone = false;
    const timer = setTimeout(() => {
      ask<T>(address, { method: 'POST', json: asked }).then(
        (told) => gone || setState({ told, problem: null }),
        (error) => gone || setState(({ told }) => ({ told, problem: problemFrom(error) })),
      );
    }, REST);
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [address, about]);
  return state;
}

/**
 * What a batch comes to.
 *
 * @param through how many batches are through: each tells how long the next one takes
 */
export const useBatchPreview = (asked: AskedBatch, through: number): Told<BatchPreview> =>
  useAnswer('/api/batches/preview', asked, JSON.stringify([asked, through]));

/** What its shots ask for that its runs lack: that depends on nothing else. */
export const useLacking = (asked: AskedBatch): Told<LackingInRuns[]> =>
  useAnswer('/api/batches/lacking', asked, JSON.stringify([asked.settings.shots, asked.runs]));
