import { readdirSync } from 'node:fs';
import { join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import type { RunDescription } from '#core/model/run.ts';
import type { Scene } from '#core/scene/document.ts';
import { ask, RequestProblem } from '#engine/server-requests.ts';
import type { SavedScene } from '#web/server/saved-scenes.ts';
import type { SwapProposal } from '#web/server/swap-run.ts';
import { Served } from '../attack/served.ts';
import { temperature } from '../sample-run.ts';
import { hexBlock } from '../vtu-builder.ts';

/** Runs whose files are swapped, and what is taken away and brought back: through the server, as the desk asks it. */
const served = new Served();
let own: { run: string; scene: string };

const file = (cells: number, name: string): Uint8Array => {
  const mesh = hexBlock(cells);
  return writeVtu(mesh, [{ ...temperature(mesh, (x) => 20 + x), name }], null, { length: 'm' });
};
const put = (bytes: Uint8Array) => (at: string) =>
  served.send('PUT', `${at}/files?name=block.vtu`, bytes).then(() => undefined);
const run = async (): Promise<RunDescription> =>
  (await ask<{ description: RunDescription }>(`${served.address}/api/runs/${own.run}`)).description;
const scene = async (): Promise<Scene> =>
  (await ask<{ document: Scene }>(`${served.address}/api/scenes/${own.scene}`)).document;
const listed = async (): Promise<string[]> =>
  (await ask<SavedScene[]>(`${served.address}/api/scenes`)).map((s) => s.id);
const setRemoved = (kind: string, id: string, removed: boolean) =>
  ask(`${served.address}/api/removed`, { method: 'PUT', json: { kind, id, removed } });

beforeAll(async () => {
  await served.start();
  own = (await served.importDrop(put(file(2, 'T'))))!;
}, 240_000);
afterAll(() => served.remove());

describe('files of a run that are swapped', () => {
  let proposal: SwapProposal;
  const swap = (json: object) => ask(`${served.address}/api/runs/${own.run}/swap`, { method: 'POST', json });

  it('change nothing before it is said what will not match, and what is likely meant', async () => {
    const { answer } = await served.send<{ id: string }>('POST', '/api/intake');
    const at = `/api/intake/${answer.id}`;
    await put(file(3, 'Temp'))(at);
    const preview = await served.send<{ job: string }>('POST', `${at}/preview`);
    await served.follow(preview.answer.job);
    const begun = await served.send<{ job: string }>('POST', `${at}/import`, {
      plan: 0,
      choices: {},
      swap: own.run,
    });
    proposal = (await served.follow<SwapProposal>(begun.answer.job))!;
    expect(proposal).toMatchObject({
      run: own.run,
      scene: own.scene,
      lacking: [{ kind: 'field', asked: 'point:T', likely: 'point:Temp' }],
    });
    expect(proposal.mismatches.map((m) => m.text).join()).toMatch(/no point field "T"/);
    expect((await run()).fields[0].name).toBe('T');
    // What waits for an answer is on no list.
    expect(await listed()).toEqual([own.scene]);
  });
  it('bring their names into scenes, and the same again takes all of it back', async () => {
    const before = await scene();
    const renames = { fields: { 'point:T': 'point:Temp' }, parts: {} };
    await swap({ content: proposal.content, renames });
    expect((await run()).parts[0].meshes[0].cellsByType).toEqual({ hexahedron: 27 });
    expect((await scene()).layers[0].colour).toMatchObject({ field: 'point:Temp' });
    const { former } = await ask<{ former: { content: string } | null }>(
      `${served.address}/api/runs/${own.run}/swap`,
    );
    expect(former?.content).toBe(proposal.content);

    await swap({ content: proposal.content });
    expect((await run()).parts[0].meshes[0].cellsByType).toEqual({ hexahedron: 8 });
    expect(await scene()).toEqual(before);
    // And forward once more.
    await swap({ content: proposal.content });
    expect((await scene()).layers[0].colour).toMatchObject({ field: 'point:Temp' });
    await swap({ content: proposal.content });
  });
  it('are refused when what was read is gone', async () => {
    const error = await swap({ content: 'none' }).catch((e) => e);
    expect(error).toBeInstanceOf(RequestProblem);
    expect((error as RequestProblem).status).toBe(404);
  });
});

describe('what is taken away', () => {
  it('is off the lists, cannot be opened, and comes back as it was', async () => {
    const before = await scene();
    for (const [kind, id] of [
      ['scene', own.scene],
      ['run', own.run],
    ]) {
      await setRemoved(kind, id, true);
      expect(await listed()).toEqual([]);
      await setRemoved(kind, id, false);
      expect(await listed()).toEqual([own.scene]);
    }
    expect(await scene()).toEqual(before);
  });
  it('says so when it is not there at all', async () => {
    const error = await setRemoved('scene', 'none', true).catch((e) => e);
    expect((error as RequestProblem).status).toBe(404);
  });
});

describe('a second import of the same files', () => {
  it('gets a name that tells it from the first, and its scene the same', async () => {
    const again = (await served.importDrop(put(file(2, 'T'))))!;
    const third = (await served.importDrop(put(file(2, 'T'))))!;
    const scenes = await ask<SavedScene[]>(`${served.address}/api/scenes`);
    const named = ({ scene: id }: { scene: string }) => scenes.find((s) => s.id === id)!;
    expect([named(own), named(again), named(third)].map((s) => [s.name, s.runName])).toEqual([
      ['block', 'block'],
      ['block 2', 'block 2'],
      ['block 3', 'block 3'],
    ]);
    for (const { run: id } of [again, third]) await setRemoved('run', id, true);
  });
});

describe('what a person says of a run', () => {
  it('is kept, and refused with its reason where it cannot be', async () => {
    const at = `${served.address}/api/runs/${own.run}`;
    await ask(at, { method: 'PATCH', json: { lengthUnit: 'mm', fields: { 'point:T': { unit: 'K' } } } });
    expect(await run()).toMatchObject({ lengthUnit: 'mm', fields: [{ key: 'point:T', unit: 'K' }] });
    const error = await ask(at, { method: 'PATCH', json: { fields: { 'point:X': { unit: 'K' } } } }).catch(
      (e) => e,
    );
    expect((error as RequestProblem).status).toBe(422);
    expect((error as Error).message).toMatch(/no field/);
  });
});

describe('what was taken away a day ago', () => {
  it('is gone for good when the server starts, with its arrays; what was taken away since is not', async () => {
    const late = (await served.importDrop(put(file(2, 'T'))))!;
    const old = (await served.importDrop(put(file(5, 'T'))))!;
    const arrays = (): number => readdirSync(join(served.data, 'arrays'), { recursive: true }).length;
    const before = arrays();
    for (const { run: id } of [late, old]) await setRemoved('run', id, true);
    await served.kill();
    const database = await PGlite.create(join(served.data, 'database'));
    await database.query(`update runs set removed = removed - interval '25 hours' where id = $1`, [old.run]);
    await database.close();
    await served.start();
    await listed();
    expect(arrays()).toBeLessThan(before);
    const gone = await setRemoved('run', old.run, false).catch((e) => e);
    expect((gone as RequestProblem).status).toBe(404);
    await setRemoved('run', late.run, false);
    expect(await listed()).toContain(late.scene);
  });
});
