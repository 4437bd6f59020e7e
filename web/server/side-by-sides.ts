import { randomUUID } from 'node:crypto';
import { and, desc, eq, inArray } from 'drizzle-orm';
import {
  emptySideBySide,
  MOST_PANES,
  type ScenePane,
  type SideBySide,
  scenePanes,
  sideBySideForm,
  sideBySideSchema,
} from '#core/beside/side-by-side.ts';
import { withOfferedQuantities } from '#core/fields/quantity-sources.ts';
import { wholeNumber } from '#core/model/bounded-number.ts';
import { cleanName } from '#core/model/clean-text.ts';
import type { DocumentChange } from '#core/model/document-changes.ts';
import { ReadError } from '#core/model/read-error.ts';
import type { RunDescription } from '#core/model/run.ts';
import { z } from '#core/model/schema.ts';
import type { Scene } from '#core/scene/document.ts';
import { onOtherRun } from '#core/scene/on-other-run.ts';
import { repairScene } from '#core/scene/repair-scene.ts';
import { NotFound } from './answer.ts';
import { database, runs, scenes, shots, sideBySides } from './database.ts';
import {
  deleteDocument,
  type KeptKind,
  keepNewDocument,
  listedDocuments,
  openDocument,
  saveDocument,
} from './kept-documents.ts';
import { isThere } from './removed.ts';
import { runById } from './run-changes.ts';
import { openSet } from './run-sets.ts';
import { openScene } from './scenes.ts';

const places: Record<string, string> = {
  name: 'the name',
  panes: 'a pane',
  links: 'what goes together',
  show: 'how the panes are laid out',
  rules: 'what is meant by names',
};

const kept: KeptKind<SideBySide> = {
  name: 'side by side',
  table: sideBySides,
  form: sideBySideForm,
  schema: sideBySideSchema,
  sayPlace: ({ at: [name] }: DocumentChange) => places[name] ?? name,
  inFormOfNow: (document) => {
    const empty = emptySideBySide(document.name);
    return {
      ...empty,
      ...document,
      links: { ...empty.links, ...document.links },
      show: { ...empty.show, ...document.show },
      panes: document.panes.map((pane) =>
        pane.kind === 'scene' ? { ...pane, scene: repairScene(pane.scene).scene } : pane,
      ),
    };
  },
};

/** What panes are made of. */
export const paneWish = z.discriminatedUnion('kind', [
  /** A shot, or a scene, on each of some runs; what names mean there is as a set says it. */
  z.object({
    kind: z.literal('runs'),
    runs: z.array(z.string().max(200)).min(1).max(MOST_PANES),
    shot: z.string().max(200).nullable(),
    set: z.string().max(200).nullable(),
  }),
  z.object({ kind: z.literal('scenes'), scenes: z.array(z.string().max(200)).min(1).max(MOST_PANES) }),
  /** One scene at several steps. */
  z.object({
    kind: z.literal('steps'),
    scene: z.string().max(200),
    steps: z.array(wholeNumber().min(0)).min(1).max(MOST_PANES),
  }),
]);
export type PaneWish = z.infer<typeof paneWish>;

const scenePane = (
  title: string | null,
  run: string,
  scene: Scene,
  free: ScenePane['free'] = [],
): ScenePane => ({
  id: randomUUID(),
  kind: 'scene',
  title,
  run,
  scene,
  free,
});

/** @throws NotFound, ReadError */
export async function panesOf(wish: PaneWish): Promise<ScenePane[]> {
  if (wish.kind === 'scenes')
    return Promise.all(
      wish.scenes.map(async (id) => {
        const { run, name, document } = await openScene(id);
        return scenePane(name, run, document);
      }),
    );
  if (wish.kind === 'steps') {
    const { run, document } = await openScene(wish.scene);
    const last = (await runById(run)).steps.length - 1;
    return wish.steps.map((step) =>
      scenePane(null, run, { ...document, step: Math.min(step, last), onward: 0 }, ['times']),
    );
  }
  const { owner, scene } = await sceneToCompare(wish);
  const rules = await rulesOf(wish.set);
  return Promise.all(
    wish.runs.map(async (id) => {
      const run = await runById(id);
      return scenePane(null, id, id === owner ? scene : onOtherRun(scene, withOfferedQuantities(run), rules));
    }),
  );
}

/** The shot that was chosen, or else what was last looked at of one of the runs. */
async function sceneToCompare({
  runs: chosen,
  shot,
}: Extract<PaneWish, { kind: 'runs' }>): Promise<{ owner: string; scene: Scene }> {
  const db = await database();
  if (shot !== null) {
    const [row] = await db
      .select({ run: scenes.run, document: shots.document })
      .from(shots)
      .innerJoin(scenes, eq(scenes.id, shots.scene))
      .where(and(eq(shots.id, shot), isThere(shots)));
    if (!row) throw new NotFound('There is no such shot.');
    return { owner: row.run, scene: repairScene(row.document).scene };
  }
  const [row] = await db
    .select({ run: scenes.run, document: scenes.document })
    .from(scenes)
    .where(and(inArray(scenes.run, chosen), isThere(scenes)))
    .orderBy(desc(scenes.changed))
    .limit(1);
  if (!row)
    throw new ReadError(
      'none of these runs has a scene',
      'side by side',
      'Open one of them on the stage first.',
    );
  return { owner: row.run, scene: repairScene(row.document).scene };
}

export async function makeSideBySide(name: string, wish: PaneWish): Promise<{ id: string }> {
  const empty = emptySideBySide(cleanName(name, 'Side by side'));
  const rules = wish.kind === 'runs' ? await rulesOf(wish.set) : empty.rules;
  return keepNewDocument(kept, { ...empty, rules, panes: await panesOf(wish) });
}

/** What a set says that names mean. */
const rulesOf = async (set: string | null): Promise<SideBySide['rules']> =>
  set === null ? { fields: {}, parts: {} } : (await openSet(set)).document.rules;

export interface ListedSideBySide {
  id: string;
  name: string;
  panes: number;
  /** ISO 8601. */
  changed: string;
}

export async function listedSideBySides(): Promise<ListedSideBySide[]> {
  const all = await listedDocuments(kept);
  return all.map(({ id, name, document, changed }) => ({ id, name, panes: document.panes.length, changed }));
}

/** With the runs of its panes by their ids; those that are gone are left out. */
export async function openSideBySide(
  id: string,
): Promise<{ document: SideBySide; revision: number; runs: Record<string, RunDescription> }> {
  const opened = await openDocument(kept, id);
  const asked = [...new Set(scenePanes(opened.document).map((p) => p.run))];
  const db = await database();
  const there = await db
    .select({ id: runs.id })
    .from(runs)
    .where(and(inArray(runs.id, asked), isThere(runs)));
  const each = there.map(async (run) => [run.id, await runById(run.id)] as const);
  return { ...opened, runs: Object.fromEntries(await Promise.all(each)) };
}

export const saveSideBySide = (id: string, revision: number, changes: readonly DocumentChange[]) =>
  saveDocument(kept, id, revision, changes);

export const deleteSideBySide = (id: string) => deleteDocument(kept, id);
