import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { afterEach, describe, expect, it, vi } from 'vitest';

/** What versions 0.1 to 0.3 ran, word for word, each once and in this order. */
const earlier = [
  `create table runs (id text primary key, name text not null, description jsonb not null, created timestamptz not null default now());
   create table scenes (id text primary key, run text not null references runs(id) on delete cascade, name text not null, document jsonb not null, thumbnail text, changed timestamptz not null default now());
   create table shots (id text primary key, scene text not null references scenes(id) on delete cascade, name text not null, caption text, position integer not null, document jsonb not null, thumbnail text not null);`,
  `alter table scenes add column revision integer not null default 1;
   create table scene_states (scene text not null references scenes(id) on delete cascade, revision integer not null, document jsonb not null, saved timestamptz not null, replaced timestamptz not null default now(), note text, primary key (scene, revision));
   update shots set position = ranked.place from (select id, row_number() over (partition by scene order by position, id) - 1 as place from shots) ranked where ranked.id = shots.id;
   create unique index shots_place on shots (scene, position);`,
];

/** Those of this version: the first two are the earlier ones in other words. */
const migrationsNow = readdirSync('web/server/migrations').filter((name) => name.endsWith('.sql')).length;

const folders: string[] = [];
afterEach(() => {
  for (const folder of folders.splice(0)) rmSync(folder, { recursive: true, force: true });
});

/** A data folder with a database as an earlier version left it, with a scene and two shots at the same place. */
async function writtenBy(migrations: number): Promise<string> {
  const folder = mkdtempSync(join(tmpdir(), 'dresser-earlier-'));
  folders.push(folder);
  const client = await PGlite.create(join(folder, 'database'));
  await client.exec('create table migrations (number integer primary key)');
  for (let n = 0; n < migrations; n++) {
    await client.exec(earlier[n]);
    await client.query('insert into migrations values ($1)', [n]);
  }
  if (migrations > 0) {
    await client.exec(
      `insert into runs (id, name, description) values ('r', 'Oven', '{}');
       insert into scenes (id, run, name, document) values ('s', 'r', 'Oven', '{}');`,
    );
    const places = migrations === 1 ? [4, 4] : [0, 1];
    for (const [i, place] of places.entries())
      await client.query(
        `insert into shots (id, scene, name, position, document, thumbnail) values ($1, 's', 'x', $2, '{}', '')`,
        [`shot-${i}`, place],
      );
  }
  await client.close();
  return folder;
}

/** Opens the database of a data folder as this version does. */
async function opened(folder: string) {
  vi.resetModules();
  vi.stubEnv('DRESSER_DATA', folder);
  delete (globalThis as { dresserDatabase?: unknown }).dresserDatabase;
  const { executeSql } = await import('./database.ts');
  return executeSql;
}

describe('databases of earlier versions', () => {
  for (const migrations of [0, 1, 2]) {
    it(`that had run ${migrations} of their migrations have all tables, and what was in them`, async () => {
      const folder = await writtenBy(migrations);
      const execute = await opened(folder);
      const { rows: tables } = await execute(
        `select table_name as name from information_schema.tables where table_schema = 'public' order by 1`,
      );
      expect(tables.map((t) => (t as { name: string }).name)).toEqual([
        'choices',
        'report_states',
        'reports',
        'run_sets',
        'runs',
        'scene_states',
        'scenes',
        'shots',
        'side_by_sides',
        'styles',
      ]);
      const { rows: scenes } = await execute('select id, revision from scenes');
      expect(scenes).toEqual(migrations > 0 ? [{ id: 's', revision: 1 }] : []);
      const { rows: shots } = await execute('select id, position from shots order by position');
      expect(shots).toEqual(
        migrations > 0
          ? [
              { id: 'shot-0', position: 0 },
              { id: 'shot-1', position: 1 },
            ]
          : [],
      );
      const { rows: noted } = await execute('select count(*)::int as n from drizzle."__drizzle_migrations"');
      expect(noted).toEqual([{ n: migrationsNow }]);
      // The same place of two shots is refused from now on.
      if (migrations > 0)
        await expect(execute(`update shots set position = 0 where id = 'shot-1'`)).rejects.toThrow(
          /shots_place/,
        );
    });
  }
});
