import { mkdir, readFile } from 'node:fs/promises';
import { dirname } from 'node:path';
import type { DocumentChange } from '#core/model/document-changes.ts';
import type { FileProblem } from '#core/model/read-error.ts';
import type { Finding } from '#core/preflight/rule.ts';
import { composeReport, type SeenFacts } from '#core/report/compose.ts';
import { type Report, sourcesToSee } from '#core/report/report.ts';
import { readReportBundle } from '#core/report/report-bundle.ts';
import { reportFormatOf, reportFormats } from '#core/report/report-formats.ts';
import { reportFindings } from '#core/report/report-preflight.ts';
import { ask, askFile, followJob } from '#engine/server-requests.ts';
import { askSeen } from '#web/desks/report/ask-seen.ts';
import type { OpenedBundle } from '#web/server/reports/bundles.ts';
import type { Seen, SeeOrder } from '#web/server/reports/see-sources.ts';
import { tellProblem } from './batch.ts';
import { importEach } from './import-files.ts';
import { type OwnServer, withOwnServer } from './own-server.ts';
import type { StatedUnit } from './stated-units.ts';
import { noteFindings } from './tell-findings.ts';
import { tellProgress } from './tell-progress.ts';
import { inFolder, writeWhole } from './write-whole.ts';

export interface ReportOptions {
  /** The result files of the runs it tells of. */
  run: string[];
  /** Files, each in the form that its ending names. */
  out: string[];
  units?: StatedUnit[];
  json?: boolean;
}

/** Something of it could not be shown; the rest was written. */
const SOME_LACKING = 2;

/**
 * Writes a report of some runs, as it was put together on the desk.
 *
 * @returns the exit code: 0 where all of it is there, 2 where some of it is lacking, 1 where nothing could be written
 */
export const writeReport = (path: string, options: ReportOptions): Promise<number> =>
  withOwnServer(
    { files: options.run },
    async () => {
      checkEndings(options.out);
      const text = await readFile(path, 'utf8').catch((error: Error) => {
        throw { reason: error.message, where: path, remedy: 'Look whether the file is there.' };
      });
      return readReportBundle(text, path);
    },
    async (server, bundle) => {
      const { address } = server;
      const { imported, problems } = await importEach(server, options.run, options.units);
      if (imported.length === 0) throw problems[0];
      const { id, troubles } = await ask<OpenedBundle>(`${address}/api/reports/opened`, {
        method: 'POST',
        json: { bundle, runs: imported.map(({ run }) => run) },
      });
      const unseen = await seeAll(server, id, options.out.some(isPage));
      const lacking = [...problems, ...unseen];
      await writeAll(server, id, options.out);
      tell(
        { files: options.out, troubles, problems: lacking, findings: await findingsOf(server, id) },
        options,
      );
      return troubles.length + lacking.length > 0 ? SOME_LACKING : 0;
    },
  );

/** @throws where a file could not be written: that is known before anything is drawn */
function checkEndings(files: readonly string[]): void {
  for (const path of files)
    if (!reportFormatOf(path))
      throw {
        reason: `a report is not written as "${path}"`,
        where: '--out',
        remedy: `Let its name end in ${reportFormats.map(({ ending }) => `.${ending}`).join(', ')}.`,
      };
}

/** Whether a file is one whose figures can be turned. */
const isPage = (path: string): boolean => reportFormatOf(path)?.id === 'html';

/**
 * Draws all that the report shows, and notes it there.
 *
 * @param turned whether figures are made that can be turned
 * @returns what could not be drawn
 */
async function seeAll({ address }: OwnServer, id: string, turned: boolean): Promise<FileProblem[]> {
  const { document, revision } = await ask<{ document: Report; revision: number }>(
    `${address}/api/reports/${id}`,
  );
  const order: SeeOrder = {
    sources: sourcesToSee(document).map((s) => ({ ...s, living: s.living && turned })),
    pictures: document.pictures,
    quality: 'final',
  };
  const { job } = await ask<{ job: string }>(`${address}/api/seen`, { method: 'POST', json: order });
  const { keys, problems } = await followJob<Seen>(job, tellProgress, undefined, address);
  const changes: DocumentChange[] = Object.entries(keys).map(([source, now]) => ({
    at: ['sources', source, 'seen'],
    was: null,
    now,
  }));
  if (changes.length > 0)
    await ask(`${address}/api/reports/${id}`, { method: 'PUT', json: { revision, changes } });
  return document.sources.flatMap((s) => {
    const problem = problems[s.id];
    return problem ? [{ ...problem, file: s.name }] : [];
  });
}

async function writeAll({ address }: OwnServer, id: string, files: readonly string[]): Promise<void> {
  for (const path of files) {
    const { bytes } = await askFile(`${address}/api/reports/${id}/file`, {
      method: 'POST',
      json: { format: reportFormatOf(path)!.id },
    });
    await inFolder(dirname(path), () => mkdir(dirname(path), { recursive: true }));
    await writeWhole(path, Buffer.from(await new Response(bytes).arrayBuffer()));
  }
}

/** What the preflight finds in it as it was seen now. */
async function findingsOf({ address }: OwnServer, id: string): Promise<Finding[]> {
  const { document } = await ask<{ document: Report }>(`${address}/api/reports/${id}`);
  const keys = document.sources.flatMap((s) => s.seen ?? []);
  const { facts } = await askSeen(keys, address);
  const seen: SeenFacts = new Map(
    document.sources.map((s) => [s.id, facts[s.seen ?? ''] ?? 'not looked at'] as const),
  );
  return reportFindings(document, composeReport(document, seen), seen, new Set());
}

interface Told {
  files: string[];
  troubles: string[];
  problems: FileProblem[];
  findings: Finding[];
}

function tell(told: Told, { json }: ReportOptions): void {
  if (json) {
    console.log(JSON.stringify(told, null, 2));
    return;
  }
  for (const trouble of told.troubles) console.error(`note: ${trouble}`);
  for (const problem of told.problems) tellProblem(problem);
  noteFindings([{ of: 'the report', findings: told.findings }]);
  for (const file of told.files) console.log(`${file} written`);
}
