import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type SideBySide, scenePanes, sideBySideForm } from '#core/beside/side-by-side.ts';
import { type SideEdit, withSideEdit } from '#core/beside/side-edits.ts';
import { differences } from '#core/model/document-changes.ts';
import type { RunDescription } from '#core/model/run.ts';
import { defaultScene } from '#core/scene/default-scene.ts';
import { onOtherRun } from '#core/scene/on-other-run.ts';
import { runSetForm, withRunSetEdit } from '#core/sets/run-set.ts';
import { ovenRun } from '../../tests/sample-run.ts';

const data = mkdtempSync(join(tmpdir(), 'dresser-beside-'));
process.env.DRESSER_DATA = data;
const besides = await import('./side-by-sides.ts');
const sets = await import('./run-sets.ts');
const { makeSceneOnRun } = await import('./scene-on-run.ts');
const { setRemoved } = await import('./removed.ts');
const { Conflict, NotFound } = await import('./answer.ts');
const { database, runs, scenes } = await import('./database.ts');
const { keepShot, openScene } = await import('./scenes.ts');
const { thumbnailOfShot } = await import('./listed-shots.ts');
afterAll(() => rmSync(data, { recursive: true, force: true }));

let run: RunDescription;
/** The same run as another solver calls it, with two states only. */
let other: RunDescription;
beforeAll(async () => {
  run = { ...(await ovenRun()), name: 'first' };
  other = {
    ...run,
    name: 'second',
    steps: run.steps.slice(0, 2),
    fields: run.fields.map((f) => (f.name === 'temperature' ? { ...f, key: 'point:TEMP', name: 'TEMP' } : f)),
  };
  const db = await database();
  for (const description of [run, other])
    await db.insert(runs).values({ id: description.name, name: description.name, description });
  const document = { ...defaultScene(run), step: 2 };
  await db.insert(scenes).values({ id: 'scene', run: 'first', name: 'Bake', document });
});

const changed = (before: SideBySide, edit: SideEdit) =>
  differences(sideBySideForm, before, withSideEdit(before, edit, new Map()));

describe('scenes side by side', () => {
  it('are a shot on each of some runs, by what a set says that names mean', async () => {
    const set = await sets.makeSet('Both', ['first', 'second']);
    const { document } = await sets.openSet(set.id);
    const rule = withRunSetEdit(document, {
      type: 'set.rule',
      of: 'fields',
      asked: 'point:temperature',
      meant: 'point:TEMP',
    });
    await sets.saveSet(set.id, 1, differences(runSetForm, document, rule));
    const of = { kind: 'runs' as const, runs: ['first', 'second'], shot: null, set: set.id };
    const { id } = await besides.makeSideBySide('  Both ', of);
    const opened = await besides.openSideBySide(id);
    expect(opened.document.name).toBe('Both');
    expect(opened.document.rules.fields).toEqual({ 'point:temperature': 'point:TEMP' });
    expect(Object.keys(opened.runs).sort()).toEqual(['first', 'second']);
    const [one, two] = scenePanes(opened.document);
    expect([one.run, two.run, one.scene.step, two.scene.step]).toEqual(['first', 'second', 2, 1]);
    expect(JSON.stringify(two.scene.layers)).toContain('point:TEMP');
    expect(one.scene.camera).toEqual(two.scene.camera);
    expect(await besides.listedSideBySides()).toMatchObject([{ id, name: 'Both', panes: 2 }]);
  });
  it('are scenes as they stand, or one scene at several steps that stay', async () => {
    const [only] = await besides.panesOf({ kind: 'scenes', scenes: ['scene'] });
    expect(only).toMatchObject({ title: 'Bake', run: 'first', free: [] });
    const steps = await besides.panesOf({ kind: 'steps', scene: 'scene', steps: [0, 1, 99] });
    expect(steps.map((p) => p.scene.step)).toEqual([0, 1, run.steps.length - 1]);
    expect(steps[0].free).toEqual(['times']);
    await expect(besides.panesOf({ kind: 'runs', runs: ['second'], shot: null, set: null })).rejects.toThrow(
      'none of these runs has a scene',
    );
    await expect(
      besides.panesOf({ kind: 'runs', runs: ['second'], shot: 'gone', set: null }),
    ).rejects.toThrow(NotFound);
  });
  it('are brought together where two change different panes, and not where both change one', async () => {
    const { id } = await besides.makeSideBySide('Two', { kind: 'steps', scene: 'scene', steps: [0, 1] });
    const { document } = await besides.openSideBySide(id);
    const [a, b] = document.panes;
    const title = (of: string, to: string) =>
      changed(document, { type: 'side.pane.title', id: of, title: to });
    await besides.saveSideBySide(id, 1, title(a.id, 'cold'));
    const saved = await besides.saveSideBySide(id, 1, title(b.id, 'warm'));
    expect(saved.document?.panes.map((p) => p.title)).toEqual(['cold', 'warm']);
    const refused = await besides.saveSideBySide(id, 1, title(a.id, 'hot')).catch((e: unknown) => e);
    expect(refused).toBeInstanceOf(Conflict);
    const odd = [{ at: ['links'], was: document.links, now: { camera: 'yes' } }];
    await expect(besides.saveSideBySide(id, 3, odd)).rejects.toThrow();
    await besides.deleteSideBySide(id);
    await expect(besides.openSideBySide(id)).rejects.toThrow(NotFound);
  });
  it('open without the runs that are gone', async () => {
    const of = { kind: 'runs' as const, runs: ['first', 'second'], shot: null, set: null };
    const { id } = await besides.makeSideBySide('Gone', of);
    await setRemoved('run', 'second', true);
    const { document, runs: there } = await besides.openSideBySide(id);
    expect(scenePanes(document)).toHaveLength(2);
    expect(Object.keys(there)).toEqual(['first']);
    await setRemoved('run', 'second', false);
  });
});

describe('the same views of another run', () => {
  it('have the shots in their order, without pictures that would show the run before', async () => {
    const { document } = await openScene('scene');
    const thumbnail = 'data:image/png;base64,AAAA';
    const kept = [];
    for (const name of ['wide', 'near', 'inside'])
      kept.push(await keepShot('scene', { name, document, thumbnail }));
    const rules = { fields: { 'point:temperature': 'point:TEMP' }, parts: {} };
    const moved = onOtherRun(document, other, rules);
    const shots = [kept[2], kept[0]].map(({ id }) => ({ id, document: moved }));
    const { id } = await makeSceneOnRun('scene', { run: 'second', document: moved, shots });
    const made = await openScene(id);
    expect(made.run).toBe('second');
    expect(made.document.step).toBe(1);
    expect(made.shots.map((s) => [s.name, s.thumbnail])).toEqual([
      ['wide', ''],
      ['inside', ''],
    ]);
    await expect(thumbnailOfShot(made.shots[0].id)).rejects.toThrow(NotFound);
    expect((await openScene('scene')).shots).toHaveLength(3);
    await expect(makeSceneOnRun('scene', { run: 'gone', document: moved, shots: [] })).rejects.toThrow(
      NotFound,
    );
  });
});
