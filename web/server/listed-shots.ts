import { and, asc, desc, eq, inArray, sql } from 'drizzle-orm';
import { OPENING_ASPECT } from '#core/scene/default-scene.ts';
import type { ShotKind } from '#core/scene/shot-groups.ts';
import { NotFound } from './answer.ts';
import { database, runs, scenes, shots } from './database.ts';
import { isThere } from './removed.ts';

/** A shot as lists of shots of all scenes show it. */
export interface ListedShot {
  id: string;
  name: string;
  kind: ShotKind;
  scene: string;
  sceneName: string;
  run: string;
  runName: string;
  /** Of its picture: its width by its height. */
  aspect: number;
}

/**
 * All shots, those of the scene that was changed last first, in the order of each scene.
 *
 * @param kinds charts, and times of a film, are no views to be made of other runs
 */
export async function listedShots(kinds: readonly ShotKind[] = ['picture']): Promise<ListedShot[]> {
  const db = await database();
  const rows = await db
    .select({
      id: shots.id,
      name: shots.name,
      kind: shots.kind,
      scene: scenes.id,
      sceneName: scenes.name,
      run: runs.id,
      runName: runs.name,
      aspect: sql<string | null>`${shots.document}->'picture'->>'aspect'`,
    })
    .from(shots)
    .innerJoin(scenes, eq(scenes.id, shots.scene))
    .innerJoin(runs, eq(runs.id, scenes.run))
    .where(and(isThere(shots), isThere(scenes), isThere(runs), inArray(shots.kind, [...kinds])))
    .orderBy(desc(scenes.changed), asc(shots.position));
  return rows.map((row) => ({ ...row, aspect: Number(row.aspect) || OPENING_ASPECT }));
}

/** The small picture of a shot as a data address. */
export async function thumbnailOfShot(id: string): Promise<string> {
  const db = await database();
  const [row] = await db
    .select({ thumbnail: shots.thumbnail })
    .from(shots)
    .where(and(eq(shots.id, id), isThere(shots)));
  if (!row?.thumbnail) throw new NotFound('There is no such shot, or nobody has looked at it yet.');
  return row.thumbnail;
}
