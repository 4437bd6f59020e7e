import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { differences } from '#core/model/document-changes.ts';
import type { RunDescription } from '#core/model/run.ts';
import { type RunSet, type RunSetEdit, runSetForm, withRunSetEdit } from '#core/sets/run-set.ts';
import { ovenRun } from '../../tests/sample-run.ts';

const data = mkdtempSync(join(tmpdir(), 'dresser-sets-'));
process.env.DRESSER_DATA = data;
const sets = await import('./run-sets.ts');
const { setRemoved } = await import('./removed.ts');
const { Conflict, NotFound } = await import('./answer.ts');
const { database, runs, runSets, scenes } = await import('./database.ts');
const { openScene, saveThumbnail } = await import('./scenes.ts');
const { defaultScene } = await import('#core/scene/default-scene.ts');
afterAll(() => rmSync(data, { recursive: true, force: true }));

const names = ['oven_900', 'oven_1500', 'oven_2400'];
/** As a table gave them: longer names before shorter ones, which no store may turn round. */
const parameters = { temperature_of_air: 180, fan: 900, T: 12.5 };

beforeAll(async () => {
  const description: RunDescription = { ...(await ovenRun()), parameters };
  const db = await database();
  for (const [i, id] of names.entries())
    await db.insert(runs).values({ id, name: id, description, created: new Date(2026, 0, 1 + i) });
  const document = defaultScene(description);
  await db.insert(scenes).values({ id: 'scene', run: names[0], name: 'Bake', document });
});

/** The changes a desk would send. */
const changed = (before: RunSet, ...edits: RunSetEdit[]) =>
  differences(runSetForm, before, edits.reduce(withRunSetEdit, before));

describe('runs as sets list them', () => {
  it('have their parameters in the order in which the files say them, and the scene that was changed last', async () => {
    const listed = await sets.listedRuns();
    expect(listed.map((r) => r.id)).toEqual([...names].reverse());
    const [, , first] = listed;
    expect(Object.entries(first.parameters)).toEqual(Object.entries(parameters));
    expect(first).toMatchObject({ scene: 'scene', pictured: false, steps: expect.any(Number) });
    expect(listed[0].scene).toBeNull();
  });
  it('have a small picture once one was drawn', async () => {
    await saveThumbnail('scene', 'data:image/png;base64,AAAA');
    expect((await sets.listedRuns())[2].pictured).toBe(true);
    expect((await openScene('scene')).thumbnail).toBe('data:image/png;base64,AAAA');
  });
});

describe('a set of runs', () => {
  it('is made of the runs that are there, each once and in the order given', async () => {
    const { id } = await sets.makeSet('  Fans ', [names[1], 'gone', names[0], names[1]]);
    const { document, revision } = await sets.openSet(id);
    expect(document).toMatchObject({ name: 'Fans', runs: [names[1], names[0]] });
    expect(revision).toBe(1);
    expect(await sets.listedSets()).toEqual([
      { id, name: 'Fans', runs: 2, changed: expect.stringMatching(/^\d{4}-/) },
    ]);
    await expect(sets.makeSet('None', ['gone'])).rejects.toThrow('none of these runs is there');
  });
  it('takes changes of two desks together, and tells which of them touch the same thing', async () => {
    const { id } = await sets.makeSet('Both', names);
    const { document } = await sets.openSet(id);
    const one = changed(document, { type: 'set.mark', runs: [names[2]], on: true });
    expect(await sets.saveSet(id, 1, one)).toEqual({ revision: 2 });
    // The other desk knows the first state only.
    const other = changed(document, { type: 'set.view', change: { group: 'fan' } });
    const saved = await sets.saveSet(id, 1, other);
    expect(saved).toMatchObject({ revision: 3, document: { marked: [names[2]], view: { group: 'fan' } } });
    const third = changed(document, { type: 'set.mark', runs: [names[0]], on: true });
    const refused = await sets.saveSet(id, 1, third).catch((e) => e);
    expect(refused).toBeInstanceOf(Conflict);
    expect(refused.content).toMatchObject({ revision: 3, places: ['the marks'] });
    expect((await sets.openSet(id)).document.marked).toEqual([names[2]]);
  });
  it('is not saved as something it cannot be', async () => {
    const { id } = await sets.makeSet('Odd', names);
    const wrong = [{ at: ['name'], was: 'Odd', now: '' }];
    await expect(sets.saveSet(id, 1, wrong)).rejects.toMatchObject({ where: 'set, name' });
    expect((await sets.openSet(id)).revision).toBe(1);
  });
  it('that was kept by an earlier version gets what was added since', async () => {
    const { id } = await sets.makeSet('Old', names);
    const { document } = await sets.openSet(id);
    const { batch, rules, sheet, shots, ...old } = document;
    const { eq } = await import('drizzle-orm');
    const db = await database();
    await db
      .update(runSets)
      .set({ document: old as RunSet })
      .where(eq(runSets.id, id));
    expect((await sets.openSet(id)).document).toEqual(document);
  });
  it('is taken away and brought back, and deleted for good without its runs', async () => {
    const { id } = await sets.makeSet('Away', names);
    await setRemoved('set', id, true);
    await expect(sets.openSet(id)).rejects.toBeInstanceOf(NotFound);
    await setRemoved('set', id, false);
    expect((await sets.openSet(id)).document.name).toBe('Away');
    await sets.deleteSet(id);
    await expect(sets.deleteSet(id)).rejects.toBeInstanceOf(NotFound);
    expect(await sets.listedRuns()).toHaveLength(3);
  });
});
