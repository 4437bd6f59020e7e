import {
  type AnyPgColumn,
  doublePrecision,
  index,
  integer,
  json,
  jsonb,
  pgTable,
  primaryKey,
  text,
  timestamp,
  uniqueIndex,
} from 'drizzle-orm/pg-core';
import type { SideBySide } from '#core/beside/side-by-side.ts';
import type { RunDescription } from '#core/model/run.ts';
import type { Report } from '#core/report/report.ts';
import type { Scene } from '#core/scene/document.ts';
import type { Renames } from '#core/scene/rename-in-scene.ts';
import type { ShotKind } from '#core/scene/shot-groups.ts';
import type { RunSet } from '#core/sets/run-set.ts';

/*
 * What the database keeps. After a change here `npm run tables` writes the next migration; never change one that was
 * released.
 */

/** When it was taken away; until it is emptied out it can be brought back. */
const removed = () => timestamp('removed', { withTimezone: true });

export const runs = pgTable('runs', {
  id: text('id').primaryKey(),
  name: text('name').notNull(),
  /** Kept as it was written: the order of its parameters tells what was chosen and what came of it. */
  description: json('description').$type<RunDescription>().notNull(),
  created: timestamp('created', { withTimezone: true }).notNull().defaultNow(),
  removed: removed(),
  /** What a run was before its files were swapped: which run, and the names its scenes had to change for it. */
  former: jsonb('former').$type<{ of: string; renames: Renames }>(),
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
  removed: removed(),
});

/**
 * What documents were before: of each the youngest states, by the revision they had.
 *
 * @param column that names the document
 */
const stateTable = <T>(name: string, column: string, owner: () => AnyPgColumn) =>
  pgTable(
    name,
    {
      owner: text(column).notNull().references(owner, { onDelete: 'cascade' }),
      revision: integer('revision').notNull(),
      document: jsonb('document').$type<T>().notNull(),
      /** When it was saved, and when another one took its place. */
      saved: timestamp('saved', { withTimezone: true }).notNull(),
      replaced: timestamp('replaced', { withTimezone: true }).notNull().defaultNow(),
      note: text('note'),
    },
    (t) => [primaryKey({ columns: [t.owner, t.revision] })],
  );

export type StateTable<T> = ReturnType<typeof stateTable<T>>;

export const sceneStates = stateTable<Scene>('scene_states', 'scene', () => scenes.id);

export const shots = pgTable(
  'shots',
  {
    id: text('id').primaryKey(),
    scene: text('scene')
      .notNull()
      .references(() => scenes.id, { onDelete: 'cascade' }),
    name: text('name').notNull(),
    caption: text('caption'),
    position: integer('position').notNull(),
    document: jsonb('document').$type<Scene>().notNull(),
    thumbnail: text('thumbnail').notNull(),
    /** What of the scene it shows. */
    kind: text('kind').$type<ShotKind>().notNull().default('picture'),
    /** Of its film, in seconds, where it shows that. */
    filmTime: doublePrecision('film_time'),
    /** Under which heading it was put by hand. */
    folder: text('folder'),
    tags: jsonb('tags').$type<string[]>().notNull().default([]),
    /** For whoever presents it. */
    notes: text('notes').notNull().default(''),
    removed: removed(),
  },
  (t) => [uniqueIndex('shots_place').on(t.scene, t.position)],
);

/** Documents of a kind, each of which is saved as a whole. */
const documentTable = <T>(name: string) =>
  pgTable(name, {
    id: text('id').primaryKey(),
    name: text('name').notNull(),
    document: jsonb('document').$type<T>().notNull(),
    /** Grows by one with each change of the document. */
    revision: integer('revision').notNull().default(1),
    changed: timestamp('changed', { withTimezone: true }).notNull().defaultNow(),
    removed: removed(),
  });

export type DocumentTable<T> = ReturnType<typeof documentTable<T>>;

/** Runs that are looked at together. */
export const runSets = documentTable<RunSet>('run_sets');

/** Scenes that are looked at side by side. */
export const sideBySides = documentTable<SideBySide>('side_by_sides');

/** Documents that tell of scenes and runs. */
export const reports = documentTable<Report>('reports');
export const reportStates = stateTable<Report>('report_states', 'report', () => reports.id);

/** What is kept for other scenes and reports than the one it was made in. */
export type StyleKind = 'look' | 'finish' | 'template' | 'brand';

/** Looks, finishes, templates and brands of one's own, by their names. */
export const styles = pgTable(
  'styles',
  {
    id: text('id').primaryKey(),
    kind: text('kind').$type<StyleKind>().notNull(),
    name: text('name').notNull(),
    document: jsonb('document').notNull(),
    created: timestamp('created', { withTimezone: true }).notNull().defaultNow(),
    removed: removed(),
  },
  (t) => [index('styles_kind').on(t.kind, t.name)],
);

/** What is chosen for everything that will be made, by what it is about. */
export const choices = pgTable('choices', {
  about: text('about').primaryKey(),
  value: jsonb('value').notNull(),
});
