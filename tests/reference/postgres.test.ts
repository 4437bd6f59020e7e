import { existsSync } from 'node:fs';
import { join } from 'node:path';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Scene } from '#core/scene/document.ts';
import { followJob } from '#engine/server-requests.ts';
import { Served } from '../attack/served.ts';
import { PostgresServer } from '../postgres-server.ts';
import { buildVtu, hexBlock } from '../vtu-builder.ts';

/** The program over Debian's own PostgreSQL server instead of the embedded database. */
const postgres = new PostgresServer();
let served: Served;
let client: pg.Client;
beforeAll(async () => {
  await postgres.start();
  served = await new Served({ DATABASE_URL: postgres.address }).start();
  client = new pg.Client(postgres.address);
  await client.connect();
}, 120_000);
afterAll(async () => {
  await client?.end();
  await served?.remove();
  await postgres.stop();
}, 240_000);

const block = (): Uint8Array => {
  const data = Array.from({ length: 27 }, (_, i) => i);
  return new Uint8Array(
    buildVtu(
      hexBlock(2),
      [{ name: 'temperature', location: 'point', components: 1, type: 'Float64', data }],
      { format: 'ascii', header: 4, big: false, zlib: false },
    ),
  );
};

describe('with a server of databases', () => {
  let made: { run: string; scene: string };
  it('a run is imported, and lies there and not in the data folder', async () => {
    made = (await served.importFiles({ 'oven.vtu': block() }))!;
    const { rows } = await client.query('select id, name from runs');
    expect(rows).toEqual([{ id: made.run, name: expect.any(String) }]);
    expect(existsSync(join(served.data, 'database'))).toBe(false);
    expect(existsSync(join(served.data, 'arrays'))).toBe(true);
  });
  it('work is kept there with its result, and a range is computed once', async () => {
    const { rows } = await client.query(
      `select data->>'kind' as kind, state from pgboss.job where name = 'work' order by created_on`,
    );
    expect(rows).toEqual([
      { kind: 'preview', state: 'completed' },
      { kind: 'import', state: 'completed' },
    ]);
    const question = { kind: 'range', key: 'mesh:size' };
    const asked = await served.send<{ job: string }>('POST', `/api/runs/${made.run}/range`, question);
    const range = await followJob<{ overall: { components: { max: number }[] } }>(
      asked.answer.job,
      undefined,
      undefined,
      served.address,
    );
    // A block of one metre in two cells a side: an eighth of a cubic metre each.
    expect(range.overall.components[0].max).toBeCloseTo(0.125, 6);
    const again = await served.send<{ range: unknown }>('POST', `/api/runs/${made.run}/range`, question);
    expect(again.answer.range).toEqual(range);
  });
  it('scenes are edited by several at the same time, with their states and shots', async () => {
    const at = `/api/scenes/${made.scene}`;
    const { answer } = await served.send<{ revision: number; document: Scene }>('GET', at);
    const save = (changes: object[]) =>
      served.send<{ revision: number }>('PUT', at, { revision: answer.revision, changes });
    const [name, step] = await Promise.all([
      save([{ at: ['name'], was: answer.document.name, now: 'Crust' }]),
      save([{ at: ['light', 'shadow'], was: answer.document.light.shadow, now: false }]),
    ]);
    expect([name.status, step.status]).toEqual([200, 200]);
    const now = await served.send<{ document: Scene }>('GET', at);
    expect(now.answer.document).toMatchObject({ name: 'Crust', light: { shadow: false } });
    const { rows } = await client.query('select revision from scene_states where scene = $1', [made.scene]);
    expect(rows.length).toBeGreaterThan(0);
  });
  it('all is there after the program was killed and started again', async () => {
    await served.kill();
    await served.start();
    const { answer } = await served.send<{ document: Scene }>('GET', `/api/scenes/${made.scene}`);
    expect(answer.document.name).toBe('Crust');
    expect((await served.send('DELETE', `/api/runs/${made.run}`)).status).toBe(200);
    const { rows } = await client.query('select count(*)::int as n from scenes');
    expect(rows).toEqual([{ n: 0 }]);
  });
});
