import { mkdir } from 'node:fs/promises';
import { basename, extname, join } from 'node:path';
import { BATCH_LOG, type BatchEntry } from '#core/batch/batch-log.ts';
import type { BatchSettings } from '#core/batch/batch-settings.ts';
import { readStepsWish } from '#core/batch/batch-steps.ts';
import { whyNotRead } from '#core/language/sentence-reader.ts';
import type { FileProblem } from '#core/model/read-error.ts';
import type { RunDescription } from '#core/model/run.ts';
import type { Scene } from '#core/scene/document.ts';
import { emptyRunSet, type RunSet } from '#core/sets/run-set.ts';
import { ask, followJob, problemFrom } from '#engine/server-requests.ts';
import type { LackingInRuns } from '#web/server/batch-preview.ts';
import type { BatchMade } from '#web/server/batch-work.ts';
import { type ImportedRun, importPreviewed, openImported, previewFiles } from './import-files.ts';
import { type GivenScene, readScenePath, sceneOf } from './opened-scene.ts';
import { type OwnServer, withOwnServer } from './own-server.ts';
import type { StatedUnit } from './stated-units.ts';
import { tellProgress } from './tell-progress.ts';
import { inFolder } from './write-whole.ts';

export interface BatchOptions {
  /** Result files, or tables that name them. */
  runs: string[];
  out: string;
  name: string;
  size: { width: number; height: number }[];
  format: string[];
  steps: string;
  look: string[];
  scales: BatchSettings['scales'];
  passes: number;
  transparent?: boolean;
  /** Also what is current. */
  again?: boolean;
  units?: StatedUnit[];
  /** What is meant by names that runs lack. */
  mean?: { asked: string; meant: string }[];
  /** Parameters out of the names of the runs; see `namePattern`. */
  pattern?: string;
  json?: boolean;
}

/** What is told at the end, as `--json` prints it. */
export interface BatchReport extends BatchMade {
  /** Runs that could not be brought in, and files that are none. */
  problems: FileProblem[];
  files: BatchEntry[];
}

/** Not all of it was made; the log says what. */
export const SOME_FAILED = 2;

/**
 * Makes pictures of shots of many runs; what cannot be read or drawn is told and left out.
 *
 * @returns the exit code: 0 where all is made or current, 2 where some of it failed, 1 where nothing could be begun
 */
export const batchScenes = (shotPaths: readonly string[], options: BatchOptions): Promise<number> =>
  withOwnServer(
    { files: options.runs, out: options.out },
    async () => {
      const steps = readStepsWish(options.steps);
      if ('at' in steps)
        throw {
          reason: whyNotRead(options.steps, steps),
          where: '--steps',
          remedy: 'Write for example "as kept", "the last", "every 5th", "3 to 20" or "nearest to 10, 20 s".',
        };
      await inFolder(options.out, () => mkdir(options.out, { recursive: true }));
      return Promise.all(shotPaths.map(readScenePath));
    },
    async (server, given) => {
      const { imported, problems } = await importAll(server, options);
      const first = await openImported(server, imported[0]);
      const shots: string[] = [];
      for (const scene of given) shots.push(await keptShot(server, scene, first));
      const set = await setOf(server, imported, first.description, options);
      const report = await made(server, { set, shots, runs: imported.map((i) => i.run) }, options);
      tell({ ...report, problems }, options);
      return report.failed + problems.length > 0 ? SOME_FAILED : 0;
    },
  );

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
  const told = (error: unknown, file: string): void => {
    const problem = isProblem(error) ? error : problemFrom(error);
    problems.push({ ...problem, file: problem.file || file });
  };
  // Each that is named is a run of its own, or holds them: numbers in names make no series here.
  for (const file of runs) {
    const seen = await previewFiles(server, [file]).catch((error) => told(error, basename(file)));
    problems.push(...(seen?.problems ?? []));
    for (const [plan, { plan: about }] of seen?.previews.entries() ?? [])
      try {
        imported.push(await importPreviewed(server, seen!, plan, units));
      } catch (error) {
        told(error, about.name);
      }
  }
  if (imported.length === 0) throw problems[0];
  for (const { file, reason, where, remedy } of problems)
    console.error(`${file}: ${reason}\n  where: ${where}\n  what to do: ${remedy}`);
  return { imported, problems };
}

const isProblem = (error: unknown): error is FileProblem =>
  typeof (error as Partial<FileProblem> | null)?.reason === 'string';

/** A picture of nothing: shots need one, and nobody sees these. */
const UNSEEN =
  'data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAQAAAC1HAwCAAAAC0lEQVR42mNk+A8AAQUBAScY42YAAAAASUVORK5CYII=';

/** A scene that was given, kept as a shot of the first run; its id. */
async function keptShot(
  server: OwnServer,
  given: GivenScene,
  first: { run: string; scene: Scene; description: RunDescription },
): Promise<string> {
  const { address } = server;
  const document = await sceneOf(server, given, first);
  const name = basename(given.path, extname(given.path));
  const { id } = await ask<{ id: string }>(`${address}/api/scenes`, {
    method: 'POST',
    json: { run: first.run, document },
  });
  const shot = await ask<{ id: string }>(`${address}/api/scenes/${id}/shots`, {
    method: 'POST',
    json: { name, document, thumbnail: UNSEEN },
  });
  return shot.id;
}

/** A set of the runs, with what is said of their names and of names in them; its id. */
async function setOf(
  { address }: OwnServer,
  imported: readonly ImportedRun[],
  first: RunDescription,
  { mean = [], pattern = '', name }: BatchOptions,
): Promise<string> {
  const { id } = await ask<{ id: string }>(`${address}/api/sets`, {
    method: 'POST',
    json: { name: 'batch', runs: imported.map(({ run }) => run) },
  });
  const { rules: before } = emptyRunSet(name);
  const rules: RunSet['rules'] = { fields: {}, parts: {} };
  for (const { asked, meant } of mean) {
    const fields = first.fields.filter((f) => f.name === asked);
    for (const { location } of fields) rules.fields[`${location}:${asked}`] = `${location}:${meant}`;
    if (fields.length === 0) rules.parts[asked] = meant;
  }
  const changes = [
    { at: ['pattern'], was: '', now: pattern },
    { at: ['rules', 'fields'], was: before.fields, now: rules.fields },
    { at: ['rules', 'parts'], was: before.parts, now: rules.parts },
  ];
  await ask(`${address}/api/sets/${id}`, { method: 'PUT', json: { revision: 1, changes } });
  return id;
}

/** Makes the pictures, and gives what became of each. */
async function made(
  { address }: OwnServer,
  { set, shots, runs }: { set: string; shots: string[]; runs: string[] },
  options: BatchOptions,
): Promise<Omit<BatchReport, 'problems'>> {
  const settings: BatchSettings = {
    shots,
    runs: 'shown',
    steps: options.steps,
    sizes: options.size,
    formats: options.format,
    looks: options.look.length > 0 ? options.look : [null],
    names: options.name,
    passes: options.passes,
    scales: options.scales,
    scaleOf: {},
    transparent: options.transparent ?? false,
  };
  const json = { set, settings, runs, folder: '', again: options.again ?? false };
  const { troubles } = await ask<{ troubles: string[] }>(`${address}/api/batches/preview`, {
    method: 'POST',
    json,
  });
  for (const trouble of troubles) console.error(`note: ${trouble}`);
  await tellLacking(address, json, options);
  const { job } = await ask<{ job: string }>(`${address}/api/batches`, { method: 'POST', json });
  const result = await followJob<BatchMade>(job, tellProgress, undefined, address);
  const { entries } = await ask<{ entries: BatchEntry[] }>(`${address}/api/batches/${job}`);
  return { ...result, files: entries };
}

/** What shots ask for that runs lack is told before anything is drawn, with how to say what is meant. */
async function tellLacking(address: string, json: object, { mean = [] }: BatchOptions): Promise<void> {
  const lacking = await ask<LackingInRuns[]>(`${address}/api/batches/lacking`, { method: 'POST', json });
  for (const { kind, name, runs, likely, offered } of lacking) {
    if (mean.some((m) => m.asked === name)) continue;
    const meant = offered.find((o) => o.value === likely)?.name;
    const remedy = meant ? `; if ${meant} is meant, say --mean "${name}=${meant}"` : '';
    console.error(`note: no ${kind} "${name}" in ${runs.join(', ')}${remedy}`);
  }
}

function tell(report: BatchReport, { json, out }: BatchOptions): void {
  if (json) {
    console.log(JSON.stringify(report, null, 2));
    return;
  }
  for (const { path, state, problem, notes } of report.files) {
    console.log(`${join(out, path)} ${state}`);
    if (problem) console.error(`${path}: ${problem.reason}\n  what to do: ${problem.remedy}`);
    for (const note of notes) console.error(`note: ${path}: ${note}`);
  }
  const { made: done, current, failed } = report;
  console.log(`${done} made, ${current} current, ${failed} failed; log: ${join(out, BATCH_LOG)}`);
}
