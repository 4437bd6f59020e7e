import { desc } from 'drizzle-orm';
import { database, runs } from './database.ts';
import { isThere } from './removed.ts';

/** A run as others may name it, with the histories it holds. */
export interface KnownRun {
  id: string;
  name: string;
  histories: { table: string; columns: { name: string; unit: string | null }[] }[];
}

/** Of runs of one name the latest is meant; see `runNamed`. */
export async function knownRuns(): Promise<KnownRun[]> {
  const db = await database();
  const rows = await db
    .select({ id: runs.id, name: runs.name, description: runs.description })
    .from(runs)
    .where(isThere(runs))
    .orderBy(desc(runs.created));
  return rows.map(({ id, name, description }) => ({
    id,
    name,
    histories: (description.tables ?? []).map((table) => ({
      table: table.name,
      columns: table.columns
        .filter((_, i) => i !== table.time)
        .map(({ name: column, unit }) => ({ name: column, unit })),
    })),
  }));
}
