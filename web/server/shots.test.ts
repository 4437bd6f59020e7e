import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { defaultScene } from '#core/scene/default-scene.ts';
import type { Scene } from '#core/scene/document.ts';
import { ovenRun } from '../../tests/sample-run.ts';

const data = mkdtempSync(join(tmpdir(), 'dresser-shots-'));
process.env.DRESSER_DATA = data;
const { database, runs, scenes } = await import('./database.ts');
const { changeShot, keepShot, openScene, orderShots } = await import('./scenes.ts');
const { listedShots } = await import('./listed-shots.ts');
const { setRemoved } = await import('./removed.ts');
afterAll(() => rmSync(data, { recursive: true, force: true }));

const thumbnail = 'data:image/png;base64,AAAA';
let document: Scene;
const kept: Record<string, string> = {};
const names = async (): Promise<string[]> => (await openScene('scene')).shots.map((s) => s.name);

beforeAll(async () => {
  const description = await ovenRun();
  const db = await database();
  await db.insert(runs).values({ id: 'run', name: 'oven', description });
  document = defaultScene(description);
  await db.insert(scenes).values({ id: 'scene', run: 'run', name: 'Bake', document });
  for (const name of ['wide', 'near', 'inside'])
    kept[name] = (await keepShot('scene', { name, document, thumbnail })).id;
});

describe('shots of a scene', () => {
  it('are pictures without heading, tags or notes at first', async () => {
    const [first] = (await openScene('scene')).shots;
    expect(first).toMatchObject({ kind: 'picture', folder: null, tags: [], notes: '', filmTime: null });
  });
  it('keep what is said of them, each thing by itself', async () => {
    await changeShot(kept.near, { tags: ['review', 'door'], notes: 'Ask about the seal.' });
    const changed = await changeShot(kept.near, { folder: 'Customer' });
    expect(changed).toMatchObject({
      folder: 'Customer',
      tags: ['review', 'door'],
      notes: 'Ask about the seal.',
    });
    expect(await changeShot(kept.near, { folder: null })).toMatchObject({ folder: null, name: 'near' });
  });
  it('are put in an order, also around one that was taken away', async () => {
    await setRemoved('shot', kept.near, true);
    await orderShots('scene', [kept.inside, kept.wide]);
    expect(await names()).toEqual(['inside', 'wide']);
    await setRemoved('shot', kept.near, false);
    expect(await names()).toEqual(['inside', 'wide', 'near']);
    // What is not of the scene, or named twice, moves nothing.
    await orderShots('scene', [kept.near, 'gone', kept.near]);
    expect(await names()).toEqual(['near', 'inside', 'wide']);
    const next = await keepShot('scene', { name: 'last', document, thumbnail });
    expect(await names()).toEqual(['near', 'inside', 'wide', 'last']);
    await setRemoved('shot', next.id, true);
  });
  it('of charts and of a film are none to be made of other runs', async () => {
    await keepShot('scene', { name: 'curves', document, thumbnail, kind: 'charts' });
    await keepShot('scene', { name: 'turn', document, thumbnail, kind: 'film', filmTime: 2.5 });
    expect((await listedShots()).map((s) => s.name)).toEqual(['near', 'inside', 'wide']);
    expect((await openScene('scene')).shots.at(-1)).toMatchObject({ kind: 'film', filmTime: 2.5 });
  });
});
