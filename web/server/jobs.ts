import { randomUUID } from 'node:crypto';
import type { FileProblem } from '#core/model/read-error.ts';

export interface JobState {
  id: string;
  state: 'running' | 'done' | 'failed' | 'cancelled';
  /** 0..1 */
  done: number;
  /** Seconds still to go, once enough is done to tell. */
  remaining: number | null;
  result: unknown;
  problem: FileProblem | null;
}

interface Job extends JobState {
  started: number;
  abort: AbortController;
}

const global = globalThis as { dresserJobs?: Map<string, Job> };
const jobs = (global.dresserJobs ??= new Map<string, Job>());

/** Starts long work and gives its id at once. */
export function startJob(
  work: (progress: (done: number) => void, signal: AbortSignal) => Promise<unknown>,
  problemOf: (error: unknown) => FileProblem,
): string {
  const job: Job = {
    id: randomUUID(),
    state: 'running',
    done: 0,
    remaining: null,
    result: null,
    problem: null,
    started: Date.now(),
    abort: new AbortController(),
  };
  jobs.set(job.id, job);
  work((done) => {
    job.done = done;
    const elapsed = (Date.now() - job.started) / 1000;
    job.remaining = done > 0.05 ? (elapsed * (1 - done)) / done : null;
  }, job.abort.signal)
    .then((result) => Object.assign(job, { state: 'done', done: 1, result }))
    .catch((error: unknown) => {
      if (job.abort.signal.aborted) job.state = 'cancelled';
      else Object.assign(job, { state: 'failed', problem: problemOf(error) });
    })
    .finally(() => setTimeout(() => jobs.delete(job.id), 10 * 60_000).unref());
  return job.id;
}

export function jobState(id: string): JobState | null {
  const job = jobs.get(id);
  if (!job) return null;
  const { state, done, remaining, result, problem } = job;
  return { id, state, done, remaining, result, problem };
}

export function cancelJob(id: string): boolean {
  const job = jobs.get(id);
  job?.abort.abort(new Error('cancelled'));
  return job !== undefined;
}
