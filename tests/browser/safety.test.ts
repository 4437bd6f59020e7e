import { execFile, execFileSync, spawnSync } from 'node:child_process';
import {
  existsSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  symlinkSync,
  truncateSync,
  unlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { RunDescription } from '#core/model/run.ts';
import type { Scene } from '#core/scene/document.ts';
import { ReaderPool } from '#web/server/reader-pool.ts';
import { attackWithKills } from '../attack/kills.ts';
import { attackReaders } from '../attack/readers.ts';
import { attackRequests } from '../attack/requests.ts';
import { Served } from '../attack/served.ts';
import { buildVtu, hexBlock } from '../vtu-builder.ts';
import { importFiles, Site, settled, upload } from './site.ts';

const plain = { format: 'ascii', header: 4, big: false, zlib: false } as const;
const block = (name = 'temperature', hot = 0, cells = 2): Uint8Array => {
  const data = Array.from({ length: (cells + 1) ** 3 }, (_, i) => hot + i);
  return new Uint8Array(
    buildVtu(hexBlock(cells), [{ name, location: 'point', components: 1, type: 'Float64', data }], plain),
  );
};

interface SceneRow {
  revision: number;
  name: string;
  document: Scene;
  run: string;
}

describe('the attack, in short', () => {
  it('damaged files of every format end in a reading or a refusal', async () => {
    const pool = new ReaderPool('dist/reader-process.mjs', { processes: 2, memory: 900, patience: 8000 });
    const report = await attackReaders(pool, 300, 77);
    pool.close();
    expect(report.findings).toEqual([]);
    expect(report.read).toBeGreaterThan(30);
    expect(report.refused).toBeGreaterThan(100);
  });
  it('hostile requests end in an answer', async () => {
    expect((await attackRequests(150, 77)).findings).toEqual([]);
  });
  it('kills lose nothing', async () => {
    expect((await attackWithKills(6, 77)).findings).toEqual([]);
  });
});

describe('the server', () => {
  const served = new Served({ DRESSER_READER_PATIENCE: '20', DRESSER_READER_MEMORY: '700' });
  const outside = mkdtempSync(join(tmpdir(), 'dresser-outside-'));
  const folder = mkdtempSync(join(tmpdir(), 'dresser-results-'));
  beforeAll(async () => {
    await served.start([folder]);
  });
  afterAll(async () => {
    await served.remove();
    for (const f of [outside, folder]) rmSync(f, { recursive: true, force: true });
  });
  const intake = async (): Promise<string> =>
    `/api/intake/${(await served.send<{ id: string }>('POST', '/api/intake')).answer.id}`;
  const preview = async (at: string) =>
    served.follow<{ previews: unknown[]; problems: { file: string; reason: string }[] }>(
      (await served.send<{ job: string }>('POST', `${at}/preview`)).answer.job,
    );

  it('goes on, and reads the others, when a file ends its reader', async () => {
    // This format is read whole, and the file is larger than a reader may be; it takes no room on the disk.
    const huge = join(folder, 'huge.msh');
    writeFileSync(huge, '$MeshFormat\n2.2 0 8\n$EndMeshFormat\n');
    truncateSync(huge, 1.5 * 2 ** 30);
    writeFileSync(join(folder, 'good.vtu'), block());
    const at = await intake();
    for (const name of ['huge.msh', 'good.vtu'])
      await served.send('POST', `${at}/server-path`, { path: join(folder, name) });
    const seen = await preview(at);
    expect(seen?.previews).toHaveLength(1);
    expect(seen?.problems).toMatchObject([
      { file: 'huge.msh', reason: expect.stringMatching(/more memory than the 700 MiB/) },
    ]);
    expect(served.runs).toBe(true);
    for (const name of ['huge.msh', 'good.vtu']) unlinkSync(join(folder, name));
  });

  it('holds the files of an import that is under way when its drop is deleted', async () => {
    const at = await intake();
    for (let n = 0; n < 13; n++)
      await served.send('PUT', `${at}/files?name=step_${n}.vtu`, block('temperature', 100 * n, 10));
    await preview(at);
    const { answer } = await served.send<{ job: string }>('POST', `${at}/import`, { plan: 0, choices: {} });
    expect((await served.send('DELETE', at)).status).toBe(200);
    expect((await served.send('POST', `${at}/preview`)).status).toBe(404);
    const made = await served.follow<{ run: string; problems: unknown[] }>(answer.job);
    expect(made?.problems).toEqual([]);
    const run = await served.send<{ description: RunDescription }>('GET', `/api/runs/${made!.run}`);
    expect(run.answer.description.steps).toHaveLength(13);
    await expect
      .poll(() => readdirSync(join(served.data, 'uploads'), { recursive: true }).length, { timeout: 10_000 })
      .toBeLessThan(5);
  });

  it('follows no link out of its folders when it reads on', async () => {
    writeFileSync(join(folder, 'oven_0.vtu'), block('temperature', 1));
    writeFileSync(join(folder, 'oven_1.vtu'), block('temperature', 2));
    const at = await intake();
    for (const name of ['oven_0.vtu', 'oven_1.vtu'])
      await served.send('POST', `${at}/server-path`, { path: join(folder, name) });
    await preview(at);
    const { answer } = await served.send<{ job: string }>('POST', `${at}/import`, { plan: 0, choices: {} });
    const made = await served.follow<{ run: string }>(answer.job);
    // A step that is a link to a file outside, and a folder that is one.
    writeFileSync(join(outside, 'secret.vtu'), block('secret', 5));
    symlinkSync(join(outside, 'secret.vtu'), join(folder, 'oven_2.vtu'));
    const state = await served.send<{ newSteps: number }>('GET', `/api/runs/${made!.run}/source`);
    expect(state.answer.newSteps).toBe(0);
    // A file that was read becomes a link to the outside: it is refused, not read again.
    unlinkSync(join(folder, 'oven_1.vtu'));
    symlinkSync(join(outside, 'secret.vtu'), join(folder, 'oven_1.vtu'));
    const again = await served.send<{ job: string }>('POST', `/api/runs/${made!.run}/read`, {
      what: 'fields',
      fields: ['point:secret'],
    });
    expect(await served.follow(again.answer.job)).toBeNull();
    const run = await served.send<{ description: RunDescription }>('GET', `/api/runs/${made!.run}`);
    expect(JSON.stringify(run.answer)).not.toContain('secret');
  });

  it('refuses a second server on the same data, naming the first', () => {
    const second = spawnSync(process.execPath, ['dist/server.mjs'], {
      env: { ...process.env, DRESSER_DATA: served.data, DRESSER_HOME: process.cwd(), PORT: '0' },
      encoding: 'utf8',
      timeout: 20_000,
    });
    expect(second.status).toBe(1);
    expect(second.stderr).toContain(`process ${served.process!.pid}`);
  });

  it('gives shots places of their own, however many are kept at once', async () => {
    const made = await served.importFiles({ 'block.vtu': block() });
    const { answer: row } = await served.send<SceneRow>('GET', `/api/scenes/${made!.scene}`);
    const shot = { name: 'shot', document: row.document, thumbnail: 'data:image/png;base64,AAAA' };
    const kept = await Promise.all(
      Array.from({ length: 12 }, () =>
        served.send<{ position: number }>('POST', `/api/scenes/${made!.scene}/shots`, shot),
      ),
    );
    expect(kept.map((k) => k.answer.position).sort((a, b) => a - b)).toEqual([...Array(12).keys()]);
  });

  it('says so itself where nothing stands at an address', async () => {
    const { status, answer } = await served.send<string>('GET', '/beside/nowhere');
    expect(status).toBe(404);
    expect(answer).toContain('There is nothing at this address');
    expect(answer).toContain('/beside/nowhere');
  });
  it('answers 404 for ids nobody has and 400 for changes that are none', async () => {
    for (const [method, path] of [
      ['GET', '/api/runs/none'],
      ['DELETE', '/api/runs/none'],
      ['DELETE', '/api/scenes/none'],
      ['DELETE', '/api/shots/none'],
      ['GET', '/api/jobs/none'],
      ['POST', '/api/intake/none/preview'],
      ['DELETE', '/api/intake/none'],
      ['GET', '/api/scenes/none/states'],
    ])
      expect([path, (await served.send(method, path)).status]).toEqual([path, 404]);
    expect((await served.send('PUT', '/api/shots/none', {})).status).toBe(400);
  });
});

/** Runs a program to its end. */
const programEnded = (program: string, options: string[]) =>
  new Promise<{ status: number | string | null | undefined; stderr: string }>((resolve) =>
    execFile(program, options, (error, _, stderr) => resolve({ status: error ? error.code : 0, stderr })),
  );

const mountable = (): string | null => {
  const at = mkdtempSync(join(tmpdir(), 'dresser-full-'));
  const mounted = spawnSync('mount', ['-t', 'tmpfs', '-o', 'size=160m', 'tmpfs', at], { stdio: 'ignore' });
  if (mounted.status === 0) return at;
  rmSync(at, { recursive: true, force: true });
  return null;
};

describe('a full disk', () => {
  const disk = mountable();
  it.skipIf(disk === null)(
    'ends an import whole, says how much to free, and lets scenes be saved again after',
    async () => {
      const served = new Served({ DRESSER_DATA: join(disk!, 'data') });
      try {
        await served.start();
        const ended = async (id: string) => {
          let job = { state: 'running', problem: null as { reason: string; remedy: string } | null };
          while (job.state === 'running') {
            await new Promise((r) => setTimeout(r, 50));
            job = (await served.send<typeof job>('GET', `/api/jobs/${id}`)).answer;
          }
          return job;
        };
        const made = await served.importFiles({ 'small.vtu': block() });
        expect(made?.run).toBeTruthy();
        // A film that the disk cannot hold is refused after its first picture; that one is kept.
        const { document } = (await served.send<{ document: Scene }>('GET', `/api/scenes/${made!.scene}`))
          .answer;
        const long = { ...document, reel: { ...document.reel, seconds: 3600, rate: 60 } };
        const film = await served.send<{ job: string }>('POST', `/api/runs/${made!.run}/films`, {
          scene: long,
          width: 64,
          height: 48,
          passes: 1,
          films: [{ format: 'mp4', quality: 'good' }],
        });
        const filmed = await ended(film.answer.job);
        expect(filmed.problem?.reason).toMatch(/^the disk is full: free \d+ MB under /);
        expect(readdirSync(join(disk!, 'data', 'pictures', film.answer.job))).toEqual(['0.png']);
        const arrays = (): number => readdirSync(join(disk!, 'data', 'arrays'), { recursive: true }).length;
        const before = arrays();
        const free = (): number =>
          Number(execFileSync('df', ['--output=avail', '-m', disk!]).toString().split('\n')[1]);
        // So much is left that an import may begin, whatever the log of the database has taken (16 MB at a time), and cannot end.
        writeFileSync(join(disk!, 'filler'), new Uint8Array((free() - 68) * 2 ** 20));
        const { answer } = await served.send<{ id: string }>('POST', '/api/intake');
        const at = `/api/intake/${answer.id}`;
        for (let n = 0; n < 6; n++)
          await served.send('PUT', `${at}/files?name=step_${n}.vtu`, block('temperature', 1000 * n, 30));
        const seen = await served.send<{ job: string }>('POST', `${at}/preview`);
        await served.follow(seen.answer.job);
        const started = await served.send<{ job: string }>('POST', `${at}/import`, { plan: 0, choices: {} });
        const job = await ended(started.answer.job);
        expect(job.state).toBe('failed');
        expect(job.problem?.reason).toMatch(/^the disk is full: free \d+ MB under /);
        expect(arrays()).toBe(before);
        // Nothing at all is left: a scene is refused as well, says so, and what was saved stays.
        const row = (await served.send<SceneRow>('GET', `/api/scenes/${made!.scene}`)).answer;
        writeFileSync(join(disk!, 'filler2'), new Uint8Array(Math.max(0, free() - 3) * 2 ** 20));
        const change = { revision: row.revision, changes: [{ at: ['name'], was: row.name, now: 'later' }] };
        const refused = await served.send<{ reason: string }>('PUT', `/api/scenes/${made!.scene}`, change);
        expect([refused.status, refused.answer.reason]).toEqual([507, expect.stringMatching(/disk is full/)]);
        const upload = await served.send<{ id: string }>('POST', '/api/intake');
        const file = await served.send('PUT', `/api/intake/${upload.answer.id}/files?name=a.vtu`, block());
        expect(file.status).toBe(507);
        // Files of the command line are no different: the disk is to blame, and no half file is left.
        writeFileSync(join(disk!, 'filler3'), new Uint8Array(Math.max(0, free() - 1) * 2 ** 20));
        const source = mkdtempSync(join(tmpdir(), 'dresser-source-'));
        for (let n = 0; n < 6; n++)
          writeFileSync(join(source, `step_${n}.vtu`), block('temperature', 1000 * n, 30));
        const out = join(disk!, 'out');
        const convert = ['cli/bin.mjs', 'convert', source, '--to', 'vtu', '--out', out];
        // Not waited for in one go: the connection to the server, closed meanwhile, must be seen to be closed.
        const converted = await programEnded(process.execPath, convert);
        expect([converted.status, converted.stderr]).toEqual([
          1,
          expect.stringMatching(/disk is full[\s\S]*out/),
        ]);
        expect(readdirSync(out).filter((name) => !name.endsWith('.vtu'))).toEqual([]);
        rmSync(source, { recursive: true });
        for (const name of ['filler', 'filler2', 'filler3']) unlinkSync(join(disk!, name));
        expect((await served.send('PUT', `/api/scenes/${made!.scene}`, change)).status).toBe(200);
      } finally {
        await served.remove();
        spawnSync('umount', [disk!]);
        rmSync(disk!, { recursive: true, force: true });
      }
    },
  );
  if (disk === null)
    it('is not tried here: mounting a small disk is not allowed', () => expect(disk).toBeNull());
});

describe('in the browser', () => {
  const site = new Site();
  let page: Page;
  beforeAll(async () => {
    await site.start();
    page = await site.page();
  });
  afterAll(() => site.stop());
  const idOf = (p: Page): string => p.url().split('/').pop()!;
  const row = (): Promise<SceneRow> => site.get<SceneRow>(`/api/scenes/${idOf(page)}`);
  const saved = (p: Page) =>
    p
      .getByRole('status')
      .filter({ hasText: /^saved$/ })
      .waitFor({ timeout: 20_000 });

  it('two tabs keep what both do, and ask where both touch the same', async () => {
    await page.goto(site.address);
    await importFiles(page, [upload('block.vtu', block())]);
    const other = await page.context().browser()!.newPage();
    await other.goto(page.url());
    await settled(other);
    await page.getByLabel('Name of the scene').fill('Named here');
    await saved(page);
    await other.getByRole('button', { name: 'Hide this line' }).first().click();
    await expect.poll(async () => (await row()).document.layers[0].visible, { timeout: 30_000 }).toBe(false);
    expect((await row()).name).toBe('Named here');
    await expect
      .poll(() => other.getByLabel('Name of the scene').inputValue(), { timeout: 30_000 })
      .toBe('Named here');
    // Both give it a name at the same time.
    const late = await row();
    await fetch(`${site.address}/api/scenes/${idOf(page)}`, {
      method: 'PUT',
      body: JSON.stringify({
        revision: late.revision,
        changes: [{ at: ['name'], was: late.name, now: 'Named elsewhere' }],
      }),
    });
    await other.getByLabel('Name of the scene').fill('Named in the other tab');
    const alert = other.getByRole('alert');
    await alert.getByText(/changed elsewhere.*the name of the scene/).waitFor();
    expect((await row()).name).toBe('Named elsewhere');
    await alert.getByRole('button', { name: 'Keep mine' }).click();
    await saved(other);
    expect((await row()).name).toBe('Named in the other tab');
    await other.close();
  });

  it('a scene with steps it does not know opens, is edited and keeps them; what cannot fit is repaired and kept', async () => {
    const { run, document } = await row();
    const strange = structuredClone(document) as unknown as Record<string, never> & Scene;
    strange.layers[0].chain = [{ id: 'melt', op: 'melt', options: { heat: { deep: [1, 2] } }, off: false }];
    strange.layers[0].visible = true;
    (strange.picture as { aspect: number }).aspect = 1e-300;
    const made = await fetch(`${site.address}/api/scenes`, {
      method: 'POST',
      body: JSON.stringify({ run, document: strange }),
    });
    const { id, repairs } = (await made.json()) as { id: string; repairs: string[] };
    expect(repairs.join()).toMatch(/aspect/);
    await page.goto(`${site.address}/scene/${id}`);
    await settled(page);
    await page.getByText('“melt” (not understood)').waitFor();
    await page.getByRole('button', { name: 'Hide this line' }).first().click();
    await saved(page);
    await expect.poll(async () => (await row()).document.layers[0].visible, { timeout: 30_000 }).toBe(false);
    expect((await row()).document.layers[0].chain).toEqual(strange.layers[0].chain);
  });

  it('earlier states come back', async () => {
    const before = (await row()).document;
    await page.getByLabel('Name of the scene').fill('Something else');
    await saved(page);
    await page.getByRole('button', { name: 'Earlier states of this scene' }).click();
    await page
      .getByRole('button', { name: /state \d+/ })
      .first()
      .click();
    await expect.poll(async () => (await row()).name, { timeout: 30_000 }).not.toBe('Something else');
    expect((await row()).document.layers.length).toBe(before.layers.length);
    expect(existsSync(join(site.data, 'server.lock'))).toBe(true);
    expect(JSON.parse(readFileSync(join(site.data, 'server.lock'), 'utf8')).pid).toBeGreaterThan(1);
  });
});
