import { type ChildProcess, execFileSync, spawn, spawnSync } from 'node:child_process';
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { BATCH_LOG, type BatchEntry, readBatchLog } from '#core/batch/batch-log.ts';
import type { RunDescription } from '#core/model/run.ts';
import { withEnds } from '#core/scene/scale-ends.ts';
import { readScript } from '#core/scene/scene-script.ts';
import { RUNS_TABLE } from '#core/sets/made-rows.ts';
import { wordsOfPdf } from '../pdf-words.ts';
import { OvenFamily } from './oven-family.ts';
import { RenderPage } from './render-page.ts';
import { Site } from './site.ts';

const SIZE = { width: 96, height: 72 };

/** Three shots, as a person would write them. */
const shots: Record<string, string> = {
  walls: 'Surface of everything, coloured by temperature',
  middle: 'Section of everything at x = 0.5, coloured by temperature',
  warm: 'Isosurface of temperature at 24, coloured by temperature',
};

const family = new OvenFamily();
const { cases } = family;
const manifest = family.at('ovens.csv');
const out = family.at('out');
const site = new Site();

beforeAll(async () => {
  const rows = cases.map((one) => `runs/${one.file},${one.fan},${one.vent},${family.coldest(one)}`);
  writeFileSync(manifest, `file,fan [1/min],vent,coldest\n${rows.join('\n')}\n`);
  for (const [name, script] of Object.entries(shots)) writeFileSync(family.at(`${name}.txt`), `${script}\n`);
  await site.start([family.folder]);
});
afterAll(async () => {
  await site.stop();
  family.gone();
});

/** The command line for the runs of a table, into a folder. */
const order = (table: string, into: string, ...more: string[]): string[] => [
  'cli/bin.mjs',
  'batch',
  ...Object.keys(shots).map((name) => family.at(`${name}.txt`)),
  '--runs',
  table,
  '--out',
  into,
  '--size',
  `${SIZE.width}x${SIZE.height}`,
  '--passes',
  '1',
  '--name',
  '{fan}-{vent}/{shot}',
  ...more,
];

interface Told {
  made: number;
  current: number;
  failed: number;
  files: BatchEntry[];
}

const run = (table: string, into: string, ...more: string[]): Told =>
  JSON.parse(
    execFileSync(process.execPath, order(table, into, '--json', ...more), { maxBuffer: 2 ** 26 }).toString(),
  );

const logNow = (): BatchEntry[] =>
  existsSync(join(out, BATCH_LOG))
    ? [...readBatchLog(readFileSync(join(out, BATCH_LOG), 'utf8')).values()]
    : [];

const ended = (child: ChildProcess): Promise<unknown> =>
  new Promise((resolve) => child.once('exit', resolve));

describe('twenty-four runs by three shots, unattended', () => {
  it('are killed in the middle and gone on with: nothing doubled, nothing lost', async () => {
    const child = spawn(process.execPath, order(manifest, out), { stdio: 'ignore' });
    const gone = ended(child);
    await expect.poll(() => logNow().length, { timeout: 300_000 }).toBeGreaterThan(10);
    child.kill('SIGKILL');
    await gone;
    // What it had started ends with it: the log grows no more.
    await expect
      .poll(
        async () => {
          const before = logNow().length;
          await new Promise((r) => setTimeout(r, 1500));
          return logNow().length - before;
        },
        { timeout: 60_000 },
      )
      .toBe(0);
    const before = new Map(logNow().map(({ path }) => [path, statSync(join(out, path)).mtimeMs]));
    expect(before.size).toBeLessThan(72);
    const { made, current, failed, files } = run(manifest, out);
    expect({ made, current, failed }).toEqual({ made: 72 - before.size, current: before.size, failed: 0 });
    for (const [path, time] of before) expect(statSync(join(out, path)).mtimeMs, path).toBe(time);
    expect(files.map((f) => f.path)).toEqual(
      cases.flatMap(({ fan, vent }) => Object.keys(shots).map((shot) => `${fan}-${vent}/${shot}.png`)),
    );
    const there = readdirSync(out, { recursive: true }).map(String);
    expect(there.filter((name) => name.endsWith('.png'))).toHaveLength(72);
    expect(there.filter((name) => name.endsWith('.half'))).toEqual([]);
  });

  it('have a row each in the table beside them', () => {
    const [head, ...rows] = readFileSync(join(out, RUNS_TABLE), 'utf8').trim().split('\n');
    expect(head).toBe('run,fan [1/min],vent,coldest,files,failed,what did not match');
    expect(rows).toEqual(
      cases.map(({ fan, vent, file }) => {
        const low = Number(String(family.coldest({ fan, vent })));
        return `${file.replace('.vtu', '')},${fan},${vent},${low},3,0,`;
      }),
    );
  });

  it('tell in the log of each picture what it shows', () => {
    const log = new Map(logNow().map((entry) => [entry.path, entry]));
    expect(log.size).toBe(72);
    for (const { fan, vent, file } of cases)
      for (const shot of Object.keys(shots)) {
        const path = `${fan}-${vent}/${shot}.png`;
        expect(log.get(path)).toMatchObject({
          shot,
          run: file.replace('.vtu', ''),
          step: 1,
          ...SIZE,
          format: 'png',
          bytes: statSync(join(out, path)).size,
          problem: null,
        });
      }
  });

  it('are each the picture that is made by hand, with one scale over all runs', async () => {
    const page = await RenderPage.open(await site.page(), site.address);
    const lows = cases.map((one) => family.coldest(one));
    const all: [number, number] = [Math.min(...lows), Math.max(...lows) + 6];
    for (const { fan, vent, file } of cases) {
      const { run: id } = (await site.importPaths([family.at('runs', file)]))!;
      const { description } = await site.get<{ description: RunDescription }>(`/api/runs/${id}`);
      for (const [name, script] of Object.entries(shots)) {
        const scene = readScript(script, description);
        const [{ id: scale }] = scene.scales;
        const byHand = await page.draw({
          run: id,
          scene: withEnds(scene, { [scale]: all }),
          ...SIZE,
          passes: 1,
        });
        const made = PNG.sync.read(readFileSync(join(out, `${fan}-${vent}/${name}.png`)));
        expect(Buffer.compare(made.data, byHand.data), `${file} ${name}`).toBe(0);
      }
    }
  });

  it('are left alone when nothing has changed, but for the one run that has', () => {
    const [{ file, fan, vent }] = cases;
    const table = family.at('few.csv');
    const rows = cases
      .slice(0, 4)
      .map((c, i) => `runs/${c.file},${c.fan},${c.vent},${['12', 'loud', '9', '7'][i]}`);
    writeFileSync(table, `file,fan,vent,noise\n${rows.join('\n')}\n`);
    const into = family.at('few');
    const { stdout, stderr } = spawnSync(process.execPath, order(table, into, '--json'), {
      encoding: 'utf8',
    });
    expect(JSON.parse(stdout)).toMatchObject({ made: 12, current: 0 });
    // What is odd about the table is told, and the pictures made.
    expect(stderr).toMatch(/^note: “fan” is 600 in all runs/m);
    expect(stderr).toMatch(/^note: “loud” of oven_600_15 is no number/m);
    const report = family.at('reports', 'ovens.pdf');
    // Other scales are other pictures.
    expect(run(table, into, '--scales', 'each', '--report', report)).toMatchObject({ made: 12, current: 0 });
    expect(wordsOfPdf(readFileSync(report))).toContain('12 pictures of 4 runs by 3 shots');
    family.write({ file, fan: fan + 2, vent });
    expect(run(table, into, '--scales', 'each')).toMatchObject({ made: 3, current: 9 });
  });
});
