import { join } from 'node:path';
import { PGlite } from '@electric-sql/pglite';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import { temperature } from '../sample-run.ts';
import { hexBlock } from '../vtu-builder.ts';
import { Site } from './site.ts';

const RUNS = 2000;

const site = new Site();
let page: Page;

/** Copies of a run under names and with parameters of their own: bringing in as many files would take long and tell no more. */
async function copyRun(id: string): Promise<string[]> {
  const database = await PGlite.create(join(site.data, 'database'));
  try {
    const { rows } = await database.query<{ id: string }>(
      `insert into runs (id, name, description, created)
         select 'copy-' || n, 'oven_' || lpad(n::text, 4, '0'),
           jsonb_set(description::jsonb, '{parameters}',
             jsonb_build_object('fan', 600 + 10 * (n % 40), 'vent', 15 * (n % 5), 'mean', 150 + n / 1000.0))::json,
           created - make_interval(secs => n)
         from runs, generate_series(1, $2::int) as n where id = $1
       returning id`,
      [id, RUNS],
    );
    return rows.map((r) => r.id);
  } finally {
    await database.close();
  }
}

beforeAll(async () => {
  await site.start();
  const mesh = hexBlock(2);
  const oven = writeVtu(mesh, [temperature(mesh, (x) => 20 + x)], null);
  const { run } = await site.imported({ 'oven.vtu': oven });
  await site.kill();
  const runs = await copyRun(run);
  await site.start();
  const { answer } = await site.send<{ id: string }>('POST', '/api/sets', { name: 'A year of ovens', runs });
  page = await site.page();
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto(`${site.address}/sheets/${answer.id}`);
});
afterAll(() => site.stop());

describe('a set of two thousand runs', () => {
  const rows = () => page.getByRole('rowheader').allTextContents();
  const table = () => page.getByRole('table', { name: 'Runs of the set' });
  const scroller = () => table().locator('xpath=..');

  it('has only the rows in sight on the page, and says how many there are', async () => {
    await expect
      .poll(() => page.getByRole('button', { name: 'Which runs belong to the set' }).textContent())
      .toBe('2000 runs');
    expect(await table().getAttribute('aria-rowcount')).toBe(String(RUNS + 1));
    const first = await rows();
    expect(first[0]).toBe('oven_0001');
    expect(first.length).toBeLessThan(60);
  });

  it('is scrolled to its end and back', async () => {
    await scroller().evaluate((element) => element.scrollTo(0, element.scrollHeight));
    await expect.poll(async () => (await rows()).at(-1)).toBe(`oven_${RUNS}`);
    expect((await rows()).length).toBeLessThan(60);
    await scroller().evaluate((element) => element.scrollTo(0, 0));
    await expect.poll(async () => (await rows())[0]).toBe('oven_0001');
  });

  it('is sorted, filtered and grouped as a whole', async () => {
    await page.getByRole('button', { name: 'Column mean', exact: true }).click();
    await page.getByRole('button', { name: 'downwards' }).click();
    await expect.poll(async () => (await rows())[0]).toBe(`oven_${RUNS}`);
    await page.getByLabel('Only to').fill('150.1');
    await page.keyboard.press('Enter');
    await page.keyboard.press('Escape');
    await page.getByText(`100 of ${RUNS} are shown`).waitFor();
    await expect.poll(async () => (await rows())[0]).toBe('oven_0100');
    await page.getByRole('button', { name: 'show all' }).click();
    await page.getByRole('dialog').waitFor({ state: 'detached' });
    await page.getByRole('button', { name: 'Column vent', exact: true }).click();
    await page.getByRole('button', { name: 'in groups' }).click();
    await page.getByRole('rowheader', { name: 'vent 0, 400 runs' }).waitFor();
  });

  it('is fitted and correlated over all its runs', async () => {
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'response', exact: true }).click();
    await page.getByRole('img', { name: /^mean over / }).waitFor();
    await page.getByRole('button', { name: 'relations', exact: true }).click();
    await page.getByRole('img', { name: 'vent over fan' }).waitFor();
  });
});
