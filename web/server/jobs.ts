import { randomUUID } from 'node:crypto';
import type { FileProblem } from '#core/model/read-error.ts';

export interface JobState {
  id: string;
  state: 'running' | 'done' | 'failed' | 'cancelled';
  /** 0..1 */
  done: number;
  /** Seconds still to go, once enough is done to tell. */
  remaining: number | null;
  /** How many jobs of others come first, while it waits for its turn. */
  ahead: number;
  result: unknown;
  problem: FileProblem | null;
}

/** What work has at hand while it runs. */
export interface JobContext {
  /** Name of the job; others take turns with it. */
  owner: string;
  signal: AbortSignal;
  /** @param done 0..1 */
  progress(done: number): void;
  /** How many come first while it waits; 0 once something of it is begun. */
  place(ahead: number): void;
}

interface Job extends JobState {
  started: number;
  begun: boolean;
  abort: AbortController;
}

const global = globalThis as { dresserJobs?: Map<string, Job> };
const jobs = (global.dresserJobs ??= new Map<string, Job>());

/** Starts long work and gives its id at once. */
export function startJob(
  work: (at: JobContext) => Promise<unknown>,
  problemOf: (error: unknown) => FileProblem,
): string {
  const job: Job = {
    id: randomUUID(),
    state: 'running',
    done: 0,
    remaining: null,
    ahead: 0,
    result: null,
    problem: null,
    started: Date.now(),
    begun: false,
    abort: new AbortController(),
  };
  jobs.set(job.id, job);
  work({
    owner: job.id,
    signal: job.abort.signal,
    progress(done) {
      job.done = done;
      const elapsed = (Date.now() - job.started) / 1000;
      job.remaining = done > 0.05 ? (elapsed * (1 - done)) / done : null;
    },
    place(ahead) {
      if (ahead === 0 && !job.begun) {
        job.begun = true;
        job.started = Date.now();
      }
      job.ahead = job.begun ? 0 : ahead;
    },
  })
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
  const { state, done, remaining, ahead, result, problem } = job;
  return { id, state, done, remaining, ahead, result, problem };
}

export function cancelJob(id: string): boolean {
  const job = jobs.get(id);
  job?.abort.abort(new Error('cancelled'));
  return job !== undefined;
}

/** A context for short work that nobody follows. */
export const quietContext = (): JobContext => ({
  owner: randomUUID(),
  signal: new AbortController().signal,
  progress: () => undefined,
  place: () => undefined,
});
