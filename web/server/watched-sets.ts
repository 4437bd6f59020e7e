import { mkdir, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { setTimeout as pause } from 'node:timers/promises';
import { differences } from '#core/model/document-changes.ts';
import { type FileProblem, ReadError } from '#core/model/read-error.ts';
import { type RunSet, runSetForm } from '#core/sets/run-set.ts';
import { type Arrival, Arrivals, type TakenArrivals } from '#core/watch/arrivals.ts';
import { NotFound } from './answer.ts';
import { checkPlan, planWish } from './batch-order.ts';
import { addServerPath, beginIntake, endIntake, importOrder, importPlan, previewIntake } from './intake.ts';
import { intakeProblem } from './intake-problem.ts';
import { batchJob } from './jobs/batch.ts';
import { quietContext } from './jobs/job-kind.ts';
import { jobs } from './jobs/registry.ts';
import { allowedPath, dataFolder, NotAllowed, outFolder } from './paths.ts';
import type { Preview } from './reading-jobs.ts';
import { HALF } from './render-pictures.ts';
import { listedSets, openSet, saveSet } from './run-sets.ts';
import { seenFiles } from './seen-files.ts';
import { inStore } from './store-trouble.ts';
import { type SwapProposal, swapRun } from './swap-run.ts';

/** What came into a watched folder once, and what was made of it. */
export interface ToldArrival {
  /** When, ISO 8601. */
  at: string;
  /** Name in the folder. */
  name: string;
  /** Ids of the runs that came of it. */
  runs: string[];
  /** Whether they took the place of what had come before. */
  again: boolean;
  problems: FileProblem[];
  /** What scenes of a run ask for that its new files lack, in words. */
  mismatches: string[];
}

/** How the watching of a set stands. */
export interface WatchState {
  watching: boolean;
  /** Why the folder cannot be looked at, or the pictures not begun. */
  problem: FileProblem | null;
  /** The latest first. */
  told: ToldArrival[];
  /** Of the set. */
  revision: number;
}

type WatchWish = NonNullable<RunSet['watch']>;

/** What is kept of a watch, so that a server that begins anew takes nothing in twice. */
interface KeptWatch {
  folder: string;
  taken: TakenArrivals;
  told: ToldArrival[];
}

/** How often a folder is looked at, in milliseconds. */
const LOOK_EVERY = 2000;
/** So much of what came in is remembered. */
const MOST_TOLD = 100;

const kept = (set: string): string => join(dataFolder, 'watched', `${set}.json`);

const global = globalThis as { dresserWatches?: Map<string, SetWatch> };
const watches = (global.dresserWatches ??= new Map<string, SetWatch>());

/** Goes on with what was watched before the server was stopped. */
export async function keepWatching(): Promise<void> {
  for (const { id } of await listedSets()) await watchAsSaid(id);
}

/** Begins to watch what a set says, where it says so; a watch ends by itself once its set says nothing of it any more. */
export async function watchAsSaid(id: string): Promise<void> {
  if (watches.has(id)) return;
  const { document } = await openSet(id);
  if (!document.watch?.on || watches.has(id)) return;
  const watch = new SetWatch(id);
  watches.set(id, watch);
  void watch.goOn().finally(() => watches.delete(id));
}

/**
 * How the watching of a set stands; it is begun where it should be and is not.
 *
 * @throws NotFound
 */
export async function watchStateOf(id: string): Promise<WatchState> {
  await watchAsSaid(id);
  const { revision } = await openSet(id);
  const watch = watches.get(id);
  const told = watch?.told ?? (await readKept(id))?.told ?? [];
  return { watching: watch !== undefined, problem: watch?.problem ?? null, told, revision };
}

async function readKept(id: string): Promise<KeptWatch | null> {
  const text = await readFile(kept(id), 'utf8').catch(() => null);
  if (text === null) return null;
  try {
    return JSON.parse(text) as KeptWatch;
  } catch {
    // Cut off in a crash: runs that are there are told from new ones by hand.
    return null;
  }
}

class SetWatch {
  problem: FileProblem | null = null;
  told: ToldArrival[] = [];
  /** What is looked at: another wish begins anew. */
  private looking: { wish: string; arrivals: Arrivals } | null = null;
  /** Something came in whose pictures are not begun. */
  private owesPictures = false;

  constructor(private readonly set: string) {}

  /** Looks again and again, until the set wishes it no more or is gone. */
  async goOn(): Promise<void> {
    for (;;) {
      const document = await this.openedSet();
      if (!document?.watch?.on) return;
      try {
        await this.look(document.watch);
        await this.makePictures();
        this.problem = null;
      } catch (error) {
        this.problem = problemOfWatch(error);
      }
      await pause(Math.min(LOOK_EVERY, 500 * document.watch.rest + 200), undefined, { ref: false });
    }
  }

  private openedSet(): Promise<RunSet | null> {
    return openSet(this.set).then(
      ({ document }) => document,
      (error) => {
        if (error instanceof NotFound) return null;
        throw error;
      },
    );
  }

  private async look(wish: WatchWish): Promise<void> {
    const folder = await allowedPath(wish.folder);
    if (!(await stat(folder)).isDirectory())
      throw new ReadError(
        `"${wish.folder}" is no folder`,
        'the folder to watch',
        'Name the folder that results come into.',
      );
    const arrivals = await this.arrivalsIn(wish);
    const found = arrivals.look(await seenFiles(folder, outFolder), Date.now());
    for (const arrival of found) {
      const told = await this.takeIn(folder, arrival);
      // Told at once: whatever goes wrong from here on, it is not brought in twice.
      arrivals.take(arrival, told.runs.length > 0 ? told.runs : arrival.before);
      this.told = [told, ...this.told].slice(0, MOST_TOLD);
      this.owesPictures ||= told.runs.length > 0;
      await this.keep(wish.folder, arrivals);
      await this.addToSet(told.runs);
    }
  }

  /** What was taken in of another folder tells nothing of this one. */
  private async arrivalsIn({ folder, rest, mark }: WatchWish): Promise<Arrivals> {
    const wish = JSON.stringify([folder, rest, mark]);
    if (this.looking?.wish === wish) return this.looking.arrivals;
    const before = await readKept(this.set);
    const isSame = before?.folder === folder;
    this.told = before?.told ?? [];
    const arrivals = new Arrivals({ rest: 1000 * rest, mark }, isSame ? before.taken : {});
    this.looking = { wish, arrivals };
    return arrivals;
  }

  /** Brings in the runs of some files; those that came of them before get the new content, and keep their scenes. */
  private async takeIn(folder: string, { name, paths, before }: Arrival): Promise<ToldArrival> {
    const told: ToldArrival = {
      at: new Date().toISOString(),
      name,
      runs: [],
      again: before.length > 0,
      problems: [],
      mismatches: [],
    };
    const intake = beginIntake();
    try {
      for (const path of paths) await addServerPath(intake, join(folder, path));
      const seen = (await previewIntake(intake, false, quietContext())) as {
        previews: Preview[];
        problems: FileProblem[];
      };
      told.problems.push(...seen.problems);
      for (const i of seen.previews.keys()) await this.importOne(intake, i, before[i] ?? null, told);
      if (seen.previews.length === 0 && seen.problems.length === 0)
        told.problems.push({
          file: name,
          reason: 'it holds no run',
          where: name,
          remedy: 'Write result files there.',
        });
    } catch (error) {
      told.problems.push({ ...intakeProblem(error), file: name });
    } finally {
      await endIntake(intake);
    }
    return told;
  }

  private async importOne(
    intake: string,
    plan: number,
    old: string | null,
    told: ToldArrival,
  ): Promise<void> {
    try {
      const made = await importPlan(importOrder(intake, plan, {}, old), quietContext());
      const { problems } = made as { problems: FileProblem[] };
      told.problems.push(...problems);
      if (old === null) {
        told.runs.push((made as { run: string }).run);
        return;
      }
      const { content, mismatches } = made as SwapProposal;
      await swapRun(old, content, { fields: {}, parts: {} });
      told.runs.push(old);
      told.mismatches.push(...mismatches.map(({ scene, text }) => `${scene}: ${text}`));
    } catch (error) {
      told.problems.push({ ...intakeProblem(error), file: told.name });
    }
  }

  private async addToSet(runs: readonly string[]): Promise<void> {
    const { document, revision } = await openSet(this.set);
    const all = [...new Set([...document.runs, ...runs])];
    if (all.length === document.runs.length) return;
    await saveSet(this.set, revision, differences(runSetForm, document, { ...document, runs: all }));
  }

  /** The files that the set wishes of all its runs; what is current is left alone. One that is under way is waited for. */
  private async makePictures(): Promise<void> {
    if (!this.owesPictures) return;
    const { document } = await openSet(this.set);
    if (document.batch.shots.length === 0) {
      this.owesPictures = false;
      return;
    }
    const works = await jobs.list(batchJob, { set: this.set });
    if (works.some(({ payload, state }) => !payload.sheet && state.state === 'running')) return;
    this.owesPictures = false;
    const planned = await planWish({
      set: this.set,
      settings: document.batch,
      runs: document.runs,
      folder: document.name,
      again: false,
    });
    checkPlan(planned);
    await jobs.start(batchJob, planned.order);
  }

  private async keep(folder: string, arrivals: Arrivals): Promise<void> {
    const state: KeptWatch = { folder, taken: arrivals.known(), told: this.told };
    await inStore(async () => {
      await mkdir(join(dataFolder, 'watched'), { recursive: true });
      await writeFile(`${kept(this.set)}${HALF}`, JSON.stringify(state));
      await rename(`${kept(this.set)}${HALF}`, kept(this.set));
    });
  }
}

function problemOfWatch(error: unknown): FileProblem {
  if (!(error instanceof NotAllowed)) return intakeProblem(error);
  return { file: '', reason: error.message, where: 'the folder to watch', remedy: 'Name another folder.' };
}

/** Forgets what was taken in for a set that is gone for good. */
export const forgetWatch = (set: string): Promise<void> => rm(kept(set), { force: true });
