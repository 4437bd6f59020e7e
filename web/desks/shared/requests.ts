import type { FileProblem } from '#core/model/read-error.ts';

/** An answer of the server that is an error, with its three facts. */
export class RequestProblem extends Error {
  constructor(
    readonly problem: FileProblem,
    /** Status of the answer; 0 when there was none. */
    readonly status = 0,
    /** All that the answer holds. */
    readonly answer: unknown = null,
  ) {
    super(problem.reason);
  }
}

/** Sends a request to the own server and reads its JSON answer. */
export async function ask<T>(
  path: string,
  init: { method?: string; json?: unknown; body?: BodyInit; keepalive?: boolean } = {},
): Promise<T> {
  let response: Response;
  try {
    response = await fetch(path, {
      method: init.method ?? 'GET',
      body: init.json === undefined ? init.body : JSON.stringify(init.json),
      headers: init.json === undefined ? {} : { 'Content-Type': 'application/json' },
      keepalive: init.keepalive,
    });
  } catch {
    throw new RequestProblem({
      file: '',
      reason: 'the server does not answer',
      where: path,
      remedy: 'Look whether it still runs in its terminal, start it again with npm start, and try once more.',
    });
  }
  const answer = await response.json().catch(() => ({}));
  if (!response.ok) {
    const problem = { file: '', reason: 'the server could not do this', where: path, remedy: 'Try again.' };
    throw new RequestProblem({ ...problem, ...answer }, response.status, answer);
  }
  return answer as T;
}

export function problemFrom(error: unknown): FileProblem {
  if (error instanceof RequestProblem) return error.problem;
  const reason = error instanceof Error ? error.message : String(error);
  return {
    file: '',
    reason,
    where: 'this page',
    remedy: 'Try again; if it stays, reload the page. Nothing saved is lost.',
  };
}

interface JobState<T> {
  state: 'running' | 'done' | 'failed' | 'cancelled';
  done: number;
  remaining: number | null;
  ahead: number;
  result: T;
  problem: FileProblem | null;
}

export interface JobProgress {
  done: number;
  remaining: number | null;
  /** How many jobs of others come first, while it waits. */
  ahead?: number;
}

/** Follows long work on the server to its end; cancelling the signal cancels the work. */
export async function followJob<T>(
  job: string,
  progress: (p: JobProgress) => void,
  signal: AbortSignal,
): Promise<T> {
  const cancel = () => void ask(`/api/jobs/${job}`, { method: 'DELETE' }).catch(() => undefined);
  signal.addEventListener('abort', cancel, { once: true });
  for (let wait = 60; ; wait = Math.min(300, wait * 1.4)) {
    const state = await ask<JobState<T>>(`/api/jobs/${job}`);
    progress({ done: state.done, remaining: state.remaining, ahead: state.ahead });
    if (state.state === 'done') return state.result;
    if (state.state === 'failed') throw new RequestProblem(state.problem!);
    if (state.state === 'cancelled' || signal.aborted) throw new DOMException('cancelled', 'AbortError');
    await new Promise((r) => setTimeout(r, wait));
  }
}
