import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import axe from 'axe-core';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import type { Scene } from '#core/scene/document.ts';
import type { PreflightReport } from '../../cli/preflight.ts';
import { temperature } from '../sample-run.ts';
import { hexBlock } from '../vtu-builder.ts';
import { importFiles, Site, settled, upload } from './site.ts';

const site = new Site();
const folder = mkdtempSync(join(tmpdir(), 'dresser-preflight-'));
const oven = writeVtu(hexBlock(3), [temperature(hexBlock(3), (x, y) => 20 + x + 2 * y)], null);
let page: Page;

beforeAll(async () => {
  await site.start();
  page = await site.page();
  await page.setViewportSize({ width: 1280, height: 800 });
  await importFiles(page, [upload('oven.vtu', oven)]);
});
afterAll(async () => {
  await site.stop();
  rmSync(folder, { recursive: true, force: true });
});

const sceneNow = async (): Promise<Scene> =>
  (await site.get<{ document: Scene }>(`/api/scenes/${new URL(page.url()).pathname.split('/').at(-1)}`))
    .document;
const badge = () => page.getByTestId('preflight');
const list = () => page.getByLabel('Preflight of the picture');
const rule = (id: string) => page.locator(`[data-rule="${id}"]`);

describe('the preflight on the stage', () => {
  it('says in a corner how many things there are to know, and leads to what mends them', async () => {
    await badge().click();
    await rule('no title').waitFor();
    await page.evaluate(axe.source);
    const { violations } = await page.evaluate(() =>
      (window as never as { axe: typeof axe }).axe.run('[aria-label="Preflight of the picture"]'),
    );
    expect(violations.map((v) => v.id)).toEqual([]);
    await rule('no title').getByRole('button', { name: 'Write the name of the scene' }).click();
    await expect.poll(async () => (await sceneNow()).annotations.map((a) => a.text)).toEqual(['{scene}']);
    await rule('no title').waitFor({ state: 'detached' });
    await page.keyboard.press('Escape');
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect.poll(async () => (await sceneNow()).annotations).toEqual([]);
  });
  it('knows what is written on the picture, and for whom it is too small', async () => {
    await settled(page);
    await badge().click();
    expect(await rule('small words').count()).toBe(0);
    await list().getByLabel('Looked at').selectOption('across a meeting room');
    await rule('small words').first().waitFor();
    expect(await rule('small words').first().textContent()).toContain('minutes of arc');
    await list().getByLabel('Looked at').selectOption('on a screen');
    await rule('small words').first().waitFor({ state: 'detached' });
  });
  it('takes a reason where something is meant to be so, and can check it again', async () => {
    await rule('no title').getByRole('button', { name: 'Meant to be so' }).click();
    await page.getByLabel('Why it is meant to be so').fill('The slide says it');
    await page.keyboard.press('Enter');
    const waived = [{ rule: 'no title', of: 'the picture', reason: 'The slide says it' }];
    await expect.poll(async () => (await sceneNow()).checks.waived).toEqual(waived);
    await list().getByText('1 meant to be so').click();
    await list().getByRole('button', { name: 'Check it again' }).click();
    await rule('no title').waitFor();
    await page.keyboard.press('Escape');
  });
  it('stands before what is given out, at the size that is asked for', async () => {
    await page.getByRole('button', { name: 'Give out' }).click();
    const before = page.getByTestId('before-it-leaves');
    await before.locator('summary').first().click();
    expect(await rule('small words').count()).toBe(0);
    await page.getByLabel('Height in pixels').fill('120');
    await page.keyboard.press('Enter');
    await expect.poll(() => rule('small words').first().textContent()).toContain('cannot be read');
  });
});

describe('the preflight on the command line', () => {
  const run = join(folder, 'oven.vtu');
  writeFileSync(run, oven);
  const preflight = (...more: string[]) =>
    spawnSync(
      process.execPath,
      ['cli/bin.mjs', 'preflight', 'default', '--run', run, '--size', '640x480', ...more],
      { encoding: 'utf8' },
    );
  it('tells what it finds as JSON, and by its exit code whether anything counts', () => {
    const strict = preflight('--least', 'minor', '--json');
    expect(strict.stderr).toBe('');
    expect(strict.status).toBe(2);
    const report = JSON.parse(strict.stdout) as PreflightReport;
    expect(report.pictures.map((p) => p.step)).toEqual([1]);
    const [{ findings }] = report.pictures;
    expect(findings.map((f) => f.rule)).toContain('no title');
    expect(report.open).toBe(findings.length);
    for (const finding of findings) expect(finding.says && finding.remedy && finding.place.name).toBeTruthy();
    const lenient = preflight('--least', 'serious');
    expect(lenient.status).toBe(0);
    expect(lenient.stdout).toMatch(/minor: Nothing on the picture says what it shows\..*\[no title\]/);
  });
});
