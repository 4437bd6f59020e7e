import { execFileSync, spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import axe from 'axe-core';
import type { Page } from 'playwright-core';
import { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import type { Finding } from '#core/preflight/rule.ts';
import type { Report } from '#core/report/report.ts';
import type { Scene } from '#core/scene/document.ts';
import { temperature } from '../sample-run.ts';
import { hexBlock } from '../vtu-builder.ts';
import { downloaded, importFiles, PATIENCE, Site, upload } from './site.ts';

const site = new Site();
let page: Page;
/** Pictures without a card take their time: these are small. */
const PICTURES = { width: 320, passes: 2 };

beforeAll(async () => {
  await site.start();
  page = await site.page();
  await page.setViewportSize({ width: 1280, height: 800 });
  const mesh = hexBlock(3);
  const at = (x: number, y: number): number => 20 + x + 2 * y;
  await importFiles(page, [upload('oven.vtu', writeVtu(mesh, [temperature(mesh, at)], null))]);
  await press('Keep shot');
  await page.getByRole('button', { name: 'Open Shot 1' }).waitFor();
  scene = idOf();
});
afterAll(() => site.stop());

let scene: string;
let shot: { id: string; document: Scene };
const press = (name: string) => page.getByRole('button', { name, exact: true }).click();
const idOf = (): string => new URL(page.url()).pathname.split('/').at(-1)!;
const report = async () =>
  (await site.get<{ document: Report; revision: number }>(`/api/reports/${idOf()}`)).document;
const put = (address: string, json: unknown) =>
  fetch(site.address + address, {
    method: 'PUT',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(json),
  });
/** The page within the desk; what stands in it is found through its borders. */
const live = () => page.getByRole('region', { name: 'The page' });

describe('a report', () => {
  it('is begun, and filled with a figure of a shot that tells itself', async () => {
    [shot] = await site.get<(typeof shot)[]>(`/api/scenes/${scene}/shots`);
    await page.goto(`${site.address}/report`);
    await page.getByLabel('Title of the new report').fill('Even baking');
    await press('Begin a report');
    await page.waitForURL(/\/report\/.+/);
    const id = idOf();
    const { pictures } = await report();
    const changes = Object.entries(PICTURES).map(([key, now]) => ({
      at: ['pictures', key],
      was: pictures[key as keyof typeof pictures],
      now,
    }));
    expect((await put(`/api/reports/${id}`, { revision: 1, changes })).ok).toBe(true);
    await page.reload();
    await press('Results');
    await press('Add to the report');
    await page.getByRole('button', { name: /^Figure/ }).click();
    await page
      .getByRole('region', { name: 'Shots' })
      .getByRole('button', { name: /Shot 1/ })
      .click();
    await live().locator('figure img').waitFor({ timeout: PATIENCE });
    await expect.poll(() => live().locator('figcaption').textContent()).toMatch(/^Figure 1\. .*temperature/s);
    expect(await live().locator('figure img').getAttribute('alt')).toMatch(/coloured by temperature/);
  });

  it('has in its figure the very picture that is given out as a still', async () => {
    const final = live().locator('figure img[src$=".png"]:not([src*=draft])');
    await final.waitFor({ timeout: PATIENCE });
    const shown = PNG.sync.read(
      Buffer.from(await (await fetch(site.address + (await final.getAttribute('src')))).arrayBuffer()),
    );
    expect(shown.width).toBe(PICTURES.width);
    const { run } = await site.get<{ run: string }>(`/api/scenes/${scene}`);
    const begun = await fetch(`${site.address}/api/runs/${run}/pictures`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({
        scene: shot.document,
        pictures: [{ step: 0 }],
        width: shown.width,
        height: shown.height,
        transparent: false,
        passes: PICTURES.passes,
      }),
    });
    const { job } = (await begun.json()) as { job: string };
    await expect
      .poll(async () => (await site.get<{ state: string }>(`/api/jobs/${job}`)).state, { timeout: PATIENCE })
      .toBe('done');
    const still = await fetch(`${site.address}/api/jobs/${job}/pictures/0`);
    const { data } = PNG.sync.read(Buffer.from(await still.arrayBuffer()));
    expect(Buffer.compare(data, shown.data)).toBe(0);
  });

  it('holds numbers in its text that are offered where one types', async () => {
    await press('Summary');
    await press('Add to the report');
    await page.getByRole('button', { name: /^Text/ }).click();
    const field = page.getByLabel('Text', { exact: true });
    await field.fill('No more than {');
    await field.pressSequentially('max temp');
    await page.getByRole('option', { name: /^max temperature of Shot 1/ }).click();
    await field.press('End');
    await field.pressSequentially(' degrees, see {figure Shot 1}.');
    // 20 + 1 + 2 · 1, at the far corner of the block.
    await expect
      .poll(() => live().locator('.text').textContent())
      .toMatch(/^No more than 23(\.0*)? degrees, see Figure 1\.$/);
  });

  it('speaks to everybody in other words, and lets what was written by hand stand', async () => {
    await press('For everybody');
    await expect.poll(() => live().locator('figcaption').textContent()).toMatch(/coloured by temperature/);
    expect(await live().locator('h2').first().textContent()).not.toMatch(/^\d/);
    await press('Shot 1');
    await press('Write the caption for everybody');
    await page.getByLabel('Caption for everybody').fill('How hot it gets.');
    // The text refers to the figure: it has its number for everybody too.
    await expect.poll(() => live().locator('figcaption').textContent()).toBe('Figure 1. How hot it gets.');
    await press('Engineering review');
    await expect.poll(() => live().locator('figcaption').textContent()).toMatch(/^Figure 1\./);
    await press('For everybody');
    await expect.poll(() => live().locator('figcaption').textContent()).toBe('Figure 1. How hot it gets.');
    await press('Engineering review');
  });

  it('is put in another order by keys, and undone', async () => {
    const titles = () => live().locator('h2').allInnerTexts();
    await page.getByRole('button', { name: 'Move Summary' }).focus();
    await page.keyboard.press('Space');
    await page.waitForTimeout(500);
    await page.keyboard.press('ArrowDown');
    await page.waitForTimeout(300);
    await page.keyboard.press('ArrowDown');
    await page.waitForTimeout(300);
    await page.keyboard.press('Space');
    // The template keeps the summary in front; what stood below it belongs to nothing now.
    await expect.poll(async () => (await report()).blocks[0].kind).toBe('text');
    await press('Undo');
    await expect.poll(async () => (await report()).blocks[0].kind).toBe('heading');
    expect(await titles()).toContain('1 Summary');
  });

  it('says what has changed since, and shows it before and after once it is refreshed', async () => {
    const changed = {
      ...shot.document,
      layers: shot.document.layers.map((l) => ({ ...l, name: 'Hot loaf', opacity: 0.5 })),
    };
    expect((await put(`/api/shots/${shot.id}`, { document: changed })).ok).toBe(true);
    await page.evaluate(() => dispatchEvent(new Event('focus')));
    await page.getByText('Shot 1 changed since it was drawn.').waitFor();
    await live().getByText('It has changed since.').waitFor();
    await live().getByRole('button', { name: 'Refresh' }).click();
    await page.getByText('Shot 1 was refreshed.').waitFor({ timeout: PATIENCE });
    await press('Before and after');
    const news = page.getByRole('region', { name: 'What has changed' });
    await expect.poll(() => news.locator('img').count()).toBe(2);
    await press('Undo');
    await page.getByText('Shot 1 changed since it was drawn.').waitFor();
    await press('Redo');
    await press('Before and after');
    await press('Seen');
    await expect.poll(async () => (await report()).sources[0].before).toBeNull();
  });

  it('says of a shot that is gone that it shows what was seen last', async () => {
    await put('/api/removed', { kind: 'shot', id: shot.id, removed: true });
    await page.evaluate(() => dispatchEvent(new Event('focus')));
    await page.getByText('is no longer there: the report shows what was seen last.').waitFor();
    expect(await live().locator('figure img').count()).toBe(1);
    await put('/api/removed', { kind: 'shot', id: shot.id, removed: false });
    await page.evaluate(() => dispatchEvent(new Event('focus')));
    await page.getByText('is no longer there').waitFor({ state: 'detached' });
  });

  it('keeps versions under names, and brings them back', async () => {
    await press('Earlier states of this report');
    await page.getByLabel('What this version of the report is called').fill('for the board');
    await page.getByRole('dialog').getByRole('button', { name: 'Keep', exact: true }).click();
    await page.getByRole('button', { name: /^for the board/ }).waitFor();
    await page.keyboard.press('Escape');
    await page.getByLabel('Title of the report').fill('Something else');
    await page.getByLabel('Title of the report').blur();
    await expect.poll(async () => (await report()).name).toBe('Something else');
    await press('Earlier states of this report');
    await page.getByRole('button', { name: /^for the board/ }).click();
    await page.keyboard.press('Escape');
    await expect.poll(async () => (await report()).name).toBe('Even baking');
  });

  it('is checked before it leaves; what is meant to be so stands in its appendix', async () => {
    await page.getByRole('button', { name: /^Front/ }).click();
    await page.getByLabel('Below the title').fill('as in /home/maria/run-7');
    const preflight = page.getByTestId('preflight');
    await preflight.locator('summary').first().click();
    const leak = preflight.locator('[data-rule=leak]');
    expect(await leak.textContent()).toContain('“/home/maria/run-7”: a folder of a machine');
    await leak.getByRole('button', { name: 'Meant to be so' }).click();
    await page.getByLabel('Why it is meant to be so').fill('the board asked for it');
    await page.keyboard.press('Enter');
    await leak.waitFor({ state: 'detached' });
    await live().getByText('the board asked for it').waitFor();
    await page.getByLabel('Below the title').fill('');
    await preflight.locator('summary').first().click();
  });

  it('is given out as a page that opens with no network, and that everybody can read', async () => {
    await press('Give the report out');
    await page.getByText(/About .*B; 1 figure can be turned by its readers/).waitFor({ timeout: PATIENCE });
    const file = await downloaded(page, /^Page \(HTML\)/);
    expect(file.name).toBe('Even-baking.html');
    const alone = await page
      .context()
      .browser()!
      .newContext({ offline: true, viewport: { width: 1280, height: 800 } });
    const opened = await alone.newPage();
    const asked: string[] = [];
    opened.on('request', (r) => asked.push(r.url()));
    await opened.setContent(file.bytes.toString('utf8'), { waitUntil: 'load' });
    expect(asked.filter((address) => !address.startsWith('data:'))).toEqual([]);
    expect(await opened.locator('figure img').evaluate((e) => (e as HTMLImageElement).naturalWidth)).toBe(
      PICTURES.width,
    );
    expect(await opened.evaluate(() => document.fonts.check('600 38px Newsreader'))).toBe(true);
    await opened.evaluate(axe.source);
    const found = await opened.evaluate(() => (window as never as { axe: typeof axe }).axe.run());
    expect(found.violations.map((v) => `${v.id}: ${v.nodes.map((n) => n.html).join(' ')}`)).toEqual([]);
    await alone.close();
  });

  it('is written of another run by one command, in every form, and says what is lacking', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'dresser-report-'));
    const at = (name: string): string => join(folder, name);
    const mesh = hexBlock(3);
    writeFileSync(at('colder.vtu'), writeVtu(mesh, [temperature(mesh, (x) => 5 + x)], null));
    const bundle = await site.get<object>(`/api/reports/${idOf()}/bundle`);
    writeFileSync(at('report.json'), JSON.stringify(bundle));
    const files = ['out.html', 'out.pdf', 'out.pptx', 'out.docx', 'out.zip'].map(at);
    const order = ['cli/bin.mjs', 'report', at('report.json'), '--run', at('colder.vtu'), '--out'];
    const told = execFileSync(process.execPath, [...order, ...files, '--json'], { maxBuffer: 2 ** 26 });
    const said = JSON.parse(told.toString());
    expect(said).toMatchObject({ files, troubles: [], problems: [] });
    expect(said.findings.map((f: Finding) => f.place.kind)).toContain('figure');
    const written = readFileSync(files[0], 'utf8');
    expect(written).toMatch(/No more than <data[^>]*>6(\.0*)?<\/data> degrees/);
    expect(written).toContain('colder.vtu');
    expect(written).not.toContain(folder);
    for (const file of files) expect(statSync(file).size).toBeGreaterThan(2000);
    const wrong = spawnSync(process.execPath, [...order, at('out.txt')], { encoding: 'utf8' });
    expect(wrong).toMatchObject({ status: 1, stderr: expect.stringContaining('Let its name end in .html') });
    rmSync(folder, { recursive: true });
  });
});
