import { and, desc, inArray, isNotNull } from 'drizzle-orm';
import { cleanName } from '#core/model/clean-text.ts';
import type { DocumentChange } from '#core/model/document-changes.ts';
import { ReadError } from '#core/model/read-error.ts';
import type { RunDescription } from '#core/model/run.ts';
import { emptyRunSet, type RunOfSet, type RunSet, runSetForm, runSetSchema } from '#core/sets/run-set.ts';
import { shownInFormOfNow } from '#core/sets/set-view.ts';
import { database, runSets, runs, scenes } from './database.ts';
import {
  deleteDocument,
  type KeptKind,
  keepNewDocument,
  listedDocuments,
  openDocument,
  saveDocument,
} from './kept-documents.ts';
import { isThere } from './removed.ts';

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
  measures: 'what is measured of the runs',
  view: 'the rows that are shown',
  marked: 'the marks',
  matrix: 'how the runs are laid out',
  response: 'the chart of the runs',
  sheet: 'the contact sheet',
  shots: 'the shots',
  batch: 'the pictures to make',
  watch: 'the folder that is watched',
  rules: 'what is meant by names',
};

const keptSets: KeptKind<RunSet> = {
  name: 'set',
  table: runSets,
  form: runSetForm,
  schema: runSetSchema,
  sayPlace: ({ at: [name] }: DocumentChange) => placesOfSet[name] ?? name,
  // One that was kept before something was added to sets.
  inFormOfNow: (document) => {
    const empty = emptyRunSet(document.name);
    return {
      ...empty,
      ...document,
      ...shownInFormOfNow(document),
      shots: (document.shots ?? []).map((shot) => ({ ...shot, shown: shownInFormOfNow(shot.shown) })),
      batch: { ...empty.batch, ...document.batch },
    };
  },
};

/**
 * All runs there are, the one brought in last first.
 *
 * @param measures sentences; what was measured by them goes along, as far as it is known
 */
export async function listedRuns(measures: readonly string[] = []): Promise<ListedRun[]> {
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
    ...(measures.length > 0 && { numbers: numbersOf(description, measures) }),
    scene: firstOf.get(id)?.id ?? null,
    pictured: firstOf.get(id)?.thumbnail === true,
    steps: description.steps?.length ?? 0,
  }));
}

const numbersOf = ({ numbers = {} }: RunDescription, measures: readonly string[]): RunOfSet['numbers'] =>
  Object.fromEntries(measures.flatMap((s) => (Object.hasOwn(numbers, s) ? [[s, numbers[s]]] : [])));

const parametersOf = (run: RunDescription): RunOfSet['parameters'] => run.parameters ?? {};

/** All sets, the one changed last first. */
export async function listedSets(): Promise<ListedSet[]> {
  const all = await listedDocuments(keptSets);
  return all.map(({ id, name, document, changed }) => ({ id, name, runs: document.runs.length, changed }));
}

/**
 * Makes a set of some runs, in the order they are given.
 *
 * @throws ReadError where none of them is there
 */
export async function makeSet(name: string, ids: readonly string[]): Promise<{ id: string }> {
  const db = await database();
  const known = await db
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
  return keepSet({ ...emptyRunSet(cleanName(name, 'Runs')), runs: chosen });
}

export const keepSet = (set: RunSet): Promise<{ id: string }> => keepNewDocument(keptSets, set);

/** @throws NotFound */
export const openSet = (id: string) => openDocument(keptSets, id);

/** Saves what was changed of a set; see `withSavedChanges`. */
export const saveSet = (id: string, revision: number, changes: readonly DocumentChange[]) =>
  saveDocument(keptSets, id, revision, changes);

/** Deletes a set for good; its runs stay. */
export const deleteSet = (id: string) => deleteDocument(keptSets, id);
