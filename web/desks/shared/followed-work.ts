import { useCallback, useEffect, useState } from 'react';
import type { FileProblem } from '#core/model/read-error.ts';
import { ask, problemFrom } from '#engine/server-requests.ts';

/** How often it is asked how far work is, in milliseconds. */
const ASKED_EVERY = 1000;
/** The same where nothing is under way, and others may begin something. */
const ASKED_IDLY = 3000;

/** Work that the server does in the background, also while nobody looks. */
export interface FollowedWork<T> {
  works: readonly T[];
  problem: FileProblem | null;
  /** Begins, ends or removes something, and looks again; what goes wrong is told. */
  act(method: 'POST' | 'DELETE', address: string, json?: unknown): Promise<void>;
}

/**
 * Follows work of the server for as long as some of it is under way.
 *
 * @param address tells all of it
 * @param key under which it is in the answer
 * @param begunElsewhere whether it may begin by itself, so that it is asked for also while nothing is under way
 */
export function useFollowedWork<T extends { state: string }>(
  address: string,
  key: string,
  begunElsewhere = false,
): FollowedWork<T> {
  const [works, setWorks] = useState<readonly T[]>([]);
  const [problem, setProblem] = useState<FileProblem | null>(null);
  const look = useCallback(async () => {
    try {
      setWorks((await ask<Record<string, T[]>>(address))[key]);
      setProblem(null);
    } catch (error) {
      setProblem(problemFrom(error));
    }
  }, [address, key]);
  useEffect(() => void look(), [look]);
  useEffect(() => {
    const isRunning = works.some((one) => one.state === 'running');
    if (!isRunning && !begunElsewhere) return;
    const next = setTimeout(() => void look(), isRunning ? ASKED_EVERY : ASKED_IDLY);
    return () => clearTimeout(next);
  }, [works, look, begunElsewhere]);
  const act: FollowedWork<T>['act'] = async (method, address, json) => {
    try {
      await ask(address, { method, json });
      await look();
    } catch (error) {
      setProblem(problemFrom(error));
    }
  };
  return { works, problem, act };
}
