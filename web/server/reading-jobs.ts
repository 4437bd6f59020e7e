import { realpath } from 'node:fs/promises';
import { dirname } from 'node:path';
import type { StepName } from '#core/formats/format.ts';
import {
  arrange,
  filesOfPlan,
  type KnownFile,
  planRuns,
  type TimeChoice,
  withTimes,
} from '#core/formats/series.ts';
import { sideBySide } from '#core/formats/side-by-side.ts';
import { rowsOfRuns } from '#core/formats/tables/table-guess.ts';
import { type InspectedRun, inspectRun } from '#core/measure/inspect-report.ts';
import type { NumberArray } from '#core/model/arrays.ts';
import type { FileProblem } from '#core/model/read-error.ts';
import type { ImportChoices, RunDescription, StepKind } from '#core/model/run.ts';
import type { Arrangement, RunPlan } from '#core/model/run-plan.ts';
import type { TableReading } from '#core/model/table-reading.ts';
import { answerQuestion } from '#engine/answer-question.ts';
import { ArraySource } from '#engine/array-source.ts';
import { type ImportHost, importRun, localHost, type StepJob } from '#engine/import-run.ts';
import { openingScene } from '#engine/opening-scene.ts';
import type { RunAnswer, RunQuestion } from '#engine/run-ranges.ts';
import { ArrayStore, refOf } from './array-store.ts';
import type { NamedFile } from './named-file.ts';
import { isWithin } from './paths.ts';
import { blamed, type FileBase, FileOpener, understandFiles } from './reading.ts';
import { askAboutTimes, sampledTimes } from './sampled-times.ts';
import { withFolders } from './walk-folders.ts';

/** What is shown before anything is stored. */
export interface Preview {
  plan: RunPlan;
  report: InspectedRun | null;
  /** Keys of the fields in the order of the report. */
  fieldKeys: string[];
  /** Bytes the values of each field take at one step, in the same order. */
  fieldBytes: number[];
  /** Bytes of the meshes of one step. */
  meshBytes: number;
  /** Steps the ranges were read from. */
  readSteps: number;
  /** Of the first table: its columns and first rows, for choosing what they mean. */
  table: {
    columns: { name: string; unit: string | null; numeric: boolean }[];
    rows: string[][];
    count: number;
  } | null;
}

export interface PreviewAnswer {
  previews: Preview[];
  known: KnownFile[];
  base: FileBase;
  problems: FileProblem[];
}

/** Which folders files may be opened in, and which may be searched for files that others name. */
export type ReadingPlace = Pick<FileBase, 'lookIn' | 'roots'>;

export type ReadingJob =
  | { kind: 'understand'; files: NamedFile[]; place: ReadingPlace; scratch: string; everyStep: boolean }
  | {
      kind: 'arrange';
      files: KnownFile[];
      /** The runs as they are proposed now. */
      chosen: RunPlan[];
      listed: RunPlan | null;
      wish: ArrangeWish;
      base: FileBase;
    }
  | { kind: 'replan'; files: NamedFile[]; names: string[]; collection: string | null; place: ReadingPlace }
  | ({ kind: 'step'; job: StepJob } & ImportPlace)
  | ({ kind: 'rest'; plan: RunPlan } & ImportPlace)
  | { kind: 'range'; run: RunDescription; question: RunQuestion; arrays: string }
  | { kind: 'opening'; run: RunDescription; arrays: string };

/** How the person wants files to be put together. */
export interface ArrangeWish {
  /** Null keeps them as they stand to each other. */
  as: Arrangement | null;
  times: TimeChoice;
  /** How tables are to be read. */
  reading: TableReading | null;
  /** Quantities whose components are kept as scalars. */
  apart: string[];
  /** The files stay as they are put together and timed; only what else is wished changes. */
  same?: boolean;
  /** The unit of lengths of each run that is put together, where the person says it. */
  lengthUnits?: (string | null)[];
}

/** Where the files of an import lie, and where its arrays go. */
export interface ImportPlace {
  /** Tells imports apart, so that a process keeps what it opened for one. */
  import: string;
  base: FileBase;
  reading: TableReading | null;
  arrays: string;
}

/** Names arrays without keeping them. */
const nowhere = { put: async (data: NumberArray) => refOf(data) };

async function understand(
  files: NamedFile[],
  place: ReadingPlace,
  scratch: string,
  everyStep: boolean,
  progress: (done: number) => void,
): Promise<PreviewAnswer> {
  const { plans, known, base, problems } = await understandFiles(files, place, scratch);
  const previews: Preview[] = [];
  for (const [i, plan] of plans.entries()) {
    const made = await previewOf(plan, base, {}, everyStep, problems, (p) =>
      progress((i + p) / plans.length),
    );
    if (made) previews.push(made);
  }
  return { previews, known, base, problems };
}

/** Reads the first and the last step of a plan, or every step, and says what is in them; null when nothing is. */
async function previewOf(
  plan: RunPlan,
  base: FileBase,
  choices: ImportChoices,
  everyStep: boolean,
  problems: FileProblem[],
  progress: (done: number) => void,
): Promise<Preview | null> {
  const ends =
    everyStep || plan.steps.length <= 2 ? plan.steps : [plan.steps[0], plan.steps[plan.steps.length - 1]];
  const opener = new FileOpener(base);
  const table = await tableOf(plan, opener);
  try {
    const { run, problems: found } = await importRun(
      { ...plan, steps: ends },
      choices,
      localHost(
        { open: (name) => opener.open(name, plan.reading), bytes: opener.bytes, sink: nowhere },
        { progress },
      ),
    );
    for (const p of found) if (!problems.some((q) => q.file === p.file)) problems.push(p);
    const report = inspectRun(run);
    const times = await sampledTimes(plan, opener);
    const question = plan.collection === null ? askAboutTimes(times) : null;
    if (question) report.warnings.unshift(question);
    report.steps = stepsOf(plan, report, times, await namesOf(plan, opener));
    return {
      plan,
      report,
      fieldKeys: run.fields.map((f) => f.key),
      fieldBytes: run.fields.map((f) =>
        run.parts.reduce((n, p) => n + bytesOf(p.steps.find((s) => s?.fields[f.key])?.fields[f.key]), 0),
      ),
      meshBytes: run.parts.reduce(
        (n, p) =>
          n +
          bytesOf(p.meshes[0]?.points) +
          bytesOf(p.meshes[0]?.connectivity) +
          bytesOf(p.meshes[0]?.offsets),
        0,
      ),
      readSteps: ends.length,
      table,
    };
  } catch (error) {
    const files = ends.flatMap((s) => s.files.map((f) => f.path));
    const name = plan.collection ?? plan.tables[0] ?? plan.pictures[0] ?? plan.name;
    for (const p of await blamed(name, files, opener, error))
      if (!problems.some((q) => q.file === p.file)) problems.push(p);
    if (plan.steps.length > ends.length)
      return { plan, report: null, fieldKeys: [], fieldBytes: [], meshBytes: 0, readSteps: 0, table };
    return null;
  }
}

/** All steps of the plan; those that were not read have the times the plan knows, or their number. */
function stepsOf(
  plan: RunPlan,
  report: InspectedRun,
  times: Map<number, number>,
  names: (StepName | null)[],
): InspectedRun['steps'] {
  if (report.steps.length >= plan.steps.length) return report.steps;
  const last = report.steps.length - 1;
  const seen = new Map<StepKind, number>();
  return plan.steps.map((_, index) => {
    const read =
      index === 0 ? report.steps[0]?.time : index === plan.steps.length - 1 ? report.steps[last]?.time : null;
    const kind = names[index]?.kind ?? report.steps[0]?.kind ?? 'time';
    const place = (seen.get(kind) ?? 0) + 1;
    seen.set(kind, place);
    return {
      index,
      time: times.get(index) ?? read ?? Number.NaN,
      kind,
      number: names[index]?.number ?? place,
    };
  });
}

/** What the steps are, where one file holds them all and says it. */
async function namesOf(plan: RunPlan, opener: FileOpener): Promise<(StepName | null)[]> {
  const files = new Set(plan.steps.flatMap((s) => s.files.map((f) => f.path)));
  if (files.size !== 1) return [];
  const opened = await opener.open([...files][0], plan.reading).catch(() => null);
  const names = opened?.kind === 'run' ? opened.stepNames : undefined;
  return plan.steps.map((s) => names?.[s.files[0].step] ?? null);
}

const widths: Record<string, number> = { i8: 1, u8: 1, i16: 2, u16: 2, i32: 4, u32: 4, f32: 4, f64: 8 };
const bytesOf = (ref: { type: string; length: number } | undefined): number =>
  ref ? widths[ref.type] * ref.length : 0;

async function tableOf(plan: RunPlan, opener: FileOpener): Promise<Preview['table']> {
  const path = plan.tables[0] ?? (plan.reading ? plan.steps[0]?.files[0]?.path : undefined);
  if (!path) return null;
  const opened = await opener.open(path).catch(() => null);
  if (opened?.kind !== 'table') return null;
  return {
    columns: opened.columns.map(({ name, unit, numeric }) => ({ name, unit, numeric })),
    rows: opened.preview(6),
    count: opened.rows,
  };
}

/** Puts files together as the person wishes and looks into the result. */
async function rearrange(
  { files, chosen, listed, wish, base }: Extract<ReadingJob, { kind: 'arrange' }>,
  progress: (done: number) => void,
): Promise<Pick<PreviewAnswer, 'previews' | 'problems'>> {
  const problems: FileProblem[] = [];
  const opener = new FileOpener(base);
  const known = wish.reading ? await Promise.all(files.map((f) => asRead(f, wish.reading!, opener))) : files;
  const plans =
    listed && wish.as === null
      ? [listed]
      : wish.as === 'parts' && chosen.length > 1
        ? [sideBySide(chosen.map((plan, i) => ({ plan, lengthUnit: wish.lengthUnits?.[i] ?? null })))]
        : regrouped(known, wish);
  const previews: Preview[] = [];
  for (const [i, plan] of plans.entries()) {
    const timed = withTimes({ ...plan, apart: wish.apart }, wish.times);
    const made = await previewOf(timed, base, {}, false, problems, (p) => progress((i + p) / plans.length));
    if (made) previews.push(made);
  }
  return { previews, problems };
}

function regrouped(files: KnownFile[], { as, reading }: ArrangeWish): RunPlan[] {
  const results = files.filter((f) => f.kind === 'run' || f.reading?.as === 'points');
  const others = files.filter((f) => !results.includes(f));
  if (as === null || results.length === 0) return planRuns(files, new Map());
  const plans = as === 'runs' ? results.map((f) => arrange([f], 'steps')) : [arrange(results, as)];
  for (const plan of plans) plan.reading = reading ?? plan.reading;
  // Tables and pictures among them go along with the first run.
  plans[0].tables = others.filter((f) => f.kind === 'table').map((f) => f.path);
  plans[0].pictures = others.filter((f) => f.kind === 'picture').map((f) => f.path);
  return plans;
}

/** A table as it is to be read now. */
async function asRead(file: KnownFile, reading: TableReading, opener: FileOpener): Promise<KnownFile> {
  if (file.kind !== 'table') return file;
  const opened = await opener.open(file.path, reading);
  const steps = opened.kind === 'run' ? opened.steps : [null];
  const rows = reading.as === 'runs' && opened.kind === 'table' ? rowsOfRuns(opened, reading) : undefined;
  return { ...file, reading, steps, rows };
}

/** Plans the files of a run anew, with what has come to lie beside them since. */
async function replan({ files, names, collection, place }: Extract<ReadingJob, { kind: 'replan' }>) {
  const first = files.find((f) => f.name === (collection ?? names[0]));
  const all = new Map(files.map((f) => [f.path, f]));
  const mayRead = async (path: string): Promise<boolean> => {
    const real = await realpath(path).catch(() => null);
    return real !== null && (place.lookIn ?? []).some((folder) => isWithin(folder, real));
  };
  if (first && (await mayRead(dirname(first.path)))) {
    const folder = { name: dirname(first.name), path: dirname(first.path) };
    for (const file of await withFolders([folder], mayRead))
      if (!all.has(file.path)) all.set(file.path, file);
  }
  const { plans, base } = await understandFiles([...all.values()], place, '');
  const plan = plans.find((p) =>
    collection ? p.collection === collection : filesOfPlan(p).includes(names[0]),
  );
  return { plan: plan ?? null, base };
}

/** What a process keeps while it reads the steps of one import. */
let underWay: { import: string; host: ImportHost } | null = null;

function hostOf(place: ImportPlace): ImportHost {
  if (underWay?.import !== place.import) {
    const opener = new FileOpener(place.base, 8);
    const host = localHost({
      open: (name) => opener.open(name, place.reading),
      bytes: opener.bytes,
      sink: new ArrayStore(place.arrays),
    });
    underWay = { import: place.import, host };
  }
  return underWay.host;
}

/** Computes from the stored arrays of a run. */
function answerFromStore(
  { run, question, arrays }: Extract<ReadingJob, { kind: 'range' }>,
  progress: (done: number) => void,
): Promise<RunAnswer> {
  return answerQuestion(run, question, storedArrays(arrays), progress);
}

function storedArrays(folder: string): ArraySource {
  const store = new ArrayStore(folder);
  return new ArraySource((ref) => store.load(ref));
}

/** Does one job of reading; the rest of the server asks for it by message. */
export async function handleReading(payload: unknown, progress: (done: number) => void): Promise<unknown> {
  const job = payload as ReadingJob;
  if (job.kind === 'understand')
    return understand(job.files, job.place, job.scratch, job.everyStep, progress);
  if (job.kind === 'replan') return replan(job);
  if (job.kind === 'arrange') return rearrange(job, progress);
  if (job.kind === 'range') return answerFromStore(job, progress);
  if (job.kind === 'opening') return openingScene(job.run, storedArrays(job.arrays), progress);
  return job.kind === 'step' ? hostOf(job).readStep(job.job) : hostOf(job).readRest(job.plan);
}
