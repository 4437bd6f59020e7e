import { existsSync, mkdirSync } from 'node:fs';
import { cp, rename, rm } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { eq } from 'drizzle-orm';
import { drizzle as overServer } from 'drizzle-orm/node-postgres';
import { migrate as migrateServer } from 'drizzle-orm/node-postgres/migrator';
import type { PgDatabase, PgQueryResultHKT } from 'drizzle-orm/pg-core';
import { drizzle as embedded } from 'drizzle-orm/pglite';
import { migrate as migrateEmbedded } from 'drizzle-orm/pglite/migrator';
import pg from 'pg';
import type { RunDescription } from '#core/model/run.ts';
import { migratedRun } from '#core/model/run-migrations.ts';
import { noteEarlierMigrations } from './earlier-migrations.ts';
import { databaseFolder } from './paths.ts';
import { runs } from './tables.ts';

export * from './tables.ts';

export type Database = PgDatabase<PgQueryResultHKT>;

/** Runs a statement, or several where there are no values. */
export type ExecuteSql = (text: string, values?: unknown[]) => Promise<{ rows: unknown[] }>;

interface Opened {
  db: Database;
  execute: ExecuteSql;
}

const home = (): string => process.env.DRESSER_HOME ?? process.cwd();

const migrationsFolder = (): string => join(home(), 'web', 'server', 'migrations');

/** A new data folder begins with a copy of the empty database that was built; where there is none it is made, which takes seconds. */
async function beginFolder(): Promise<void> {
  if (existsSync(databaseFolder)) return;
  const empty = join(home(), 'dist', 'empty-database');
  mkdirSync(dirname(databaseFolder), { recursive: true });
  if (!existsSync(join(empty, 'PG_VERSION'))) return;
  // It is there whole or not at all, also when the server is killed meanwhile.
  const half = `${databaseFolder}.half`;
  await rm(half, { recursive: true, force: true });
  await cp(empty, half, { recursive: true });
  await rename(half, databaseFolder);
}

/** The database in the data folder, within this process. */
async function openEmbedded(): Promise<Opened> {
  await beginFolder();
  const client = await PGlite.create(databaseFolder);
  const execute: ExecuteSql = async (text, values) => {
    if (values && values.length > 0) return client.query(text, values);
    const results = await client.exec(text);
    return { rows: results.flatMap((r) => r.rows) };
  };
  const db = embedded(client);
  await noteEarlierMigrations(execute, migrationsFolder());
  await migrateEmbedded(db, { migrationsFolder: migrationsFolder() });
  return { db: db as unknown as Database, execute };
}

/** A server of databases, by its address. */
async function openServer(connectionString: string): Promise<Opened> {
  const pool = new pg.Pool({ connectionString });
  // A connection that breaks while nobody uses it is replaced by the next that is needed.
  pool.on('error', (error) => console.error(error.message));
  const execute: ExecuteSql = async (text, values) => {
    // Several statements at once give several results.
    const given = (await pool.query(text, values)) as unknown as pg.QueryResult | pg.QueryResult[];
    return { rows: [given].flat().flatMap((r) => r.rows) };
  };
  const db = overServer(pool);
  await migrateServer(db, { migrationsFolder: migrationsFolder() });
  return { db: db as unknown as Database, execute };
}

/** A run of a newer version stays as it is; whoever opens it is told. */
function migratedOrSame(description: RunDescription): RunDescription {
  try {
    return migratedRun(description);
  } catch {
    return description;
  }
}

async function open(): Promise<Opened> {
  const { DATABASE_URL: url } = process.env;
  const opened = url ? await openServer(url) : await openEmbedded();
  const { db } = opened;
  for (const { id, description } of await db
    .select({ id: runs.id, description: runs.description })
    .from(runs)) {
    const upgraded = migratedOrSame(description);
    if (upgraded !== description) await db.update(runs).set({ description: upgraded }).where(eq(runs.id, id));
  }
  return opened;
}

// The development server loads modules again and again; the database must be opened once only.
const global = globalThis as { dresserDatabase?: Promise<Opened> };
const opened = (): Promise<Opened> => (global.dresserDatabase ??= open());

/** The embedded database, or with `DATABASE_URL` the server of databases it names. */
export const database = async (): Promise<Database> => (await opened()).db;

/** For libraries that bring statements of their own. */
export const executeSql: ExecuteSql = async (text, values) => (await opened()).execute(text, values);
