import { eq, inArray } from 'drizzle-orm';
import { filesOfPlan } from '#core/formats/series.ts';
import { storable } from '#core/model/clean-text.ts';
import type { FieldHeader } from '#core/model/field.ts';
import { ReadError } from '#core/model/read-error.ts';
import { guessRole } from '#core/model/roles.ts';
import type { RotatingFrame } from '#core/model/rotating-frame.ts';
import { fieldKey, type ImportChoices, type RunDescription } from '#core/model/run.ts';
import { migratedRun } from '#core/model/run-migrations.ts';
import type { PlannedStep, RunPlan } from '#core/model/run-plan.ts';
import { type StatedMeanings, withMeanings } from '#core/model/stated-meanings.ts';
import { addFields, addSteps } from '#engine/extend-run.ts';
import { chosenSteps } from '#engine/import-run.ts';
import { absoluteName } from '#engine/read-step.ts';
import { NotFound } from './answer.ts';
import { database, runs } from './database.ts';
import { type JobContext, quietContext } from './jobs/job-kind.ts';
import { readingRoots, realReadableFolders } from './paths.ts';
import { stampsOf } from './reading.ts';
import type { PreviewAnswer, ReadingJob } from './reading-jobs.ts';
import { importInReaders, inReader } from './reading-work.ts';
import { duringImport } from './store-sweep.ts';
import { ensureRoomToSave, ensureSpace, inStore } from './store-trouble.ts';

export async function runById(id: string): Promise<RunDescription> {
  const db = await database();
  const [row] = await db.select().from(runs).where(eq(runs.id, id));
  if (!row) throw new NotFound('There is no such run.');
  return migratedRun(row.description);
}

/** So many runs are read at once. */
const AT_ONCE = 100;

/** Runs by their ids, in that order and some at a time: thousands are never in memory together. Those that are gone are left out. */
export async function* runsInTurn(
  ids: readonly string[],
): AsyncGenerator<{ id: string; run: RunDescription }> {
  const db = await database();
  for (let from = 0; from < ids.length; from += AT_ONCE) {
    const some = ids.slice(from, from + AT_ONCE);
    const rows = await db
      .select({ id: runs.id, description: runs.description })
      .from(runs)
      .where(inArray(runs.id, some));
    const byId = new Map(rows.map((r) => [r.id, r.description]));
    for (const id of some) {
      const description = byId.get(id);
      if (description) yield { id, run: migratedRun(description) };
    }
  }
}

async function saveRun(id: string, description: RunDescription): Promise<void> {
  const db = await database();
  await ensureRoomToSave();
  const clean = storable(description);
  const [row] = await inStore(() =>
    db
      .update(runs)
      .set({ description: clean, name: clean.name })
      .where(eq(runs.id, id))
      .returning({ id: runs.id }),
  );
  if (!row) throw new NotFound('The run was deleted meanwhile.');
}

/** Notes what a person says of a run: names, units, meanings. */
export async function stateMeanings(id: string, stated: StatedMeanings): Promise<void> {
  await saveRun(id, withMeanings(await runById(id), stated));
}

/** How the files of a run stand now against what was read. */
export interface SourceState {
  /** Whether the files are known and there. */
  there: boolean;
  changed: string[];
  gone: string[];
  newSteps: number;
  leftOut: { key: string; name: string; location: string; components: number }[];
}

export async function sourceState(id: string): Promise<SourceState> {
  const run = await runById(id);
  const { source } = run;
  const leftOut = (source?.leftOut ?? []).map(describeHeader);
  if (!source || Object.keys(source.paths).length === 0)
    return { there: false, changed: [], gone: [], newSteps: 0, leftOut };
  const names = Object.keys(source.stamps);
  const now = await stampsOf(source, names);
  const gone = names.filter((n) => !now[n]);
  const changed = names.filter((n) => now[n] && now[n] !== source.stamps[n]);
  const later = await laterPlan(run, quietContext()).catch(() => null);
  return {
    there: gone.length < names.length,
    changed,
    gone,
    newSteps: later ? Math.max(0, later.plan.steps.length - source.plan.steps.length) : 0,
    leftOut,
  };
}

const describeHeader = (h: FieldHeader) => ({
  key: fieldKey(h.location, h.name),
  name: h.name,
  location: h.location,
  components: h.components,
});

/** The plan the source gives now, found by looking into its files and their folders again. */
async function laterPlan(run: RunDescription, at: JobContext) {
  const { plan, paths } = run.source!;
  const known = Object.entries(paths).map(([name, path]) => ({ name, path }));
  const place = { lookIn: await realReadableFolders(), roots: await readingRoots() };
  const job: ReadingJob = {
    kind: 'replan',
    files: known,
    names: filesOfPlan(plan),
    collection: plan.collection,
    place,
  };
  const answer = await inReader<Pick<PreviewAnswer, 'base'> & { plan: RunPlan | null }>(job, at);
  return answer.plan ? { plan: answer.plan, base: answer.base } : null;
}

/** Reads the steps that came after the import and puts them behind the others. */
export function readNewSteps(id: string, at: JobContext): Promise<unknown> {
  return changeRun(id, at, async (run) => {
    const later = await laterPlan(run, { ...at, progress: () => undefined });
    const old = run.source!.plan.steps.length;
    if (!later || later.plan.steps.length <= old)
      throw new ReadError('there are no new steps', run.name, 'Try again when the solver has written more.');
    const added: PlannedStep[] = later.plan.steps.slice(old);
    const { run: more } = await importInReaders(
      { ...later.plan, apart: run.source!.plan.apart, steps: added, tables: [], pictures: [] },
      { ...run.source!.choices, steps: null, fields: keptFields(run) },
      later.base,
      at,
    );
    const grown = addSteps(run, more);
    const names = filesOfPlan(later.plan);
    grown.source = {
      ...run.source!,
      plan: { ...later.plan, apart: run.source!.plan.apart },
      paths: later.base.paths,
      stamps: await stampsOf(later.base, [
        ...names,
        ...(later.plan.collection ? [later.plan.collection] : []),
      ]),
    };
    return grown;
  });
}

const keptFields = (run: RunDescription): string[] | null =>
  run.source!.leftOut.length > 0 ? run.fields.map((f) => f.key) : null;

/** Adds fields that were left out, reading just those. */
export function readFields(id: string, keys: string[], at: JobContext): Promise<unknown> {
  return changeRun(id, at, async (run) => {
    const choices: ImportChoices = { ...run.source!.choices, fields: keys };
    const grown = addFields(run, await readAgain(run, choices, at));
    grown.source = {
      ...run.source!,
      leftOut: run.source!.leftOut.filter((h) => !keys.includes(fieldKey(h.location, h.name))),
    };
    return grown;
  });
}

/** States that the velocity of a part is relative to a rotating frame; the absolute one becomes a field. */
export function stateFrame(id: string, part: string, frame: RotatingFrame, at: JobContext): Promise<unknown> {
  return changeRun(id, at, async (run) => {
    const velocities = run.fields.filter((f) => f.components === 3 && /velocity/.test(guessRole(f.name, 3)));
    if (velocities.length === 0)
      throw new ReadError('the run has no velocity', part, 'Import it with its velocity first.');
    const frames = { ...run.source!.choices.frames, [part]: frame };
    const wanted = velocities.map((f) => fieldKey(f.location, absoluteName(f.name)));
    const choices: ImportChoices = { ...run.source!.choices, frames, fields: wanted, parts: null };
    const more = await readAgain(run, choices, at);
    // A frame stated anew takes the place of the one before.
    const bare: RunDescription = { ...run, fields: run.fields.filter((f) => !wanted.includes(f.key)) };
    const parts = bare.parts.map((p) => ({
      ...p,
      steps: p.steps.map(
        (s) =>
          s && {
            ...s,
            fields: Object.fromEntries(Object.entries(s.fields).filter(([k]) => !wanted.includes(k))),
          },
      ),
    }));
    const grown = addFields({ ...bare, parts }, more);
    grown.warnings = grown.warnings.filter((w) => !/state the axis and speed/.test(w) || !w.includes(part));
    grown.source = { ...run.source!, choices: { ...run.source!.choices, frames } };
    return grown;
  });
}

/** The same steps of the same files, with other choices of fields. */
async function readAgain(
  run: RunDescription,
  choices: ImportChoices,
  at: JobContext,
): Promise<RunDescription> {
  const source = run.source!;
  const steps = chosenSteps(source.plan, source.choices);
  const plan: RunPlan = { ...source.plan, steps, tables: [], pictures: [] };
  const base = {
    paths: source.paths,
    lookIn: await realReadableFolders(),
    roots: await readingRoots(),
  };
  const { run: more } = await importInReaders(plan, { ...choices, steps: null }, base, at);
  if (more.steps.length !== run.steps.length)
    throw new ReadError(
      `the files give ${more.steps.length} steps now, not ${run.steps.length}`,
      run.name,
      'Swap the files of the run instead, or import it again.',
    );
  return more;
}

/** Changes a run by what its files hold; all of it or nothing. */
const changeRun = (
  id: string,
  at: JobContext,
  change: (run: RunDescription) => Promise<RunDescription>,
): Promise<unknown> =>
  duringImport(async () => {
    const run = await runById(id);
    if (!run.source || Object.keys(run.source.paths).length === 0)
      throw new ReadError(
        'the files of this run are no longer known',
        run.name,
        'Swap its files: bring in the same or newer files for it.',
      );
    await ensureSpace(0);
    const grown = await change(run);
    at.signal.throwIfAborted();
    await saveRun(id, grown);
    return { run: id, steps: grown.steps.length, fields: grown.fields.length };
  });
