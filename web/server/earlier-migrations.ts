import { readMigrationFiles } from 'drizzle-orm/migrator';
import type { ExecuteSql } from './database.ts';

/**
 * Databases of version 0.3 and before counted their migrations in a table of their own, by the same numbers. They are
 * told to the migrator, which would otherwise make the tables that are there.
 */
export async function noteEarlierMigrations(execute: ExecuteSql, migrationsFolder: string): Promise<void> {
  const { rows } = await execute(`select to_regclass('public.migrations')::text as found`);
  if (!(rows[0] as { found: string | null }).found) return;
  const { rows: done } = await execute('select number from migrations order by number');
  await execute(
    `create schema if not exists drizzle;
     create table if not exists drizzle."__drizzle_migrations" (id serial primary key, hash text not null, created_at bigint);`,
  );
  const files = readMigrationFiles({ migrationsFolder });
  for (const { hash, folderMillis } of files.slice(0, done.length))
    await execute('insert into drizzle."__drizzle_migrations" (hash, created_at) values ($1, $2)', [
      hash,
      folderMillis,
    ]);
  await execute('drop table migrations');
}
