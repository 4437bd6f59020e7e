import { existsSync, mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { usualBatch } from '#core/batch/batch-settings.ts';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import type { RunSet } from '#core/sets/run-set.ts';
import type { WatchState } from '#web/server/watched-sets.ts';
import { temperature } from '../sample-run.ts';
import { hexBlock } from '../vtu-builder.ts';
import { Site } from './site.ts';

const folder = mkdtempSync(join(tmpdir(), 'dresser-arriving-'));
const arriving = join(folder, 'results');
const site = new Site();
let page: Page;
let set: string;

const heated = (low: number): Uint8Array => {
  const mesh = hexBlock(3);
  return writeVtu(mesh, [temperature(mesh, (x, y) => low + x + y)], null);
};
const arrive = (name: string, bytes: Uint8Array): void => writeFileSync(join(arriving, name), bytes);
const stateNow = () => site.get<WatchState>(`/api/sets/${set}/watch`);
const setNow = async () => (await site.get<{ document: RunSet }>(`/api/sets/${set}`)).document;
const came = () => page.getByRole('list', { name: 'What came in' }).getByRole('listitem');
const PATIENTLY = { timeout: 120_000 };

beforeAll(async () => {
  mkdirSync(arriving);
  await site.start([folder]);
  writeFileSync(join(folder, 'first.vtu'), heated(20));
  const { run, scene } = (await site.importPaths([join(folder, 'first.vtu')]))!;
  const { document } = await site.get<{ document: object }>(`/api/scenes/${scene}`);
  const thumbnail = 'data:image/png;base64,iVBORw0KGgo=';
  const shot = await site.send<{ id: string }>('POST', `/api/scenes/${scene}/shots`, {
    name: 'Front',
    document,
    thumbnail,
  });
  set = (await site.send<{ id: string }>('POST', '/api/sets', { name: 'Line two', runs: [run] })).answer.id;
  const { shots, sizes, passes, scales } = usualBatch;
  await site.send('PUT', `/api/sets/${set}`, {
    revision: 1,
    changes: [
      { at: ['batch', 'shots'], was: shots, now: [shot.answer.id] },
      { at: ['batch', 'sizes'], was: sizes, now: [{ width: 64, height: 48 }] },
      { at: ['batch', 'passes'], was: passes, now: 1 },
      // Shared ones change with every run, and with them all pictures.
      { at: ['batch', 'scales'], was: scales, now: 'each' },
    ],
  });
  page = await site.page();
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto(`${site.address}/sheets/${set}`);
});
afterAll(async () => {
  await site.stop();
  rmSync(folder, { recursive: true, force: true });
});

describe('a set that watches a folder', () => {
  it('takes in what comes there, and has its pictures made', async () => {
    await page.getByRole('button', { name: 'Runs that come by themselves' }).click();
    await page.getByLabel('Folder on the server').fill(arriving);
    await page.keyboard.press('Enter');
    await page.getByLabel('Seconds of rest').fill('1');
    await page.getByLabel('Seconds of rest').blur();
    await page.getByRole('button', { name: 'Watch it' }).click();
    await page.keyboard.press('Escape');
    arrive('late.vtu', heated(40));
    await page.getByRole('rowheader', { name: 'late' }).waitFor(PATIENTLY);
    await expect
      .poll(() => came().allTextContents(), PATIENTLY)
      .toEqual([expect.stringMatching(/^late\.vtu came in/)]);
    await page.getByText('2 pictures: 2 made').waitFor(PATIENTLY);
    expect(existsSync(join(site.data, 'out', 'Line-two', 'late', 'Front.png'))).toBe(true);
  });

  it('gives a run that comes again its new content: it stays the same run of the set', async () => {
    const before = await setNow();
    arrive('late.vtu', heated(60));
    await expect.poll(async () => (await stateNow()).told[0].again, PATIENTLY).toBe(true);
    expect((await setNow()).runs).toEqual(before.runs);
    await page.getByText('2 pictures: 1 made, 1 as they were').waitFor(PATIENTLY);
  });

  it('tells what could not be brought in, and goes on with the others', async () => {
    arrive('broken.vtu', heated(20).slice(0, 700));
    arrive('good.vtu', heated(30));
    await page.getByRole('rowheader', { name: 'good' }).waitFor(PATIENTLY);
    await came().filter({ hasText: 'broken.vtu could not be brought in' }).waitFor(PATIENTLY);
    expect((await setNow()).runs).toHaveLength(3);
  });

  it('tells where the folder may not be read, or is gone', async () => {
    const { watch } = await setNow();
    const { answer } = await site.send<{ revision: number }>('PUT', `/api/sets/${set}`, {
      revision: 1,
      changes: [{ at: ['watch'], was: watch, now: { ...watch, folder: '/etc' } }],
    });
    expect(answer.revision).toBeGreaterThan(1);
    await expect
      .poll(async () => (await stateNow()).problem?.reason, PATIENTLY)
      .toMatch(/outside the folders/);
  });

  it('watches no more once that is switched off', async () => {
    const { watch } = await setNow();
    const off = { ...watch, folder: arriving, on: false };
    await site.send('PUT', `/api/sets/${set}`, {
      revision: 1,
      changes: [{ at: ['watch'], was: watch, now: off }],
    });
    await expect.poll(async () => (await stateNow()).watching, PATIENTLY).toBe(false);
    arrive('later.vtu', heated(20));
    await new Promise((r) => setTimeout(r, 4000));
    expect((await setNow()).runs).toHaveLength(3);
  });
});
