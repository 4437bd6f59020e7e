import { and, eq, isNotNull, isNull, lt } from 'drizzle-orm';
import type { AnyPgColumn } from 'drizzle-orm/pg-core';
import { NotFound } from './answer.ts';
import { database, reports, runSets, runs, scenes, shots, sideBySides, styles } from './database.ts';
import { tidyUploads } from './intake.ts';
import { sweepStore } from './store-sweep.ts';
import { ensureRoomToSave, inStore } from './store-trouble.ts';

/** How long what was taken away can be brought back, in milliseconds. */
const KEPT_FOR = 24 * 3600 * 1000;

const tables = {
  run: runs,
  scene: scenes,
  shot: shots,
  style: styles,
  set: runSets,
  beside: sideBySides,
  report: reports,
};

export type Removable = keyof typeof tables;

export const removables = Object.keys(tables) as [Removable, ...Removable[]];

/**
 * Takes something away, or brings it back as it was. What was taken away long ago goes for good by the way, and whenever
 * the server starts.
 *
 * @throws NotFound when there is no such thing, or it is gone for good
 */
export async function setRemoved(kind: Removable, id: string, removed: boolean): Promise<void> {
  const table = tables[kind];
  const db = await database();
  await ensureRoomToSave();
  const found = await inStore(() =>
    db
      .update(table)
      .set({ removed: removed ? new Date() : null })
      .where(eq(table.id, id))
      .returning({ id: table.id }),
  );
  if (found.length === 0) throw new NotFound(`There is no such ${kind} any more.`);
  await emptyOut();
}

/** Deletes for good what was taken away long ago, and the arrays that only it used. */
export async function emptyOut(): Promise<void> {
  const before = new Date(Date.now() - KEPT_FOR);
  const db = await database();
  for (const table of [shots, styles, scenes, sideBySides, runSets, reports, runs]) {
    const gone = await db
      .delete(table)
      .where(and(isNotNull(table.removed), lt(table.removed, before)))
      .returning({ id: table.id });
    if (table !== runs || gone.length === 0) continue;
    await sweepStore();
    await tidyUploads();
  }
}

/** Condition for what is still there, of any of the tables. */
export const isThere = (table: { removed: AnyPgColumn }) => isNull(table.removed);
