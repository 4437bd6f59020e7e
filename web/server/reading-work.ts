import { randomUUID } from 'node:crypto';
import { cpus } from 'node:os';
import { join } from 'node:path';
import { problemOf } from '#core/model/read-error.ts';
import type { ImportChoices } from '#core/model/run.ts';
import type { RunPlan } from '#core/model/run-plan.ts';
import { type ImportResult, importRun, type StepJob } from '#engine/import-run.ts';
import { failedStep, type StepRecord } from '#engine/read-step.ts';
import type { JobContext } from './jobs/job-kind.ts';
import { arraysFolder } from './paths.ts';
import { limitsFromEnvironment, ReaderEnded, ReaderPool } from './reader-pool.ts';
import type { FileBase } from './reading.ts';
import type { ReadingJob } from './reading-jobs.ts';

/** Processes that read files; more than four wait for the disk rather than for the cores. */
const PROCESSES = Math.min(4, Math.max(2, cpus().length));

/** An import that costs more processes than this is given up as a whole. */
const MOST_ENDED = 3;

const global = globalThis as { dresserReaders?: ReaderPool };

/** The processes that read files, started with the first job. */
export function readers(): ReaderPool {
  const script = join(process.env.DRESSER_HOME ?? process.cwd(), 'dist', 'reader-process.mjs');
  return (global.dresserReaders ??= new ReaderPool(script, limitsFromEnvironment(PROCESSES)));
}

/** Does one job of reading in a process of its own. */
export const inReader = <T>(job: ReadingJob, at: JobContext): Promise<T> => readers().run<T>(job, at);

/** Imports a run with its steps read side by side. */
export function importInReaders(
  plan: RunPlan,
  choices: ImportChoices,
  base: FileBase,
  at: JobContext,
): Promise<ImportResult> {
  const place = { import: randomUUID(), base, reading: plan.reading, arrays: arraysFolder };
  // Steps tell the progress of the whole.
  const quiet: JobContext = { ...at, progress: () => undefined };
  let ended = 0;
  const readStep = async (job: StepJob): Promise<StepRecord> => {
    try {
      return await inReader<StepRecord>({ kind: 'step', job, ...place }, quiet);
    } catch (error) {
      // A file that ends its reader is a bad file like others, as long as there are few of them.
      if (!(error instanceof ReaderEnded) || ++ended > MOST_ENDED) throw error;
      return failedStep(job.step, problemOf(error.file ?? job.step.files[0]?.path ?? plan.name, error));
    }
  };
  return importRun(plan, choices, {
    readStep,
    readRest: (rest) => inReader({ kind: 'rest', plan: rest, ...place }, quiet),
    atOnce: readers().size,
    progress: at.progress,
    signal: at.signal,
  });
}
