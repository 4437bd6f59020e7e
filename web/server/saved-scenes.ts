import { and, desc, eq } from 'drizzle-orm';
import { database, runs, scenes } from './database.ts';
import { isThere } from './removed.ts';

/** A scene as the list of scenes shows it. */
export interface SavedScene {
  id: string;
  name: string;
  run: string;
  runName: string;
  /** ISO 8601. */
  changed: string;
  /** A data address; null until its picture was drawn once. */
  thumbnail: string | null;
}

/** All scenes, the one changed last first. */
export async function savedScenes(): Promise<SavedScene[]> {
  const db = await database();
  const rows = await db
    .select({
      id: scenes.id,
      name: scenes.name,
      run: scenes.run,
      runName: runs.name,
      changed: scenes.changed,
      thumbnail: scenes.thumbnail,
    })
    .from(scenes)
    .innerJoin(runs, eq(runs.id, scenes.run))
    .where(and(isThere(scenes), isThere(runs)))
    .orderBy(desc(scenes.changed));
  return rows.map((r) => ({ ...r, changed: r.changed.toISOString() }));
}
