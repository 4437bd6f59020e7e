import { randomUUID } from 'node:crypto';
import { and, desc, eq, inArray, isNotNull } from 'drizzle-orm';
import { cleanName, storable } from '#core/model/clean-text.ts';
import type { DocumentChange } from '#core/model/document-changes.ts';
import { ReadError } from '#core/model/read-error.ts';
import type { RunDescription } from '#core/model/run.ts';
import { emptyRunSet, type RunOfSet, type RunSet, runSetForm, runSetSchema } from '#core/sets/run-set.ts';
import { NotFound } from './answer.ts';
import { database, runSets, runs, scenes } from './database.ts';
import { isThere } from './removed.ts';
import {
  changing,
  type Saved,
  type SavedKind,
  type Transaction,
  withSavedChanges,
} from './saved-documents.ts';

/** A run as the table of a set has it, with what is known of it beside its values. */
export interface ListedRun extends RunOfSet {
  /** Of its scene that was changed last; null where it has none. */
  scene: string | null;
  /** Whether that scene has a small picture. */
  pictured: boolean;
  steps: number;
}

/** A set as the list of sets shows it. */
export interface ListedSet {
  id: string;
  name: string;
  runs: number;
  /** ISO 8601. */
  changed: string;
}

const placesOfSet: Record<string, string> = {
  name: 'the name of the set',
  runs: 'which runs belong to it',
  pattern: 'how names are read',
  typed: 'what is typed of a run',
  columns: 'what a column is',
  view: 'the rows that are shown',
  marked: 'the marks',
  matrix: 'how the runs are laid out',
  response: 'the chart of the runs',
  sheet: 'the contact sheet',
  batch: 'the pictures to make',
  rules: 'what is meant by names',
};

const setsAsSaved: SavedKind<RunSet> = {
  name: 'set',
  form: runSetForm,
  schema: runSetSchema,
  sayPlace: ({ at: [name] }: DocumentChange) => placesOfSet[name] ?? name,
};

/** All runs there are, the one brought in last first. */
export async function listedRuns(): Promise<ListedRun[]> {
  const db = await database();
  const [all, made] = await Promise.all([
    db
      .select({ id: runs.id, name: runs.name, description: runs.description })
      .from(runs)
      .where(isThere(runs))
      .orderBy(desc(runs.created)),
    db
      .select({ id: scenes.id, run: scenes.run, thumbnail: isNotNull(scenes.thumbnail) })
      .from(scenes)
      .where(isThere(scenes))
      .orderBy(desc(scenes.changed)),
  ]);
  const firstOf = new Map<string, (typeof made)[number]>();
  for (const scene of made) if (!firstOf.has(scene.run)) firstOf.set(scene.run, scene);
  return all.map(({ id, name, description }) => ({
    id,
    name,
    parameters: parametersOf(description),
    scene: firstOf.get(id)?.id ?? null,
    pictured: firstOf.get(id)?.thumbnail === true,
    steps: description.steps?.length ?? 0,
  }));
}

const parametersOf = (run: RunDescription): RunOfSet['parameters'] => run.parameters ?? {};

/** All sets, the one changed last first. */
export async function listedSets(): Promise<ListedSet[]> {
  const db = await database();
  const rows = await db.select().from(runSets).where(isThere(runSets)).orderBy(desc(runSets.changed));
  return rows.map(({ id, name, document, changed }) => ({
    id,
    name,
    runs: document.runs.length,
    changed: changed.toISOString(),
  }));
}

/**
 * Makes a set of some runs, in the order they are given.
 *
 * @throws ReadError where none of them is there
 */
export async function makeSet(name: string, ids: readonly string[]): Promise<{ id: string }> {
  return changing(async (tx) => {
    const known = await tx
      .select({ id: runs.id })
      .from(runs)
      .where(and(inArray(runs.id, [...ids]), isThere(runs)));
    const there = new Set(known.map((r) => r.id));
    const chosen = [...new Set(ids)].filter((id) => there.has(id));
    if (chosen.length === 0)
      throw new ReadError(
        'none of these runs is there',
        'the set',
        'Choose runs from the list, or bring some in.',
      );
    const id = randomUUID();
    const document: RunSet = storable({ ...emptyRunSet(cleanName(name, 'Runs')), runs: chosen });
    await tx.insert(runSets).values({ id, name: document.name, document });
    return { id };
  });
}

/** @throws NotFound */
export async function openSet(id: string): Promise<{ document: RunSet; revision: number }> {
  const { document, revision } = await rowOf(await database(), id);
  return { document: inFormOfNow(document), revision };
}

/** A set that was kept before something was added to sets. */
const inFormOfNow = (document: RunSet): RunSet => ({ ...emptyRunSet(document.name), ...document });

async function rowOf(tx: Pick<Transaction, 'select'>, id: string) {
  const [row] = await tx
    .select()
    .from(runSets)
    .where(and(eq(runSets.id, id), isThere(runSets)));
  if (!row) throw new NotFound('There is no such set of runs.');
  return row;
}

/** Saves what was changed of a set; see `withSavedChanges`. */
export function saveSet(
  id: string,
  revision: number,
  changes: readonly DocumentChange[],
): Promise<Saved<RunSet>> {
  return changing(async (tx) => {
    const [row] = await tx.select().from(runSets).where(eq(runSets.id, id)).for('update');
    if (!row) throw new NotFound('There is no such set of runs.');
    const before = { document: inFormOfNow(row.document), revision: row.revision };
    const document = withSavedChanges(setsAsSaved, before, changes);
    await tx
      .update(runSets)
      .set({ document, name: document.name, revision: row.revision + 1, changed: new Date() })
      .where(eq(runSets.id, id));
    return { revision: row.revision + 1, ...(row.revision === revision ? {} : { document }) };
  });
}

/** Deletes a set for good; its runs stay. */
export async function deleteSet(id: string): Promise<void> {
  await changing(async (tx) => {
    const gone = await tx.delete(runSets).where(eq(runSets.id, id)).returning({ id: runSets.id });
    if (gone.length === 0) throw new NotFound('There is no such set of runs.');
  });
}
