import { randomUUID } from 'node:crypto';
import { and, desc, eq, isNotNull, sql } from 'drizzle-orm';
import { storable } from '#core/model/clean-text.ts';
import type { RunDescription } from '#core/model/run.ts';
import { migratedRun } from '#core/model/run-migrations.ts';
import { sceneMismatches } from '#core/scene/apply-scene.ts';
import { type Lacking, lackingIn } from '#core/scene/likely-names.ts';
import { inverseOf, type Renames, renameInScene } from '#core/scene/rename-in-scene.ts';
import { repairScene } from '#core/scene/repair-scene.ts';
import { NotFound } from './answer.ts';
import { database, runs, sceneStates, scenes, shots } from './database.ts';
import { keepState } from './document-states.ts';
import { runById } from './run-changes.ts';
import { changing, type Transaction } from './saved-documents.ts';
import { write } from './scenes.ts';
import { ensureRoomToSave, inStore } from './store-trouble.ts';

/** New content for a run, read but not in its place yet. */
export interface SwapProposal {
  run: string;
  /** The first scene of the run. */
  scene: string | null;
  /** The content, as a run that nobody sees; it goes by itself after a day. */
  content: string;
  /** What the scenes and shots of the run ask for that it lacks. */
  lacking: Lacking[];
  /** All that will not match, in words. */
  mismatches: { scene: string; text: string }[];
}

/** Keeps what was read for a run, and says what of its scenes and shots will not match. */
export async function proposeSwap(id: string, read: RunDescription): Promise<SwapProposal> {
  const old = await runById(id);
  const content = randomUUID();
  const description = storable(read);
  const db = await database();
  await ensureRoomToSave();
  await inStore(() =>
    db.insert(runs).values({ id: content, name: description.name, description, removed: new Date() }),
  );
  const made = await scenesOf(db, id);
  const lacking = lackingIn(
    made.map((m) => m.scene),
    old,
    description,
  );
  const mismatches = made.flatMap(({ name, scene }) => {
    // What was missing before is no news.
    const before = new Set(sceneMismatches(scene, old));
    return sceneMismatches(scene, description)
      .filter((text) => !before.has(text))
      .map((text) => ({ scene: name, text }));
  });
  return { run: id, scene: made.find((m) => m.row)?.row?.id ?? null, content, lacking, mismatches };
}

/** The scenes of a run and their shots, as far as something can be made of them. */
async function scenesOf(db: Pick<Transaction, 'select'>, run: string) {
  const own = await db.select().from(scenes).where(eq(scenes.run, run));
  const kept = await db
    .select({ shot: shots, sceneName: scenes.name })
    .from(shots)
    .innerJoin(scenes, eq(scenes.id, shots.scene))
    .where(eq(scenes.run, run));
  const all = [
    ...own.map((row) => ({ name: row.name, document: row.document as unknown, row, shot: null })),
    ...kept.map(({ shot, sceneName }) => ({
      name: `${sceneName}, ${shot.name}`,
      document: shot.document as unknown,
      row: null,
      shot,
    })),
  ];
  return all.flatMap(({ document, ...rest }) => {
    try {
      return [{ ...rest, scene: repairScene(document).scene }];
    } catch {
      return [];
    }
  });
}

/**
 * Puts content in the place of that of a run; what the run was is kept in its stead, so that the same again undoes it.
 *
 * @param renames what its scenes and shots shall ask for instead; on the way back it is known
 */
export function swapRun(id: string, content: string, renames: Renames): Promise<void> {
  return changing(async (tx) => {
    const [own] = await tx.select().from(runs).where(eq(runs.id, id)).for('update');
    const [other] = await tx
      .select()
      .from(runs)
      .where(and(eq(runs.id, content), isNotNull(runs.removed)))
      .for('update');
    if (!own) throw new NotFound('There is no such run.');
    if (!other) throw new NotFound('What was read is no longer kept: bring the files in again.');
    const back = other.former?.of === id;
    const names = back ? inverseOf(other.former!.renames) : renames;
    await tx
      .update(runs)
      .set({ description: { ...migratedRun(other.description), name: own.name } })
      .where(eq(runs.id, id));
    await tx
      .update(runs)
      .set({
        name: own.name,
        description: own.description,
        removed: new Date(),
        former: { of: id, renames: names },
      })
      .where(eq(runs.id, content));
    for (const { row, shot, scene } of await scenesOf(tx, id)) {
      const renamed = storable(renameInScene(scene, names));
      if (shot) await tx.update(shots).set({ document: renamed }).where(eq(shots.id, shot.id));
      if (!row) continue;
      await keepState(tx, sceneStates, row, {
        always: true,
        note: 'as it was before the files were swapped',
      });
      await write(tx, row.id, renamed, row.revision + 1);
    }
  });
}

/** What a run was before its files were swapped last, while it is kept. */
export async function formerOf(id: string): Promise<{ content: string; name: string; since: string } | null> {
  const db = await database();
  const [row] = await db
    .select({ content: runs.id, name: runs.name, since: runs.removed })
    .from(runs)
    .where(and(sql`${runs.former}->>'of' = ${id}`, isNotNull(runs.removed)))
    .orderBy(desc(runs.removed))
    .limit(1);
  return row?.since ? { ...row, since: row.since.toISOString() } : null;
}
