import { randomUUID } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import { mkdir, readdir, rm, stat } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { RunPlan } from '#core/formats/series.ts';
import { type FileProblem, problemOf, ReadError } from '#core/model/read-error.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import type { ImportChoices, ImportResult } from '#engine/import-run.ts';
import { ArrayStore } from './array-store.ts';
import { database, runs, scenes } from './database.ts';
import type { PreviewAnswer, ReadingJob } from './import-worker.ts';
import { startJob } from './jobs.ts';
import { allowedPath, arraysFolder, isWithin, uploadsFolder } from './paths.ts';
import type { NamedFile } from './reading.ts';
import { readingPool } from './reading-pool.ts';

/** A drop of files on its way in: where they lie, and what they were understood to be. */
interface Intake {
  id: string;
  files: NamedFile[];
  /** Whether the files lie in a folder of the server, where a collection finds the files it lists. */
  onServer: boolean;
  plans: RunPlan[];
  paths: Record<string, string>;
}

const global = globalThis as { dresserIntakes?: Map<string, Intake> };
const intakes = (global.dresserIntakes ??= new Map<string, Intake>());

/** Arrays being written are not yet referred to by a run and must not be swept away. */
let importsUnderWay = 0;

export const LARGEST_UPLOAD = 2 ** 31 - 1;

export function beginIntake(): string {
  const id = randomUUID();
  intakes.set(id, { id, files: [], onServer: false, plans: [], paths: {} });
  return id;
}

function intakeById(id: string): Intake {
  const intake = intakes.get(id);
  if (!intake) throw new ReadError('this drop is no longer known', 'intake', 'Drop the files again.');
  return intake;
}

/** Keeps one uploaded file; `name` may hold folders, and never leads out of the folder of the drop. */
export async function receiveFile(id: string, name: string, body: ReadableStream<Uint8Array>): Promise<void> {
  const intake = intakeById(id);
  const folder = join(uploadsFolder, intake.id);
  const path = join(
    folder,
    `${intake.files.length}-${basename(name)
      .replace(/[^\w.-]/g, '_')
      .slice(-120)}`,
  );
  if (!isWithin(folder, path))
    throw new ReadError('the name of the file is not usable', name, 'Rename the file.');
  await mkdir(folder, { recursive: true });
  let received = 0;
  const limited = async function* (source: AsyncIterable<Uint8Array>): AsyncGenerator<Uint8Array> {
    for await (const chunk of source) {
      received += chunk.length;
      if (received > LARGEST_UPLOAD) {
        throw new ReadError(
          'the file is larger than 2 GiB',
          name,
          'Open it from a folder of the server in pieces.',
        );
      }
      yield chunk;
    }
  };
  try {
    await pipeline(Readable.fromWeb(body as never), limited, createWriteStream(path));
  } catch (error) {
    await rm(path, { force: true });
    throw error;
  }
  intake.files.push({ name, path });
}

/** Takes a file, or every file of a folder, that lies where the server may read. */
export async function addServerPath(id: string, asked: string): Promise<void> {
  const intake = intakeById(id);
  const path = await allowedPath(asked);
  intake.onServer = true;
  if ((await stat(path)).isFile()) {
    intake.files.push({ name: path, path });
    return;
  }
  for (const name of (await readdir(path)).sort()) {
    const file = await allowedPath(join(path, name)).catch(() => null);
    if (file && (await stat(file)).isFile()) intake.files.push({ name: join(path, name), path: file });
  }
}

/** Starts reading enough of the files to say what they are; nothing is stored. */
export function startPreview(id: string, everyStep = false): string {
  const intake = intakeById(id);
  return startJob(async (progress, signal) => {
    const job: ReadingJob = { kind: 'preview', files: intake.files, lookBeside: intake.onServer, everyStep };
    const answer = await readingPool().run<PreviewAnswer>(job, { progress, signal });
    intake.plans = answer.previews.map((p) => p.plan);
    intake.paths = answer.paths;
    if (intake.onServer) await checkListed(answer, intake);
    const { previews, problems } = answer;
    return { previews, problems: problems.map(withShortName) };
  }, intakeProblem);
}

/** A collection in an allowed folder must not lead to files outside of it. */
async function checkListed(answer: PreviewAnswer, intake: Intake): Promise<void> {
  for (const [name, path] of Object.entries(answer.paths)) {
    const allowed = await allowedPath(path).catch(() => null);
    if (allowed) continue;
    answer.problems.push(
      problemOf(
        name,
        new ReadError('the file lies outside the folders the server may read', name, 'Move it there.'),
      ),
    );
    answer.previews = answer.previews.filter(
      (p) => !p.plan.steps.some((s) => s.files.some((f) => f.path === name)),
    );
  }
  intake.plans = answer.previews.map((p) => p.plan);
}

const withShortName = (p: FileProblem): FileProblem => ({ ...p, file: basename(p.file) });

function intakeProblem(error: unknown): FileProblem {
  const code = (error as NodeJS.ErrnoException)?.code;
  if (code === 'ENOSPC') {
    return {
      file: 'data folder',
      reason: 'the disk is full',
      where: 'writing arrays',
      remedy: 'Free some space and import again; nothing was stored.',
    };
  }
  return problemOf('import', error);
}

/**
 * Starts the import of one proposed run. The run and its first scene become visible together, when all is read.
 * The job's result is `{ run, scene, problems }`.
 */
export function startImport(id: string, plan: number, choices: ImportChoices): string {
  const intake = intakeById(id);
  const chosen = intake.plans[plan];
  if (!chosen)
    throw new ReadError('this run is no longer proposed', `run ${plan + 1}`, 'Drop the files again.');
  return startJob(async (progress, signal) => {
    importsUnderWay++;
    let whole = false;
    try {
      const job: ReadingJob = {
        kind: 'import',
        plan: chosen,
        paths: intake.paths,
        choices,
        arrays: arraysFolder,
      };
      const { run, problems } = await readingPool().run<ImportResult>(job, { progress, signal });
      const ids = { run: randomUUID(), scene: randomUUID() };
      const db = await database();
      signal.throwIfAborted();
      await db.transaction(async (tx) => {
        await tx.insert(runs).values({ id: ids.run, name: run.name, description: run });
        await tx
          .insert(scenes)
          .values({ id: ids.scene, run: ids.run, name: run.name, document: defaultScene(run) });
      });
      whole = true;
      return { ...ids, problems: problems.map(withShortName) };
    } finally {
      importsUnderWay--;
      if (!whole) await sweepStore();
    }
  }, intakeProblem);
}

/** Forgets a drop and the uploaded copies of its files. */
export async function endIntake(id: string): Promise<void> {
  intakes.delete(id);
  if (/^[\w-]+$/.test(id)) await rm(join(uploadsFolder, id), { recursive: true, force: true });
}

/** Clears what interrupted imports left behind. */
export async function sweepStore(): Promise<void> {
  if (importsUnderWay > 0) return;
  const db = await database();
  const rows = await db.select({ description: runs.description }).from(runs);
  const inUse = new Set<string>();
  for (const { description } of rows) {
    for (const part of description.parts) {
      for (const m of part.meshes)
        for (const ref of [m.points, m.types, m.offsets, m.connectivity]) inUse.add(ref.hash);
      for (const step of part.steps) for (const ref of Object.values(step?.fields ?? {})) inUse.add(ref.hash);
    }
  }
  await new ArrayStore(arraysFolder).sweep(inUse);
}

/** What must be put in order before the first request: leftovers of a server that was killed. */
export async function tidyAtStart(): Promise<void> {
  await rm(uploadsFolder, { recursive: true, force: true });
  await sweepStore();
}
