import { randomUUID } from 'node:crypto';
import { and, asc, eq, sql } from 'drizzle-orm';
import { storable } from '#core/model/clean-text.ts';
import { ReadError } from '#core/model/read-error.ts';
import type { z } from '#core/model/schema.ts';
import { type Scene, sceneSchema } from '#core/scene/document.ts';
import { repairScene } from '#core/scene/repair-scene.ts';
import { type SceneChange, sayPlace, sceneForm } from '#core/scene/scene-changes.ts';
import type { ShotKind } from '#core/scene/shot-groups.ts';
import { NotFound } from './answer.ts';
import { type Database, database, sceneStates, scenes, shots } from './database.ts';
import { type KeptState, keepState, keptState, keptStates } from './document-states.ts';
import { isThere } from './removed.ts';
import {
  changing,
  type Saved,
  type SavedKind,
  type Transaction,
  withSavedChanges,
} from './saved-documents.ts';

async function rowOf(tx: Pick<Database, 'select'>, id: string) {
  const [row] = await tx
    .select()
    .from(scenes)
    .where(and(eq(scenes.id, id), isThere(scenes)));
  if (!row) throw new NotFound('There is no such scene.');
  return row;
}

/** The same for a change that depends on it: whoever else wants to change it waits until this one is through. */
async function rowToChange(tx: Transaction, id: string) {
  const [row] = await tx.select().from(scenes).where(eq(scenes.id, id)).for('update');
  if (!row) throw new NotFound('There is no such scene.');
  return row;
}

export async function write(tx: Transaction, id: string, document: Scene, revision: number): Promise<void> {
  await tx
    .update(scenes)
    .set({ document, name: document.name, revision, changed: new Date() })
    .where(eq(scenes.id, id));
}

const scenesAsSaved: SavedKind<Scene> = {
  name: 'scene',
  form: sceneForm,
  schema: sceneSchema as z.ZodType<Scene>,
  sayPlace,
};

/**
 * Saves the changes somebody made to a scene. Where it was changed meanwhile, both changes are kept as long as they
 * touch different things.
 *
 * @param revision what the changes were made to
 * @throws Conflict with the newer document where both changed the same thing; nothing is saved then
 */
export function saveChanges(id: string, revision: number, changes: SceneChange[]): Promise<Saved<Scene>> {
  return changing(async (tx) => {
    const row = await rowToChange(tx, id);
    const before = { document: repairScene(row.document).scene, revision: row.revision };
    const document = withSavedChanges(scenesAsSaved, before, changes);
    await keepState(tx, sceneStates, row);
    await write(tx, id, document, row.revision + 1);
    return { revision: row.revision + 1, ...(row.revision === revision ? {} : { document }) };
  });
}

/** Stores the small picture of a scene for the list of scenes; its content stays as it is. */
export async function saveThumbnail(id: string, thumbnail: string): Promise<void> {
  await changing(async (tx) => {
    await rowOf(tx, id);
    await tx.update(scenes).set({ thumbnail }).where(eq(scenes.id, id));
  });
}

/** A shot as a desk gets it; one that cannot be opened has no document and says why. */
export type OpenedShot = Omit<typeof shots.$inferSelect, 'document'> & {
  document: Scene | null;
  problem: string | null;
};

/** The small picture of a scene as a data address; null where none was drawn yet. */
export const thumbnailOf = async (id: string): Promise<string | null> =>
  (await rowOf(await database(), id)).thumbnail;

/**
 * A scene with its shots, ready for a desk. A document that does not fit is repaired; what it was before is kept
 * among the earlier states.
 *
 * @throws NotFound; Error in words when nothing can be made of the document
 */
export async function openScene(id: string) {
  const db = await database();
  let row = await rowOf(db, id);
  const { scene, repairs } = repairScene(row.document);
  if (repairs.length > 0) {
    await changing(async (tx) => {
      await keepState(tx, sceneStates, row, { always: true, note: 'as it was before it was repaired' });
      await write(tx, id, scene, row.revision + 1);
    });
    row = await rowOf(db, id);
  }
  const kept = await db
    .select()
    .from(shots)
    .where(and(eq(shots.scene, id), isThere(shots)))
    .orderBy(asc(shots.position));
  return { ...row, document: scene, repairs, shots: kept.map(openShot) };
}

function openShot(shot: typeof shots.$inferSelect): OpenedShot {
  try {
    return { ...shot, document: repairScene(shot.document).scene, problem: null };
  } catch (error) {
    return { ...shot, document: null, problem: (error as Error).message };
  }
}

/** Earlier states of a scene, the youngest first. */
export async function earlierStates(id: string): Promise<KeptState[]> {
  await rowOf(await database(), id);
  return keptStates(sceneStates, id);
}

/** An earlier state as a scene that opens. */
export async function earlierState(
  id: string,
  revision: number,
): Promise<{ document: Scene; repairs: string[] }> {
  const { scene, repairs } = repairScene(await keptState(sceneStates, 'scene', id, revision));
  return { document: scene, repairs };
}

/** Keeps a shot behind the others of its scene; its place is given in the same step, so that no two share one. */
export function keepShot(
  scene: string,
  shot: {
    name: string;
    document: Scene;
    thumbnail: string;
    kind?: ShotKind;
    filmTime?: number | null;
  },
) {
  return changing(async (tx) => {
    await rowToChange(tx, scene);
    const [row] = await tx
      .insert(shots)
      .values({
        ...storable(shot),
        id: randomUUID(),
        scene,
        caption: null,
        position: sql`(select coalesce(max(position), -1) + 1 from shots where scene = ${scene})`,
      })
      .returning();
    return openShot(row);
  });
}

/** Changes what is given of a shot. */
export async function changeShot(
  id: string,
  change: Partial<{
    name: string;
    caption: string | null;
    document: Scene;
    thumbnail: string;
    kind: ShotKind;
    filmTime: number | null;
    folder: string | null;
    tags: string[];
    notes: string;
  }>,
): Promise<OpenedShot> {
  if (Object.keys(change).length === 0)
    throw new EmptyChange('the change is empty', 'request body', 'Say what is to be changed.');
  return changing(async (tx) => {
    const [row] = await tx.update(shots).set(storable(change)).where(eq(shots.id, id)).returning();
    if (!row) throw new NotFound('There is no such shot.');
    return openShot(row);
  });
}

/**
 * Puts the shots of a scene in an order; those that are not named stand behind, as they stood.
 *
 * @param ids of some of its shots
 */
export function orderShots(scene: string, ids: readonly string[]): Promise<string[]> {
  return changing(async (tx) => {
    await rowToChange(tx, scene);
    const all = await tx
      .select({ id: shots.id })
      .from(shots)
      .where(eq(shots.scene, scene))
      .orderBy(asc(shots.position));
    const known = new Set(all.map((s) => s.id));
    const first = [...new Set(ids)].filter((id) => known.has(id));
    const order = [...first, ...all.map((s) => s.id).filter((id) => !first.includes(id))];
    // No two have one place, not even on the way.
    for (const [i, id] of order.entries())
      await tx
        .update(shots)
        .set({ position: -1 - i })
        .where(eq(shots.id, id));
    for (const [i, id] of order.entries())
      await tx.update(shots).set({ position: i }).where(eq(shots.id, id));
    return order;
  });
}

/** A request that would do nothing. */
export class EmptyChange extends ReadError {
  readonly status = 400;
}
