import { useState } from 'react';
import type { FileProblem } from '#core/model/read-error.ts';
import { problemFrom } from '#engine/server-requests.ts';

export interface Work {
  label: string;
  /** 0..1; null where nobody knows how far it is. */
  done: number | null;
  remaining: number | null;
  cancel(): void;
}

/** Long work of this page with its progress, estimate, cancel and problem. */
export function useWork() {
  const [work, setWork] = useState<Work | null>(null);
  const [problem, setProblem] = useState<FileProblem | null>(null);

  const run = async (
    label: string,
    action: (progress: (done: number, label?: string) => void, signal: AbortSignal) => Promise<void>,
    { measured = true } = {},
  ) => {
    const abort = new AbortController();
    const began = performance.now();
    const cancel = () => abort.abort(new DOMException('cancelled', 'AbortError'));
    setProblem(null);
    setWork({ label, done: measured ? 0 : null, remaining: null, cancel });
    let told = 0;
    try {
      await action((done, now = label) => {
        if (performance.now() - told < 100) return;
        told = performance.now();
        const elapsed = (told - began) / 1000;
        setWork({ label: now, done, remaining: done > 0.03 ? (elapsed * (1 - done)) / done : null, cancel });
      }, abort.signal);
    } catch (error) {
      if ((error as Error).name !== 'AbortError') setProblem(problemFrom(error));
    } finally {
      setWork(null);
    }
  };
  return { work, problem, run };
}
