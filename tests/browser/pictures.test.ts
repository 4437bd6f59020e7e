import { readdirSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { unzipSync } from 'fflate';
import { validateBytes } from 'gltf-validator';
import { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Scene } from '#core/scene/document.ts';
import { ask, askBytes, askFile, followJob, RequestProblem } from '#engine/server-requests.ts';
import { sceneInPicture } from '#stage/pictures/about.ts';
import type { PicturesMade } from '#web/server/render-pictures.ts';
import { Served } from '../attack/served.ts';
import { ovenSteps } from '../sample-run.ts';
import { coloured } from './site.ts';

describe('pictures drawn by the server', () => {
  const served = new Served();
  let run = '';
  let scene: Scene;
  const order = (steps: number[], more: object = {}): object => ({
    scene,
    pictures: steps.map((step) => ({ step, phase: null })),
    width: 160,
    height: 120,
    transparent: false,
    passes: 2,
    ...more,
  });
  const start = async (json: object): Promise<string> =>
    (await ask<{ job: string }>(`${served.address}/api/runs/${run}/pictures`, { method: 'POST', json })).job;
  const follow = (job: string, progress: (done: number) => void = () => undefined) =>
    followJob<PicturesMade>(job, (p) => progress(p.done), undefined, served.address);
  const picture = (job: string, nth: number): Promise<ArrayBuffer> =>
    askBytes(`${served.address}/api/jobs/${job}/pictures/${nth}`);

  beforeAll(async () => {
    await served.start();
    const files = Object.fromEntries(ovenSteps().map((s, n) => [`oven_${n}.vtu`, s.parts.oven]));
    const made = await served.imported(files);
    run = made.run;
    scene = (await ask<{ document: Scene }>(`${served.address}/api/scenes/${made.scene}`)).document;
  });
  afterAll(() => served.remove());

  it('come one after the other, each there as soon as it is whole', async () => {
    const told: number[] = [];
    const job = await start(order([0, 2]));
    const { mismatches, findings, ...rest } = await follow(job, (done) => told.push(done));
    expect([mismatches, rest]).toEqual([[], {}]);
    // What the preflight finds comes with each of them: at 120 pixels nothing can be read.
    expect(Object.keys(findings)).toEqual(['0', '1']);
    expect(findings[0].map((f) => f.rule)).toContain('small words');
    expect(told.at(-1)).toBe(1);
    for (const nth of [0, 1]) {
      const png = PNG.sync.read(Buffer.from(await picture(job, nth)));
      expect([png.width, png.height]).toEqual([160, 120]);
      expect(coloured(png)).toBeGreaterThan(0.05);
    }
    for (const missing of ['2', '-1', '0.5', 'x'])
      await expect(askBytes(`${served.address}/api/jobs/${job}/pictures/${missing}`)).rejects.toThrow();
  });
  it('say what the run does not have, and why a scene cannot be drawn', async () => {
    const other: Scene = { ...scene, layers: [{ ...scene.layers[0], parts: ['rack'] }] };
    const { mismatches } = await follow(await start(order([0], { scene: other })));
    expect(mismatches).toEqual(['the run has no part "rack"']);
    const damaged = start(order([0], { scene: { ...scene, layers: 'none' } }));
    await expect(damaged.then((job) => follow(job))).rejects.toThrow(/The scene is damaged at "layers"/);
    await expect(follow(await start(order([3])))).rejects.toThrow(/3 steps: there is no step 4/);
    await expect(start(order([]))).rejects.toBeInstanceOf(RequestProblem);
    await expect(start(order([0], { width: 16_385 }))).rejects.toBeInstanceOf(RequestProblem);
  });
  it('are of any format, taken apart, or bodies', async () => {
    const made = async (more: object): Promise<{ name: string; bytes: Uint8Array }> => {
      const job = await start(order([0], more));
      await follow(job);
      const { name, bytes } = await askFile(`${served.address}/api/jobs/${job}/pictures/0`);
      return { name, bytes: new Uint8Array(await new Response(bytes).arrayBuffer()) };
    };
    const exr = await made({ format: 'exr' });
    expect(exr.name).toBe('0.exr');
    // Magic number of OpenEXR.
    expect([...exr.bytes.subarray(0, 4)]).toEqual([0x76, 0x2f, 0x31, 0x01]);
    // The file holds its scene: dropped on a desk it opens again.
    expect(sceneInPicture((await made({ format: 'jpeg' })).bytes)).toMatchObject({
      scene: { name: scene.name },
    });
    const apart = await made({ layers: true });
    expect(apart.name).toBe('0.zip');
    const files = Object.keys(unzipSync(apart.bytes)).map((n) => n.replace(/^.*-(\w+\.\w+)$/, '$1'));
    expect(files).toEqual(expect.arrayContaining(['beauty.png', 'depth.exr', 'bodies.csv']));
    const glb = await made({ format: 'glb' });
    expect(glb.name).toBe('0.glb');
    const said = await validateBytes(glb.bytes);
    expect(said.issues.numErrors).toBe(0);
    expect(said.info.totalTriangleCount).toBeGreaterThan(10);
    await expect(made({ format: 'papyrus' })).rejects.toThrow(/not written as "papyrus".*png16.*glb/);
  });
  it('are cancelled in the middle', async () => {
    const job = await start(order([0, 1, 2], { passes: 400 }));
    await new Promise((r) => setTimeout(r, 1500));
    await ask(`${served.address}/api/jobs/${job}`, { method: 'DELETE' });
    await expect(follow(job)).rejects.toThrow(/cancelled/);
  });
  it('go on behind the last whole one when the server was stopped in the middle', async () => {
    const job = await start(order([0, 1, 2], { passes: 12 }));
    let done = 0;
    const coming = follow(job, (d) => (done = d));
    while (done === 0) await new Promise((r) => setTimeout(r, 20));
    const { port } = new URL(served.address);
    await served.kill();
    const folder = join(served.data, 'pictures', job);
    const first = statSync(join(folder, '0.png')).mtimeMs;
    await served.start([], Number(port));
    expect((await coming).mismatches).toEqual([]);
    expect(statSync(join(folder, '0.png')).mtimeMs).toBe(first);
    expect(readdirSync(folder).sort()).toEqual(['0.png', '1.png', '2.png']);
  });
});
