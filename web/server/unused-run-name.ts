import { and, eq } from 'drizzle-orm';
import { unusedName } from '#core/model/unused-name.ts';
import { type Database, runs, scenes } from './database.ts';
import { isThere } from './removed.ts';

/** A name that no other run or scene on the lists has: the wanted one, or that with the next number behind it. */
export async function unusedRunName(db: Pick<Database, 'select'>, wanted: string): Promise<string> {
  const ofRuns = await db.select({ name: runs.name }).from(runs).where(isThere(runs));
  // With its run a scene is off the list as well.
  const ofScenes = await db
    .select({ name: scenes.name })
    .from(scenes)
    .innerJoin(runs, eq(runs.id, scenes.run))
    .where(and(isThere(scenes), isThere(runs)));
  const taken = new Set([...ofRuns, ...ofScenes].map(({ name }) => name.toLowerCase()));
  return unusedName(wanted, (name) => taken.has(name.toLowerCase()));
}
