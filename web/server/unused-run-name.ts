import { unusedName } from '#core/model/unused-name.ts';
import { type Database, runs, scenes } from './database.ts';
import { isThere } from './removed.ts';

/** A name that no other run or scene on the lists has: the wanted one, or that with the next number behind it. */
export async function unusedRunName(db: Pick<Database, 'select'>, wanted: string): Promise<string> {
  const taken = new Set<string>();
  for (const table of [runs, scenes])
    for (const { name } of await db.select({ name: table.name }).from(table).where(isThere(table)))
      taken.add(name.toLowerCase());
  return unusedName(wanted, (name) => taken.has(name.toLowerCase()));
}
