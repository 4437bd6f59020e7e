import { mkdir } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { BATCH_LOG, type BatchEntry } from '#core/batch/batch-log.ts';
import { readStepsWish } from '#core/batch/batch-steps.ts';
import { documentFormatOf, documentFormats, PICTURES_IN_DOCUMENTS } from '#core/batch/document-formats.ts';
import { whyNotRead } from '#core/language/sentence-reader.ts';
import type { FileProblem } from '#core/model/read-error.ts';
import { RUNS_TABLE } from '#core/sets/made-rows.ts';
import { BatchSession, type MadeBatch, type PicturesOptions } from './batch-session.ts';
import { type ImportedRun, importEach } from './import-files.ts';
import { readScenePath } from './opened-scene.ts';
import { type OwnServer, withOwnServer } from './own-server.ts';
import type { StatedUnit } from './stated-units.ts';
import { inFolder, writeWhole } from './write-whole.ts';

export interface BatchOptions extends PicturesOptions {
  /** Result files, or tables that name them. */
  runs: string[];
  out: string;
  units?: StatedUnit[];
  json?: boolean;
  /** Files of reports, in the format that each ending names. */
  report?: string[];
}

/** What is told at the end, as `--json` prints it. */
export interface BatchReport extends MadeBatch {
  /** Runs that could not be brought in, and files that are none. */
  problems: FileProblem[];
  /** Paths of the documents that were written of it. */
  reports: string[];
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
      checkReports(options);
      await inFolder(options.out, () => mkdir(options.out, { recursive: true }));
      return Promise.all(shotPaths.map(readScenePath));
    },
    async (server, given) => {
      const { imported, problems } = await importAll(server, options);
      const session = new BatchSession(server, given, options);
      await session.take(imported);
      await session.tellOdd();
      const report = await session.make();
      await writeWhole(join(options.out, RUNS_TABLE), Buffer.from(await session.rows(report.files)));
      const reports = await writeReports(session, report, options);
      tell({ ...report, problems, reports }, options);
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

/** @throws where a report could not be written: that is known before anything is drawn */
function checkReports({ report = [], format }: BatchOptions): void {
  for (const path of report)
    if (!documentFormatOf(path)) {
      const endings = documentFormats.map(({ ending }) => `.${ending}`).join(' or ');
      throw {
        reason: `a report is not written as "${path}"`,
        where: '--report',
        remedy: `Let its name end in ${endings}.`,
      };
    }
  if (report.length > 0 && !PICTURES_IN_DOCUMENTS.some((id) => format.includes(id)))
    throw {
      reason: `a report takes no pictures as ${format.join(', ')}`,
      where: '--report',
      remedy: `Make them as ${PICTURES_IN_DOCUMENTS.join(' or ')} too: --format ${format.join(' ')} ${PICTURES_IN_DOCUMENTS[0]}`,
    };
}

/** @returns the paths of what was written; nothing where no picture was made that a report could show */
async function writeReports(
  session: BatchSession,
  { made, current }: MadeBatch,
  { report = [] }: BatchOptions,
): Promise<string[]> {
  if (made + current === 0) return [];
  for (const path of report) {
    const bytes = await session.document(documentFormatOf(path)!);
    await inFolder(dirname(path), () => mkdir(dirname(path), { recursive: true }));
    await writeWhole(path, bytes);
  }
  return report;
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
  for (const path of report.reports) console.log(`${path} written`);
  console.log(`${done} made, ${current} current, ${failed} failed; log: ${join(out, BATCH_LOG)}`);
}

/** What became of a file of a batch, with what did not match or go well. */
export function tellEntry({ path, state, problem, notes }: BatchEntry, out: string): void {
  console.log(`${join(out, path)} ${state}`);
  if (problem) console.error(`${path}: ${problem.reason}\n  what to do: ${problem.remedy}`);
  for (const note of notes) console.error(`note: ${path}: ${note}`);
}
