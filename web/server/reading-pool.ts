import { randomUUID } from 'node:crypto';
import { cpus } from 'node:os';
import { join } from 'node:path';
import { Worker } from 'node:worker_threads';
import type { RunPlan } from '#core/formats/series.ts';
import type { ImportChoices } from '#core/model/run.ts';
import { type ImportResult, importRun } from '#engine/import-run.ts';
import { WorkerPool, type WorkerPort } from '#engine/worker-pool.ts';
import type { ReadingJob } from './import-worker.ts';
import { arraysFolder } from './paths.ts';
import type { FileBase } from './reading.ts';

/** A Node thread with the face of a browser worker. Its memory is bounded: a file cannot take the server down. */
function thread(): WorkerPort {
  const home = process.env.DRESSER_HOME ?? process.cwd();
  const worker = new Worker(join(home, 'dist', 'import-worker.mjs'), {
    resourceLimits: { maxOldGenerationSizeMb: 4096 },
  });
  worker.unref();
  const port: WorkerPort = {
    postMessage: (message) => worker.postMessage(message),
    terminate: () => void worker.terminate(),
    onmessage: null,
    onerror: null,
  };
  worker.on('message', (data) => port.onmessage?.({ data }));
  worker.on('error', (error) => port.onerror?.({ message: `Reading stopped: ${error.message}` }));
  return port;
}

/** Threads that read files; more than four wait for the disk rather than for the cores. */
const THREADS = Math.min(4, Math.max(2, cpus().length));

let pool: WorkerPool | null = null;

/** The threads that read files, started with the first job. */
export function readingPool(): WorkerPool {
  pool ??= new WorkerPool(thread, THREADS);
  return pool;
}

/** Imports a run with its steps read side by side in the threads. */
export function importInThreads(
  plan: RunPlan,
  choices: ImportChoices,
  base: FileBase,
  { progress, signal }: { progress?: (done: number) => void; signal?: AbortSignal },
): Promise<ImportResult> {
  const place = { import: randomUUID(), base, reading: plan.reading, arrays: arraysFolder };
  const run = <T>(job: ReadingJob): Promise<T> => readingPool().run<T>(job, { signal });
  return importRun(plan, choices, {
    readStep: (job) => run({ kind: 'step', job, ...place }),
    readRest: (rest) => run({ kind: 'rest', plan: rest, ...place }),
    atOnce: THREADS,
    progress,
    signal,
  });
}
