import { basename, resolve } from 'node:path';
import type { FileProblem } from '#core/model/read-error.ts';
import type { RunDescription } from '#core/model/run.ts';
import type { Scene } from '#core/scene/document.ts';
import { ask, followJob, problemFrom } from '#engine/server-requests.ts';
import type { OwnServer } from './own-server.ts';
import { choicesOfUnits, type StatedUnit } from './stated-units.ts';

/** A run that files hold, before it is brought in. */
export interface PreviewedRun {
  plan: { name: string };
  report: { fields: { name: string }[] } | null;
  fieldKeys: string[];
}

const fieldsOf = ({ report, fieldKeys }: PreviewedRun): { key: string; name: string }[] =>
  (report?.fields ?? []).map(({ name }, i) => ({ key: fieldKeys[i], name }));

/** The runs that files hold, and what is wrong with files of them. */
export interface PreviewedFiles {
  intake: string;
  previews: PreviewedRun[];
  problems: FileProblem[];
}

/** @throws what is wrong with the files, where they hold no run */
export async function previewFiles(
  { address }: OwnServer,
  files: readonly string[],
): Promise<PreviewedFiles> {
  const { id } = await ask<{ id: string }>(`${address}/api/intake`, { method: 'POST' });
  for (const file of files)
    await ask(`${address}/api/intake/${id}/server-path`, { method: 'POST', json: { path: resolve(file) } });
  const { job } = await ask<{ job: string }>(`${address}/api/intake/${id}/preview`, { method: 'POST' });
  const seen = await followJob<Omit<PreviewedFiles, 'intake'>>(job, undefined, undefined, address);
  if (seen.previews.length > 0) return { intake: id, ...seen };
  throw (
    seen.problems[0] ?? {
      reason: 'the files hold no run',
      where: files.map((f) => basename(f)).join(', '),
      remedy: 'Give result files.',
    }
  );
}

/** A run that was brought in, with the scene it opens with. */
export interface ImportedRun {
  /** Ids. */
  run: string;
  scene: string;
}

/** Brings in one of the runs that files hold. */
export async function importPreviewed(
  { address }: OwnServer,
  { intake, previews }: PreviewedFiles,
  plan: number,
  units: readonly StatedUnit[] = [],
): Promise<ImportedRun> {
  const choices = choicesOfUnits([...units], fieldsOf(previews[plan]));
  const { job } = await ask<{ job: string }>(`${address}/api/intake/${intake}/import`, {
    method: 'POST',
    json: { plan, choices },
  });
  return followJob<ImportedRun>(job, undefined, undefined, address);
}

/** Brings in every run that files hold together; what cannot be read is told with the others. */
export async function importEach(
  server: OwnServer,
  files: readonly string[],
  units?: readonly StatedUnit[],
): Promise<{ imported: ImportedRun[]; problems: FileProblem[] }> {
  const problems: FileProblem[] = [];
  const imported: ImportedRun[] = [];
  const told = (error: unknown, file: string): void => {
    const problem = isProblem(error) ? error : problemFrom(error);
    problems.push({ ...problem, file: problem.file || file });
  };
  const seen = await previewFiles(server, files).catch((error) => told(error, basename(files[0])));
  problems.push(...(seen?.problems ?? []));
  for (const [plan, { plan: about }] of seen?.previews.entries() ?? [])
    try {
      imported.push(await importPreviewed(server, seen!, plan, units));
    } catch (error) {
      told(error, about.name);
    }
  return { imported, problems };
}

const isProblem = (error: unknown): error is FileProblem =>
  typeof (error as Partial<FileProblem> | null)?.reason === 'string';

/** What a run that was brought in holds, and the scene it opens with. */
export async function openImported(
  { address }: OwnServer,
  made: ImportedRun,
): Promise<{ run: string; scene: Scene; description: RunDescription }> {
  const [run, scene] = await Promise.all([
    ask<{ description: RunDescription }>(`${address}/api/runs/${made.run}`),
    ask<{ document: Scene }>(`${address}/api/scenes/${made.scene}`),
  ]);
  return { run: made.run, scene: scene.document, description: run.description };
}
