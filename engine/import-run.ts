import type { Opened, OpenedFields, OpenedRun } from '#core/formats/format.ts';
import { type FileProblem, ReadError } from '#core/model/read-error.ts';
import type { ImportChoices, RunDescription, StoredMesh } from '#core/model/run.ts';
import type { PlannedStep, RunPlan } from '#core/model/run-plan.ts';
import { type RestRecord, readRest } from './read-rest.ts';
import { type ArraySink, readStep, type StepHost, type StepOptions, type StepRecord } from './read-step.ts';
import { RunBuilder } from './run-builder.ts';

/** A step to be read, wherever that happens. */
export interface StepJob {
  step: PlannedStep;
  fieldFiles: { path: string; step: number }[];
  options: StepOptions;
}

/** What reads the steps and the rest of a plan, here or in threads. */
export interface ImportHost {
  readStep(job: StepJob): Promise<StepRecord>;
  readRest(plan: RunPlan): Promise<RestRecord>;
  /** How many steps may be read at the same time. */
  atOnce?: number;
  /** Called with the part of the work done, 0..1. */
  progress?(done: number): void;
  signal?: AbortSignal;
}

export interface ImportResult {
  run: RunDescription;
  /** Files that could not be read; their steps are left out and named in the run's warnings. */
  problems: FileProblem[];
}

/** The steps of a plan that are taken. */
export function chosenSteps(plan: RunPlan, choices: ImportChoices): PlannedStep[] {
  const range = choices.steps;
  if (!range) return plan.steps;
  return plan.steps.filter((_, i) => isChosen(i, range));
}

/** Whether a step, counted from 0, is within a range and one of every n-th. */
export const isChosen = (step: number, { from, to, every }: NonNullable<ImportChoices['steps']>): boolean =>
  step >= from && step <= to && (step - from) % Math.max(1, every) === 0;

/**
 * Reads every file of a planned run once, stores its arrays and describes the run. The first step is read alone and
 * settles the origin; the others are read side by side and put together in order.
 *
 * @throws the first problem when no file at all can be read; an AbortError when cancelled
 */
export async function importRun(
  plan: RunPlan,
  choices: ImportChoices,
  host: ImportHost,
): Promise<ImportResult> {
  const builder = new RunBuilder(plan, choices);
  const problems: FileProblem[] = [];
  const steps = chosenSteps(plan, choices);
  const rest = plan.tables.length + plan.pictures.length;
  const total = steps.length + rest || 1;
  let done = 0;
  const advance = (): void => host.progress?.(++done / total);
  const jobs = stepJobs(plan, steps, choices);
  const take = (record: StepRecord): void => {
    problems.push(...record.problems);
    if (record.parts.length > 0) builder.add(record);
  };
  let origin: StepOptions['origin'] = null;
  let first = 0;
  while (first < jobs.length && origin === null) {
    host.signal?.throwIfAborted();
    const record = await host.readStep(jobs[first++]);
    if (record.parts.length > 0) origin = record.origin;
    take(record);
    advance();
  }
  const others = jobs.slice(first).map((job) => ({ ...job, options: { ...job.options, origin } }));
  for await (const record of inOrder(others, host)) {
    take(record);
    advance();
  }
  const { tables, ...read } =
    rest > 0 ? await host.readRest(plan) : { tables: [], pictures: [], problems: [] };
  problems.push(...read.problems);
  for (const picture of read.pictures) builder.addSteadyPart(picture);
  if (builder.stepCount === 0 && tables.length === 0)
    throw problems[0] ? refusalOf(problems[0]) : nothingThere(plan);
  const run = builder.finish(problems, tables);
  run.source = { plan, paths: {}, choices, stamps: {}, leftOut: builder.fieldsLeftOut };
  return { run, problems };
}

const refusalOf = (p: FileProblem): ReadError => new ReadError(p.reason, p.where, p.remedy);

const nothingThere = (plan: RunPlan): ReadError =>
  new ReadError('the run has no steps', plan.name, 'Choose steps and parts that are there.');

function stepJobs(plan: RunPlan, steps: PlannedStep[], choices: ImportChoices): StepJob[] {
  const options: StepOptions = {
    origin: null,
    fields: choices.fields ?? null,
    parts: choices.parts ?? null,
    frames: choices.frames ?? {},
    apart: plan.apart ?? [],
    name: plan.name,
  };
  // As many files of fields as steps: one each; otherwise all of them belong to every step.
  const oneEach = plan.fieldFiles.length === plan.steps.length && plan.steps.length > 1;
  return steps.map((step) => {
    const at = plan.steps.indexOf(step);
    const files = oneEach ? [plan.fieldFiles[at]] : plan.fieldFiles;
    return { step, options, fieldFiles: files.map((path) => ({ path, step: oneEach ? 0 : at })) };
  });
}

/** What reads files in this thread. */
export interface LocalFiles {
  open(path: string): Promise<Opened>;
  bytes?(path: string): Promise<Uint8Array>;
  sink: ArraySink;
}

/** Reads everything in this thread, keeping meshes that were stored before. */
export function localHost(host: LocalFiles, more: Pick<ImportHost, 'progress' | 'signal'> = {}): ImportHost {
  const stepHost: StepHost = {
    open: async (path) => asRun(await host.open(path)),
    openFields: async (path) => asFields(await host.open(path)),
    sink: host.sink,
    meshes: new Map<string, StoredMesh>(),
  };
  const bytes = host.bytes ?? (() => Promise.reject(new Error('Pictures are not read here.')));
  return {
    ...more,
    readStep: ({ step, fieldFiles, options }) => readStep(step, fieldFiles, options, stepHost),
    readRest: (plan) => readRest(plan, { ...host, bytes }),
  };
}

function asRun(opened: Opened): OpenedRun {
  if (opened.kind === 'run') return opened;
  const what = {
    fields: 'fields without a mesh',
    collection: 'a list of files',
    table: 'a table',
    picture: 'a picture',
  };
  throw new ReadError(
    `the file holds ${what[opened.kind]}, not a mesh`,
    'whole file',
    'Choose the result files themselves, or say how the table is to be read.',
  );
}

function asFields(opened: Opened): OpenedFields {
  if (opened.kind === 'fields') return opened;
  throw new ReadError('the file holds no fields for another mesh', 'whole file', 'Leave it out.');
}

/** Results in the order of the jobs, with at most `atOnce` of the host under way. */
async function* inOrder(jobs: StepJob[], host: ImportHost): AsyncGenerator<StepRecord> {
  const underway: Promise<StepRecord>[] = [];
  let next = 0;
  for (let i = 0; i < jobs.length; i++) {
    while (next < jobs.length && underway.length < (host.atOnce ?? 1)) {
      const promise = host.readStep(jobs[next++]);
      // A failure is met when its turn comes; until then it must not count as unheard.
      promise.catch(() => undefined);
      underway.push(promise);
    }
    host.signal?.throwIfAborted();
    yield await underway.shift()!;
  }
}
