import { execFileSync, spawnSync } from 'node:child_process';
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { request } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from 'playwright-core';
import { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { InspectReport } from '#core/measure/inspect-report.ts';
import { type BuildOptions, buildVtu, hexBlock } from '../vtu-builder.ts';
import { ovenCollection, ovenFiles } from './sample-files.ts';
import { coloured, differing, importFiles, Site, type UploadFile, upload } from './site.ts';

const ascii: BuildOptions = { format: 'ascii', header: 4, big: false, zlib: false };
const raw: BuildOptions = { format: 'appended', appended: 'raw', header: 8, big: false, zlib: false };
const block = hexBlock(2);
const wrongIndex = { ...block, connectivity: block.connectivity.with(9, 999) };
const longArray = buildVtu(block, [], raw);
longArray.writeBigUInt64LE(10n ** 12n, longArray.indexOf('_', longArray.indexOf('AppendedData')) + 1);

const damaged: Record<string, [Uint8Array, RegExp]> = {
  'empty.vtu': [new Uint8Array(0), /the file is empty/i],
  'garbage.vtu': [Uint8Array.from({ length: 9000 }, (_, i) => (i * 7919) % 251), /no known format/i],
  'truncated.vtu': [buildVtu(block, [], ascii).subarray(0, 700), /ends inside|not closed/i],
  'counts.vtu': [
    buildVtu(block, [], ascii, (t) => t.replace('NumberOfPoints="27"', 'NumberOfPoints="28"')),
    /84 numbers but ends after 81/i,
  ],
  'bomb.vtu': [
    buildVtu(block, [], ascii, (t) => t.replace('<VTKFile', '<!DOCTYPE a [<!ENTITY b "c">]><VTKFile')),
    /entities/i,
  ],
  'index.vtu': [buildVtu(wrongIndex, [], ascii), /node index 999 is out of range/i],
  'long.vtu': [longArray, /1000000000000|are left/i],
};

describe('damaged files', () => {
  const site = new Site();
  const folder = mkdtempSync(join(tmpdir(), 'dresser-damaged-'));
  let page: Page;
  beforeAll(async () => {
    await site.start();
    page = await site.page();
  });
  afterAll(async () => {
    await site.stop();
    rmSync(folder, { recursive: true, force: true });
  });

  for (const [name, [bytes, reason]] of Object.entries(damaged)) {
    it(`${name} is explained on screen and by inspect`, async () => {
      await page.getByTestId('file-input').setInputFiles([upload(name, bytes)]);
      const note = page.getByRole('alert').filter({ hasText: name });
      await note.waitFor({ timeout: 20_000 });
      const text = (await note.textContent())!;
      expect(text).toMatch(reason);
      expect(text).toMatch(/Where: .{3,}\. .{5,}/);
      const path = join(folder, name);
      writeFileSync(path, bytes);
      const { stdout, status } = spawnSync(process.execPath, ['cli/bin.mjs', 'inspect', '--json', path], {
        encoding: 'utf8',
      });
      const report = JSON.parse(stdout) as InspectReport;
      expect(status).toBe(1);
      expect(report.runs).toEqual([]);
      expect(report.errors).toHaveLength(1);
      expect(report.errors[0].reason).toMatch(reason);
      for (const key of ['where', 'remedy'] as const) expect(report.errors[0][key].length).toBeGreaterThan(3);
    });
  }

  it('the server goes on: a good file beside damaged ones is read, and a damaged step is left out and named', async () => {
    const files: UploadFile[] = ovenFiles(3);
    files[1] = upload('oven_1.vtu', files[1].buffer.subarray(0, 2000));
    await importFiles(page, [...files, upload('garbage.vtu', damaged['garbage.vtu'][0])]);
    await page.getByText('step 2 of 2').waitFor();
  });
});

describe('an import that is broken off', () => {
  it('by a power cut leaves nothing behind', async () => {
    const site = await new Site().start();
    try {
      const { id } = (await (await fetch(`${site.address}/api/intake`, { method: 'POST' })).json()) as {
        id: string;
      };
      for (const f of ovenFiles(40)) {
        await fetch(`${site.address}/api/intake/${id}/files?name=${f.name}`, {
          method: 'PUT',
          body: new Uint8Array(f.buffer),
        });
      }
      const post = async (path: string, json: unknown = {}) =>
        (await (
          await fetch(`${site.address}/api/intake/${id}/${path}`, {
            method: 'POST',
            body: JSON.stringify(json),
          })
        ).json()) as { job: string };
      const state = async (job: string) =>
        await site.get<{ state: string; done: number }>(`/api/jobs/${job}`);
      const { job } = await post('preview');
      while ((await state(job)).state === 'running') await new Promise((r) => setTimeout(r, 20));
      await post('import', { plan: 0, choices: {} });
      const arraysNow = (): string[] => {
        const folder = join(site.data, 'arrays');
        const names = existsSync(folder) ? readdirSync(folder, { recursive: true }) : [];
        return names.map(String).filter((n) => n.endsWith('.bin'));
      };
      // In the midst of it: something is written.
      await expect.poll(() => arraysNow().length, { interval: 5 }).toBeGreaterThan(0);
      await site.kill();
      await site.start();
      const page = await site.page();
      const scenes = await page.getByRole('region', { name: 'Scenes' }).count();
      const arrays = arraysNow();
      // Either it was cut off and left no trace, or it had just been finished and is whole.
      if (scenes === 0) expect(arrays).toEqual([]);
      else expect(arrays).toHaveLength(4 + 2 * 40);
      // The copies of its files are kept for whoever begins the same import anew, and nothing else is.
      const uploads = existsSync(join(site.data, 'uploads')) ? readdirSync(join(site.data, 'uploads')) : [];
      expect(uploads).toEqual(scenes === 0 ? [id] : []);
    } finally {
      await site.stop();
    }
  });
});

describe('the server keeps its doors', () => {
  const site = new Site();
  const folder = mkdtempSync(join(tmpdir(), 'dresser-doors-'));
  const inside = join(folder, 'results');
  beforeAll(async () => {
    mkdirSync(inside);
    writeFileSync(join(folder, 'secret.vtu'), buildVtu(block, [], ascii));
    writeFileSync(join(inside, 'good.vtu'), buildVtu(block, [], ascii));
    symlinkSync(join(folder, 'secret.vtu'), join(inside, 'link.vtu'));
    writeFileSync(
      join(inside, 'sly.pvd'),
      '<VTKFile type="Collection"><Collection><DataSet timestep="0" file="../secret.vtu"/></Collection></VTKFile>',
    );
    await site.start([inside]);
  });
  afterAll(async () => {
    await site.stop();
    rmSync(folder, { recursive: true, force: true });
  });

  const status = (path: string, headers: Record<string, string>, method = 'GET'): Promise<number> =>
    new Promise((done, fail) => {
      const call = request(site.address + path, { method, headers }, (r) => {
        r.resume();
        done(r.statusCode!);
      });
      call.on('error', fail);
      call.end();
    });

  it('to other names, other sites and other methods', async () => {
    expect(await status('/', { host: 'evil.example' })).toBe(421);
    expect(await status('/api/intake', { origin: 'http://evil.example' }, 'POST')).toBe(403);
    expect(await status('/api/intake', { 'sec-fetch-site': 'cross-site' }, 'POST')).toBe(403);
    expect(await status('/api/intake', { origin: site.address }, 'POST')).toBe(200);
  });

  it('to paths outside of its folders, by any way', async () => {
    for (const path of [
      join(folder, 'secret.vtu'),
      join(inside, '..', 'secret.vtu'),
      join(inside, 'link.vtu'),
      '/etc/passwd',
      '/nowhere',
    ]) {
      const { id } = (await (await fetch(`${site.address}/api/intake`, { method: 'POST' })).json()) as {
        id: string;
      };
      const answer = await fetch(`${site.address}/api/intake/${id}/server-path`, {
        method: 'POST',
        body: JSON.stringify({ path }),
      });
      expect(answer.status).toBe(403);
      expect(await answer.json()).toMatchObject({ reason: expect.any(String), remedy: expect.any(String) });
      expect((await fetch(`${site.address}/api/folders?path=${encodeURIComponent(path)}`)).status).toBe(403);
    }
    const { entries } = await site.get<{ entries: { name: string }[] }>(
      `/api/folders?path=${encodeURIComponent(inside)}`,
    );
    expect(entries.map((e) => e.name)).toEqual(['good.vtu', 'sly.pvd']);
  });

  it('to a collection that leads outside', async () => {
    const { id } = (await (await fetch(`${site.address}/api/intake`, { method: 'POST' })).json()) as {
      id: string;
    };
    await fetch(`${site.address}/api/intake/${id}/server-path`, {
      method: 'POST',
      body: JSON.stringify({ path: join(inside, 'sly.pvd') }),
    });
    const { job } = (await (
      await fetch(`${site.address}/api/intake/${id}/preview`, { method: 'POST' })
    ).json()) as { job: string };
    let answer: { state: string; result: { previews: unknown[]; problems: { reason: string }[] } };
    do answer = await site.get(`/api/jobs/${job}`);
    while (answer.state === 'running');
    expect(answer.result.previews).toEqual([]);
    expect(answer.result.problems[0].reason).toMatch(/outside the folders/);
  });

  it('to arrays that are none, and to scenes that are none', async () => {
    for (const name of ['..%2F..%2Fetc%2Fpasswd', 'abc', '0'.repeat(64)])
      expect((await fetch(`${site.address}/api/arrays/${name}`)).status).toBe(404);
    expect(
      (await fetch(`${site.address}/api/scenes/none`, { method: 'PUT', body: '{"document":{}}' })).status,
    ).toBe(422);
    expect((await fetch(`${site.address}/api/scenes/none`, { method: 'PUT', body: 'not json' })).status).toBe(
      422,
    );
  });

  it('serves arrays in ranges, to be kept for ever', async () => {
    const page = await site.page();
    await importFiles(page, ovenFiles(1));
    const { run } = await site.get<{ run: string }>(`/api/scenes/${page.url().split('/').pop()}`);
    const { description } = await site.get<{
      description: { parts: { meshes: { points: { hash: string; length: number } }[] }[] };
    }>(`/api/runs/${run}`);
    const { hash, length } = description.parts[0].meshes[0].points;
    const whole = await fetch(`${site.address}/api/arrays/${hash}`);
    const bytes = new Uint8Array(await whole.arrayBuffer());
    expect(bytes).toHaveLength(4 * length);
    expect(whole.headers.get('cache-control')).toMatch(/immutable/);
    const part = await fetch(`${site.address}/api/arrays/${hash}`, { headers: { range: 'bytes=8-15' } });
    expect(part.status).toBe(206);
    expect(new Uint8Array(await part.arrayBuffer())).toEqual(bytes.slice(8, 16));
  });
});

describe('the command line', () => {
  const folder = mkdtempSync(join(tmpdir(), 'dresser-cli-'));
  beforeAll(() => {
    const files = ovenFiles(3);
    for (const f of [...files, ovenCollection(files)]) writeFileSync(join(folder, f.name), f.buffer);
  });
  afterAll(() => rmSync(folder, { recursive: true, force: true }));

  it('renders steps of a run, a line for each', () => {
    const out = join(folder, 'out');
    const lines = execFileSync(
      process.execPath,
      [
        'cli/bin.mjs',
        'render',
        'default',
        '--run',
        join(folder, 'oven.pvd'),
        '--out',
        out,
        '--size',
        '240x160',
        '--steps',
        '1:3:2',
        '--passes',
        '2',
      ],
      { encoding: 'utf8' },
    );
    expect(lines.trim().split('\n')).toEqual([
      expect.stringMatching(/oven-0001\.png step 1 t 0 240x160$/),
      expect.stringMatching(/oven-0003\.png step 3 t 4 240x160$/),
    ]);
    const names = readdirSync(out).sort();
    expect(names).toEqual(['oven-0001.png', 'oven-0003.png']);
    const [first, third] = names.map((n) => PNG.sync.read(execFileSync('cat', [join(out, n)])));
    expect([first.width, first.height]).toEqual([240, 160]);
    expect(coloured(third)).toBeGreaterThan(0.1);
  });

  const run = (...args: string[]) =>
    spawnSync(process.execPath, ['cli/bin.mjs', 'render', ...args], { encoding: 'utf8' });

  it('renders in a look, or says that there is none of that name', () => {
    const out = join(folder, 'look');
    const common = ['--run', join(folder, 'oven.pvd'), '--out', out, '--size', '160x120', '--passes', '1'];
    expect(run('default', ...common, '--look', 'High contrast').status).toBe(0);
    const [picture] = readdirSync(out).map((n) => PNG.sync.read(readFileSync(join(out, n))));
    expect([...picture.data.subarray(0, 3)]).toEqual([0, 0, 0]);
    const { status, stderr } = run('default', ...common, '--look', 'plush');
    expect([status, stderr]).toEqual([1, expect.stringMatching(/no such look.*--help/)]);
  });
  it('renders with units that the files do not state, or says what there is to have one', () => {
    const common = ['--run', join(folder, 'oven.pvd'), '--size', '160x120', '--passes', '1'];
    const [bare, stated] = ['bare', 'stated'].map((name) => join(folder, name));
    expect(run('default', ...common, '--out', bare).status).toBe(0);
    expect(run('default', ...common, '--out', stated, '--units', 'time=min', 'temperature=K').status).toBe(0);
    const [without, said] = [bare, stated].map((at) =>
      PNG.sync.read(readFileSync(join(at, readdirSync(at)[0]))),
    );
    // The time and the title of the legend have them.
    expect(differing(without, said)).toBeGreaterThan(0.001);
    const { status, stderr } = run('default', ...common, '--out', bare, '--units', 'heat=K');
    expect(status).toBe(1);
    expect(stderr).toMatch(/no quantity "heat"[\s\S]*--units[\s\S]*time, length, temperature/);
  });
  it('renders a cycle at one step, numbered behind it', () => {
    const [out, sweep] = [join(folder, 'cycle'), 'section of oven at x = 0.1 m sweeping to 0.9 m'];
    const common = ['--run', join(folder, 'oven.pvd'), '--out', out, '--size', '160x120', '--passes', '1'];
    const lines = run('default', ...common, '--steps', '2', '--cycle', '3', '--say', sweep).stdout;
    // What does not come back shows its end in the last picture.
    expect(lines.trim().split('\n')).toEqual([
      expect.stringMatching(/oven-0002-001\.png step 2 t 2 phase 0 160x120$/),
      expect.stringMatching(/oven-0002-002\.png step 2 t 2 phase 180 160x120$/),
      expect.stringMatching(/oven-0002-003\.png step 2 t 2 phase 360 160x120$/),
    ]);
    const [first, middle, last] = readdirSync(out)
      .sort()
      .map((n) => PNG.sync.read(readFileSync(join(out, n))));
    expect(differing(first, middle)).toBeGreaterThan(0.01);
    expect(differing(middle, last)).toBeGreaterThan(0.01);
    expect(run('default', ...common, '--cycle', '3', '--say', 'surface of oven').stderr).toMatch(
      /nothing of the scene changes over a cycle[\s\S]*docs\/cycle\.md/,
    );
  });

  it('says what is wrong, and its exit code too', () => {
    const noScene = run(join(folder, 'nothing.json'), '--run', join(folder, 'oven.pvd'), '--out', folder);
    expect(noScene.status).toBe(1);
    expect(noScene.stderr).toMatch(/nothing\.json[\s\S]*what to do/);
    expect(run('default', '--run', 'x.vtu', '--out', folder, '--size', 'huge').stderr).toMatch(/1920x1080/);
  });
});
