import { mkdir } from 'node:fs/promises';
import { join } from 'node:path';
import { BATCH_LOG, type BatchEntry } from '#core/batch/batch-log.ts';
import { readStepsWish } from '#core/batch/batch-steps.ts';
import { whyNotRead } from '#core/language/sentence-reader.ts';
import type { FileProblem } from '#core/model/read-error.ts';
import { BatchSession, type MadeBatch, type PicturesOptions } from './batch-session.ts';
import { type ImportedRun, importEach } from './import-files.ts';
import { readScenePath } from './opened-scene.ts';
import { type OwnServer, withOwnServer } from './own-server.ts';
import type { StatedUnit } from './stated-units.ts';
import { inFolder } from './write-whole.ts';

export interface BatchOptions extends PicturesOptions {
  /** Result files, or tables that name them. */
  runs: string[];
  out: string;
  units?: StatedUnit[];
  json?: boolean;
}

/** What is told at the end, as `--json` prints it. */
export interface BatchReport extends MadeBatch {
  /** Runs that could not be brought in, and files that are none. */
  problems: FileProblem[];
}

/** Not all of it was made; the log says what. */
const SOME_FAILED = 2;

/**
 * Makes pictures of shots of many runs; what cannot be read or drawn is told and left out.
 *
 * @returns the exit code: 0 where all is made or current, 2 where some of it failed, 1 where nothing could be begun
 */
export const batchScenes = (shotPaths: readonly string[], options: BatchOptions): Promise<number> =>
  withOwnServer(
    { files: options.runs, out: options.out },
    async () => {
      checkSteps(options.steps);
      await inFolder(options.out, () => mkdir(options.out, { recursive: true }));
      return Promise.all(shotPaths.map(readScenePath));
    },
    async (server, given) => {
      const { imported, problems } = await importAll(server, options);
      const session = new BatchSession(server, given, options);
      await session.take(imported);
      const report = await session.make();
      tell({ ...report, problems }, options);
      return report.failed + problems.length > 0 ? SOME_FAILED : 0;
    },
  );

/** @throws what of it is not understood */
export function checkSteps(text: string): void {
  const steps = readStepsWish(text);
  if ('at' in steps)
    throw {
      reason: whyNotRead(text, steps),
      where: '--steps',
      remedy: 'Write for example "as kept", "the last", "every 5th", "3 to 20" or "nearest to 10, 20 s".',
    };
}

/**
 * Brings in every run; those that cannot be read are told of and left out.
 *
 * @throws where none can be
 */
async function importAll(
  server: OwnServer,
  { runs, units }: BatchOptions,
): Promise<{ imported: ImportedRun[]; problems: FileProblem[] }> {
  const problems: FileProblem[] = [];
  const imported: ImportedRun[] = [];
  // Each that is named is a run of its own, or holds them: numbers in names make no series here.
  for (const file of runs) {
    const found = await importEach(server, [file], units);
    imported.push(...found.imported);
    problems.push(...found.problems);
  }
  if (imported.length === 0) throw problems[0];
  for (const problem of problems) tellProblem(problem);
  return { imported, problems };
}

export function tellProblem({ file, reason, where, remedy }: FileProblem): void {
  console.error(`${file}: ${reason}\n  where: ${where}\n  what to do: ${remedy}`);
}

function tell(report: BatchReport, { json, out }: BatchOptions): void {
  if (json) {
    console.log(JSON.stringify(report, null, 2));
    return;
  }
  for (const entry of report.files) tellEntry(entry, out);
  const { made: done, current, failed } = report;
  console.log(`${done} made, ${current} current, ${failed} failed; log: ${join(out, BATCH_LOG)}`);
}

/** What became of a file of a batch, with what did not match or go well. */
export function tellEntry({ path, state, problem, notes }: BatchEntry, out: string): void {
  console.log(`${join(out, path)} ${state}`);
  if (problem) console.error(`${path}: ${problem.reason}\n  what to do: ${problem.remedy}`);
  for (const note of notes) console.error(`note: ${path}: ${note}`);
}
