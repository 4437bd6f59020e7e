import { mkdirSync } from 'node:fs';
import { PGlite } from '@electric-sql/pglite';
import { eq } from 'drizzle-orm';
import { integer, jsonb, pgTable, primaryKey, text, timestamp } from 'drizzle-orm/pg-core';
import { drizzle } from 'drizzle-orm/pglite';
import type { RunDescription } from '#core/model/run.ts';
import { migratedRun } from '#core/model/run-migrations.ts';
import type { Scene } from '#core/scene/document.ts';
import { databaseFolder } from './paths.ts';

export const runs = pgTable('runs', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  description: jsonb('description').$type<RunDescription>().notNull(),
  created: timestamp('created', { withTimezone: true }).notNull().defaultNow(),
});

export const scenes = pgTable('scenes', {
  id: text('id').primaryKey(),
  run: text('run')
    .notNull()
    .references(() => runs.id, { onDelete: 'cascade' }),
  name: text('name').notNull(),
  document: jsonb('document').$type<Scene>().notNull(),
  /** PNG as a data address. */
  thumbnail: text('thumbnail'),
  /** Grows by one with each change of the document. */
  revision: integer('revision').notNull().default(1),
  changed: timestamp('changed', { withTimezone: true }).notNull().defaultNow(),
});

/** What a scene was before: the youngest twenty states, by the revision they had. */
export const sceneStates = pgTable(
  'scene_states',
  {
    scene: text('scene')
      .notNull()
      .references(() => scenes.id, { onDelete: 'cascade' }),
    revision: integer('revision').notNull(),
    document: jsonb('document').$type<Scene>().notNull(),
    /** When it was saved, and when another one took its place. */
    saved: timestamp('saved', { withTimezone: true }).notNull(),
    replaced: timestamp('replaced', { withTimezone: true }).notNull().defaultNow(),
    note: text('note'),
  },
  (t) => [primaryKey({ columns: [t.scene, t.revision] })],
);

export const shots = pgTable('shots', {
  id: text('id').primaryKey(),
  scene: text('scene')
    .notNull()
    .references(() => scenes.id, { onDelete: 'cascade' }),
  name: text('name').notNull(),
  caption: text('caption'),
  position: integer('position').notNull(),
  document: jsonb('document').$type<Scene>().notNull(),
  thumbnail: text('thumbnail').notNull(),
});

/** Run in order, each once; never change one that was released, add another. */
const migrations = [
  `create table runs (id text primary key, name text not null, description jsonb not null, created timestamptz not null default now());
   create table scenes (id text primary key, run text not null references runs(id) on delete cascade, name text not null, document jsonb not null, thumbnail text, changed timestamptz not null default now());
   create table shots (id text primary key, scene text not null references scenes(id) on delete cascade, name text not null, caption text, position integer not null, document jsonb not null, thumbnail text not null);`,
  `alter table scenes add column revision integer not null default 1;
   create table scene_states (scene text not null references scenes(id) on delete cascade, revision integer not null, document jsonb not null, saved timestamptz not null, replaced timestamptz not null default now(), note text, primary key (scene, revision));
   update shots set position = ranked.place from (select id, row_number() over (partition by scene order by position, id) - 1 as place from shots) ranked where ranked.id = shots.id;
   create unique index shots_place on shots (scene, position);`,
];

/** A run of a newer version stays as it is; whoever opens it is told. */
function migratedOrSame(description: RunDescription): RunDescription {
  try {
    return migratedRun(description);
  } catch {
    return description;
  }
}

async function open() {
  mkdirSync(databaseFolder, { recursive: true });
  const client = await PGlite.create(databaseFolder);
  await client.exec('create table if not exists migrations (number integer primary key)');
  const done = await client.query<{ number: number }>('select number from migrations');
  for (let i = done.rows.length; i < migrations.length; i++) {
    await client.transaction(async (tx) => {
      await tx.exec(migrations[i]);
      await tx.query('insert into migrations values ($1)', [i]);
    });
  }
  const db = drizzle(client);
  for (const { id, description } of await db
    .select({ id: runs.id, description: runs.description })
    .from(runs)) {
    const upgraded = migratedOrSame(description);
    if (upgraded !== description) await db.update(runs).set({ description: upgraded }).where(eq(runs.id, id));
  }
  return db;
}

// The development server loads modules again and again; the database must be opened once only.
const global = globalThis as { dresserDatabase?: ReturnType<typeof open> };

export function database(): ReturnType<typeof open> {
  global.dresserDatabase ??= open();
  return global.dresserDatabase;
}
