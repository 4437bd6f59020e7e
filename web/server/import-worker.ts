import { parentPort } from 'node:worker_threads';
import type { NumberArray } from '#core/formats/format.ts';
import type { RunPlan } from '#core/formats/series.ts';
import { type InspectedRun, inspectRun } from '#core/measure/inspect-report.ts';
import { type FileProblem, problemOf } from '#core/model/read-error.ts';
import { type ImportChoices, type ImportResult, importRun } from '#engine/import-run.ts';
import { answerJobs, type WorkerPort } from '#engine/worker-pool.ts';
import { ArrayStore, refOf } from './array-store.ts';
import { type NamedFile, openMesh, understandFiles, whyUnreadable } from './reading.ts';

/** What is shown before anything is stored. */
export interface Preview {
  plan: RunPlan;
  report: InspectedRun | null;
  /** Keys of the fields in the order of the report. */
  fieldKeys: string[];
  /** Steps the ranges were read from. */
  readSteps: number;
}

export interface PreviewAnswer {
  previews: Preview[];
  paths: Record<string, string>;
  problems: FileProblem[];
}

export type ReadingJob =
  | { kind: 'preview'; files: NamedFile[]; lookBeside: boolean; everyStep: boolean }
  | { kind: 'import'; plan: RunPlan; paths: Record<string, string>; choices: ImportChoices; arrays: string };

/** Names arrays without keeping them. */
const nowhere = { put: async (data: NumberArray) => refOf(data) };

async function preview(
  files: NamedFile[],
  lookBeside: boolean,
  everyStep: boolean,
  progress: (done: number) => void,
): Promise<PreviewAnswer> {
  const { plans, paths, problems } = await understandFiles(files, lookBeside);
  const previews: Preview[] = [];
  for (const [i, plan] of plans.entries()) {
    const ends =
      everyStep || plan.steps.length <= 2 ? plan.steps : [plan.steps[0], plan.steps[plan.steps.length - 1]];
    try {
      const { run, problems: found } = await importRun(
        { ...plan, steps: ends },
        {},
        {
          open: (name) => openMesh(paths[name]),
          sink: nowhere,
          progress: (p) => progress((i + p) / plans.length),
        },
      );
      for (const p of found) if (!problems.some((q) => q.file === p.file)) problems.push(p);
      previews.push({
        plan,
        report: inspectRun(run),
        fieldKeys: run.fields.map((f) => f.key),
        readSteps: ends.length,
      });
    } catch (error) {
      for (const file of ends.flatMap((s) => s.files)) {
        if (problems.some((p) => p.file === file.path)) continue;
        const alone = await whyUnreadable(paths[file.path]);
        problems.push(problemOf(file.path, alone ?? error));
      }
      if (plan.steps.length > ends.length) previews.push({ plan, report: null, fieldKeys: [], readSteps: 0 });
    }
  }
  return { previews, paths, problems };
}

if (parentPort) {
  const port = parentPort;
  const wrapped: WorkerPort = {
    postMessage: (message) => port.postMessage(message),
    terminate: () => undefined,
    onmessage: null,
    onerror: null,
  };
  answerJobs(wrapped, async (payload, progress): Promise<PreviewAnswer | ImportResult> => {
    const job = payload as ReadingJob;
    if (job.kind === 'preview') return preview(job.files, job.lookBeside, job.everyStep, progress);
    const sink = new ArrayStore(job.arrays);
    return importRun(job.plan, job.choices, { open: (name) => openMesh(job.paths[name]), sink, progress });
  });
  port.on('message', (data) => wrapped.onmessage?.({ data }));
}
