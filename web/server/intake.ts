import { randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, readdir, rm, rmdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { filesOfPlan, type KnownFile } from '#core/formats/series.ts';
import { cleanName, storable } from '#core/model/clean-text.ts';
import { type FileProblem, problemOf, ReadError } from '#core/model/read-error.ts';
import type { ImportChoices, RunDescription } from '#core/model/run.ts';
import type { RunPlan } from '#core/model/run-plan.ts';
import { unusedName } from '#core/model/unused-name.ts';
import { chosenSteps, type ImportResult } from '#engine/import-run.ts';
import { NotFound } from './answer.ts';
import { database, runs, scenes } from './database.ts';
import { withShortName } from './intake-problem.ts';
import type { ImportOrder } from './jobs/import.ts';
import type { JobContext } from './jobs/job-kind.ts';
import { jobs } from './jobs/queue.ts';
import type { NamedFile } from './named-file.ts';
import { openingOf } from './opening.ts';
import { allowedPath, isWithin, readingRoots, realReadableFolders, uploadsFolder } from './paths.ts';
import { ReaderEnded } from './reader-pool.ts';
import { type FileBase, stampsOf } from './reading.ts';
import type { ArrangeWish, Preview, PreviewAnswer, ReadingJob } from './reading-jobs.ts';
import { importInReaders, inReader } from './reading-work.ts';
import { duringImport } from './store-sweep.ts';
import { ensureRoomToSave, ensureSpace, inStore } from './store-trouble.ts';
import { proposeSwap } from './swap-run.ts';
import { unusedRunName } from './unused-run-name.ts';
import { withFolders } from './walk-folders.ts';

/** A drop of files on its way in: where they lie, and what they were understood to be. */
interface Intake {
  id: string;
  files: NamedFile[];
  /** Whether the files lie in a folder of the server, where files find others beside them. */
  onServer: boolean;
  previews: Preview[];
  known: KnownFile[];
  base: FileBase;
  /** Runs that lists of files lead to, by the list; those that were put together, by their files. */
  listed: Map<string, RunPlan>;
  /** Work that needs the files: they are removed when the last of it has ended. */
  holders: number;
  /** The person has done with it. */
  ended: boolean;
}

/** Looking into a drop is given up when more of its files than this end their readers. */
const MOST_ENDED = 5;

const global = globalThis as { dresserIntakes?: Map<string, Intake> };
const intakes = (global.dresserIntakes ??= new Map<string, Intake>());

/** Most files of one drop. */
const MOST_FILES = 20_000;

/** Uploads are streamed to the disk; only the disk limits them. */
const LARGEST_UPLOAD = 256 * 2 ** 30;

export function beginIntake(): string {
  const id = randomUUID();
  const base = { paths: {}, lookIn: [], roots: [] };
  intakes.set(id, {
    id,
    files: [],
    onServer: false,
    previews: [],
    known: [],
    base,
    listed: new Map(),
    holders: 0,
    ended: false,
  });
  return id;
}

function intakeById(id: string): Intake {
  const intake = intakes.get(id);
  if (!intake || intake.ended) throw new NotFound('This drop is no longer known. Drop the files again.');
  return intake;
}

/** Does work that needs the files of a drop: they stay until it has ended, whoever does away with the drop. */
async function holding<T>(intake: Intake, work: () => Promise<T>): Promise<T> {
  intake.holders++;
  try {
    return await work();
  } finally {
    intake.holders--;
    await removeEnded(intake);
  }
}

/**
 * Keeps the files of a drop until what it gives back is called.
 *
 * @param anyway also when the drop is not known any more, because its server was stopped
 * @throws NotFound when the drop is not known
 */
export function holdIntake(id: string, anyway = false): () => Promise<void> {
  if (anyway && !intakes.has(id)) return async () => undefined;
  const intake = intakeById(id);
  intake.holders++;
  return async () => {
    intake.holders--;
    await removeEnded(intake);
  };
}

const folderOf = (id: string): string => join(uploadsFolder, id);

/** Keeps one uploaded file; `name` may hold folders, and never leads out of the folder of the drop. */
export async function receiveFile(
  id: string,
  name: string,
  body: ReadableStream<Uint8Array>,
  announced: number | null,
): Promise<void> {
  const intake = intakeById(id);
  if (intake.files.length >= MOST_FILES)
    throw new ReadError(
      `more than ${MOST_FILES} files are dropped at once`,
      cleanName(name),
      'Drop fewer, pack them to an archive, or open their folder on the server.',
    );
  const folder = folderOf(intake.id);
  // The name on the disk is only a number: what a file calls itself never chooses a place.
  const path = join(folder, String(intake.files.length));
  // Its place in the list is taken before the bytes come, for several may come at once.
  const file: NamedFile = { name: freeName(intake, name), path };
  intake.files.push(file);
  await holding(intake, async () => {
    let received = 0;
    const limited = async function* (source: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
      for await (const chunk of source) {
        received += chunk.length;
        if (received > LARGEST_UPLOAD)
          throw new ReadError(
            'the file is too large to be copied',
            file.name,
            'Open it from a folder of the server.',
          );
        yield chunk;
      }
    };
    try {
      await inStore(async () => {
        await ensureSpace(announced ?? 0);
        await mkdir(folder, { recursive: true });
        await pipeline(Readable.fromWeb(body as never), limited, createWriteStream(path));
      });
    } catch (error) {
      // The place stays taken, so that numbers on the disk are not given twice.
      intake.files[intake.files.indexOf(file)] = { name: '', path: '' };
      await rm(path, { force: true });
      throw error;
    }
  });
}

/** A name in readable signs that no other file of the drop has. */
function freeName(intake: Intake, name: string): string {
  const clean = name
    .split('/')
    .map((part) => cleanName(part))
    .join('/');
  const isTaken = (one: string): boolean => intake.files.some((f) => f.name === one);
  return unusedName(clean, isTaken, (n) => clean.replace(/(\.[^./]*)?$/, ` (${n})$1`));
}

/** Takes a file, or every file of a folder and the folders in it, that lies where the server may read. */
export async function addServerPath(id: string, asked: string): Promise<void> {
  const intake = intakeById(id);
  const path = await allowedPath(asked);
  intake.onServer = true;
  if ((await stat(path)).isFile()) {
    intake.files.push({ name: path, path });
    return;
  }
  const mayRead = (inner: string): Promise<boolean> =>
    allowedPath(inner).then(
      () => true,
      () => false,
    );
  intake.files.push(...(await withFolders([{ name: path, path }], mayRead)));
}

/** Reads enough of the files to say what they are; nothing is stored. */
export async function previewIntake(id: string, everyStep: boolean, at: JobContext): Promise<unknown> {
  const intake = intakeById(id);
  const job: Extract<ReadingJob, { kind: 'understand' }> = {
    kind: 'understand',
    files: intake.files.filter((f) => f.path),
    place: { lookIn: intake.onServer ? await realReadableFolders() : [], roots: await readingRoots() },
    scratch: folderOf(intake.id),
    everyStep,
  };
  const answer = await understandWithout(job, at);
  Object.assign(intake, { known: answer.known, base: answer.base, previews: answer.previews });
  intake.listed = new Map(
    answer.previews.flatMap(({ plan }) => (plan.collection ? [[plan.collection, plan]] : [])),
  );
  return { previews: answer.previews, problems: answer.problems.map(withShortName) };
}

/** Looks into files; those that end the process that reads them are left out and told of. */
async function understandWithout(
  job: Extract<ReadingJob, { kind: 'understand' }>,
  at: JobContext,
): Promise<PreviewAnswer> {
  const ended: FileProblem[] = [];
  for (let files = job.files; ; ) {
    try {
      const answer = await inReader<PreviewAnswer>({ ...job, files }, at);
      return { ...answer, problems: [...ended, ...answer.problems] };
    } catch (error) {
      const file = error instanceof ReaderEnded ? error.file : null;
      const rest = files.filter((f) => f.name !== file);
      if (file === null || rest.length === files.length || ended.length >= MOST_ENDED) throw error;
      ended.push(problemOf(file, error));
      files = rest;
      if (files.length === 0)
        return { previews: [], known: [], base: { paths: {}, ...job.place }, problems: ended };
    }
  }
}

/** Puts the files of some proposed runs together in another way; gives all proposals anew. */
export async function arrangeIntake(
  id: string,
  plans: number[],
  wish: ArrangeWish,
  at: JobContext,
): Promise<unknown> {
  const intake = intakeById(id);
  const chosen = plans.map((p) => planOf(intake, p));
  const paths = new Set(chosen.flatMap(filesOfPlan));
  const files = intake.known.filter((f) => paths.has(f.path));
  const list = chosen.length === 1 ? (chosen[0].collection ?? besideKey(chosen[0])) : null;
  const known = list === null ? undefined : intake.listed.get(list);
  // Runs that were put together keep their own steps and partitions when their times are said.
  const beside = known?.collection === null && wish.as === known.arrangement;
  const listed = wish.same ? chosen[0] : (known ?? null);
  const job: ReadingJob = {
    kind: 'arrange',
    files,
    chosen,
    listed: listed && beside ? { ...listed, reading: wish.reading ?? listed.reading } : listed,
    wish: beside ? { ...wish, as: null } : wish,
    base: intake.base,
  };
  const answer = await inReader<Pick<PreviewAnswer, 'previews' | 'problems'>>(job, at);
  // What cannot be put together so stays as it was.
  if (answer.previews.length === 0)
    throw new ReadError(
      answer.problems[0]?.reason ?? 'the files do not fit together so',
      answer.problems[0]?.where ?? chosen[0].name,
      'Choose another way to put them together.',
    );
  if (chosen.length > 1 && wish.as === 'parts')
    for (const { plan } of answer.previews) intake.listed.set(besideKey(plan), plan);
  const [first] = plans;
  const rest = intake.previews.filter((_, i) => !plans.includes(i));
  rest.splice(first, 0, ...answer.previews);
  intake.previews = rest;
  return { previews: rest, problems: answer.problems.map(withShortName) };
}

/** What a run that others were put together to is found again by. */
const besideKey = (plan: RunPlan): string => JSON.stringify(filesOfPlan(plan));

function planOf(intake: Intake, plan: number): RunPlan {
  const chosen = intake.previews[plan]?.plan;
  if (chosen) return chosen;
  throw new ReadError('this run is no longer proposed', `run ${plan + 1}`, 'Drop the files again.');
}

/**
 * What is needed to import one proposed run.
 *
 * @throws ReadError when it is no longer proposed
 */
export function importOrder(
  id: string,
  plan: number,
  choices: ImportChoices,
  swap: string | null,
): ImportOrder {
  const { onServer, base, previews } = intakeById(id);
  const chosen = planOf(intakeById(id), plan);
  return {
    intake: id,
    onServer,
    plan: chosen,
    base,
    choices,
    bytes: bytesOfImport(previews[plan], choices),
    swap,
  };
}

/** Imports a run as it was ordered. */
export const importPlan = (order: ImportOrder, at: JobContext): Promise<unknown> =>
  duringImport(async () => {
    const { plan, choices, base, bytes, swap } = order;
    await ensureSpace(bytes);
    const { run, problems } = await importInReaders(plan, choices, base, at);
    await noteSource(run, order);
    at.signal.throwIfAborted();
    const short = problems.map(withShortName);
    if (swap) return { ...(await proposeSwap(swap, run)), problems: short };
    return { ...(await keepRun(run, at)), problems: short };
  });

/** What an import will take on the disk, by what the first and the last step hold. */
function bytesOfImport({ plan, fieldKeys, fieldBytes, meshBytes }: Preview, choices: ImportChoices): number {
  const wanted = (key: string): boolean => !choices.fields || choices.fields.includes(key);
  const step = fieldBytes.reduce((n, bytes, i) => n + (wanted(fieldKeys[i]) ? bytes : 0), 0);
  return meshBytes + step * chosenSteps(plan, choices).length;
}

/** Where the run can be read again from; copies of dropped files count only while something of them is left out. */
async function noteSource(
  run: ImportResult['run'],
  { onServer, base }: Pick<ImportOrder, 'onServer' | 'base'>,
): Promise<void> {
  const source = run.source!;
  const names = [...filesOfPlan(source.plan), ...(source.plan.collection ? [source.plan.collection] : [])];
  const partial = source.leftOut.length > 0 || Boolean(source.choices.parts) || Boolean(source.choices.steps);
  if (!onServer && !partial) return;
  // Files that others read through are needed as well, so all of the drop stays known.
  source.paths = base.paths;
  source.stamps = await stampsOf(base, names);
}

/** A run of tables alone has nothing to show on the stage and gets no scene. */
async function keepRun(
  given: RunDescription,
  at: JobContext,
): Promise<{ run: string; scene: string | null }> {
  const shown = given.parts.length > 0;
  const opened = shown ? await openingOf(storable(given), at) : { run: storable(given), scene: null };
  const ids = { run: randomUUID(), scene: opened.scene ? randomUUID() : null };
  await ensureRoomToSave();
  const db = await database();
  await inStore(() =>
    db.transaction(async (tx) => {
      // A second import of the same files is told from the first.
      const name = await unusedRunName(tx, opened.run.name);
      await tx.insert(runs).values({ id: ids.run, name, description: { ...opened.run, name } });
      if (ids.scene && opened.scene)
        await tx
          .insert(scenes)
          .values({ id: ids.scene, run: ids.run, name, document: { ...opened.scene, name } });
    }),
  );
  return ids;
}

/** Forgets a drop and the uploaded copies of its files, but for those a run may be read from again. */
export async function endIntake(id: string): Promise<void> {
  const intake = intakes.get(id);
  if (!intake) throw new NotFound('This drop is no longer known.');
  intake.ended = true;
  await removeEnded(intake);
}

/** What nobody needs any more goes; work under way holds its files. */
async function removeEnded(intake: Intake): Promise<void> {
  if (!intake.ended || intake.holders > 0) return;
  intakes.delete(intake.id);
  const folder = folderOf(intake.id);
  if (!(await uploadsInUse()).has(folder)) await rm(folder, { recursive: true, force: true });
}

/** Folders of uploads that runs may be read from again, or that an import that was stopped would need. */
async function uploadsInUse(): Promise<Set<string>> {
  const db = await database();
  const rows = await db.select({ description: runs.description }).from(runs);
  const out = new Set<string>();
  for (const { description } of rows) {
    for (const path of Object.values(description.source?.paths ?? {})) {
      if (isWithin(uploadsFolder, path))
        out.add(join(uploadsFolder, path.slice(uploadsFolder.length + 1).split('/')[0]));
    }
  }
  for (const { intake } of (await jobs.stoppedPayloads('import')) as ImportOrder[]) out.add(folderOf(intake));
  return out;
}

/** Removes copies of dropped files that no run needs and that a killed server left behind. */
export async function tidyUploads(): Promise<void> {
  const inUse = await uploadsInUse();
  for (const name of await readdir(uploadsFolder).catch(() => [] as string[])) {
    const folder = join(uploadsFolder, name);
    if (!inUse.has(folder) && !intakes.has(name)) await rm(folder, { recursive: true, force: true });
  }
  // It goes when nothing is left in it.
  await rmdir(uploadsFolder).catch(() => undefined);
}
