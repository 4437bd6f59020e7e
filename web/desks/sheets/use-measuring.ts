import { useEffect, useState } from 'react';
import type { MeasuredNumber } from '#core/model/run.ts';
import { problemFrom } from '#engine/server-requests.ts';
import { askRange } from '#web/desks/shared/ask-range.ts';
import type { ListedRun } from '#web/server/run-sets.ts';
import { useRunSet, useSet } from './set-store.ts';

/** So many runs are measured at once: the server reads them one after the other. */
const AT_ONCE = 2;

interface Question {
  run: string;
  sentence: string;
}

const lackingOf = (run: ListedRun, sentences: readonly string[]): Question[] =>
  sentences
    .filter((sentence) => !Object.hasOwn(run.numbers ?? {}, sentence))
    .map((sentence) => ({ run: run.id, sentence }));

const keep = ({ run, sentence }: Question, number: MeasuredNumber): void =>
  useSet.setState(({ runs }) => ({
    runs: runs.map((r) => (r.id === run ? { ...r, numbers: { ...r.numbers, [sentence]: number } } : r)),
  }));

export interface Measuring {
  done: number;
  all: number;
  stop(): void;
}

/**
 * Measures what runs of the set lack of its measured outputs, one after the other; what was measured once is kept with the run
 * until its files change. What cannot be measured is told of the run, and the others go on.
 *
 * @returns how far it is; null where nothing is under way
 */
export function useMeasuring(): Measuring | null {
  const { runs: ids, measures } = useRunSet();
  const [state, setState] = useState<{ done: number; all: number } | null>(null);
  const [stopped, setStopped] = useState<string | null>(null);
  const [abort, setAbort] = useState<AbortController | null>(null);
  const asked = JSON.stringify([ids, measures.map((m) => m.sentence)]);
  useEffect(() => {
    if (stopped === asked) return;
    const own = new Set(ids);
    const sentences = [...new Set(measures.map((m) => m.sentence))];
    const questions = useSet
      .getState()
      .runs.filter((r) => own.has(r.id))
      .flatMap((r) => lackingOf(r, sentences));
    if (questions.length === 0) return;
    const cancelling = new AbortController();
    setAbort(cancelling);
    let [next, done] = [0, 0];
    setState({ done, all: questions.length });
    const work = async (): Promise<void> => {
      while (next < questions.length && !cancelling.signal.aborted) {
        const question = questions[next++];
        const answer = await askRange(question.run)(
          { kind: 'number', key: question.sentence },
          cancelling.signal,
        ).catch((error: unknown): MeasuredNumber => {
          const { reason } = problemFrom(error);
          return { unit: null, components: 1, perStep: [], trouble: `${reason}.` };
        });
        if (cancelling.signal.aborted) return;
        keep(question, answer as MeasuredNumber);
        done++;
        setState({ done, all: questions.length });
      }
    };
    void Promise.all(Array.from({ length: AT_ONCE }, work)).then(() => {
      if (!cancelling.signal.aborted) setState(null);
    });
    return () => {
      cancelling.abort();
      setState(null);
    };
  }, [asked, stopped]);
  return (
    state && {
      ...state,
      stop() {
        abort?.abort();
        setStopped(asked);
        setState(null);
      },
    }
  );
}
