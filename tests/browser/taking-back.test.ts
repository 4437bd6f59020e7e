import { unzipSync } from 'fflate';
import type { Page } from 'playwright-core';
import { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import { temperature } from '../sample-run.ts';
import { hexBlock } from '../vtu-builder.ts';
import { downloaded, importFiles, Site, upload } from './site.ts';

const site = new Site();
let page: Page;

beforeAll(async () => {
  await site.start();
  page = await site.page();
  await page.setViewportSize({ width: 900, height: 600 });
  const block = hexBlock(3);
  const files = [0, 1].map((n) =>
    upload(
      `block_${n}.vtu`,
      writeVtu(block, [temperature(block, (x, y) => 20 + n + x + y)], n, { length: 'm', time: 's' }),
    ),
  );
  await importFiles(page, files);
});
afterAll(() => site.stop());

const shots = () => page.getByLabel('Shots').getByRole('button').allTextContents();
const shotsBecome = (names: string[]) => expect.poll(shots, { timeout: 20_000 }).toEqual(names);
const undo = () => page.getByRole('button', { name: 'Undo', exact: true }).click();

describe('shots', () => {
  it('are kept, renamed and deleted, and undo takes each back in its turn', async () => {
    await page.getByRole('button', { name: 'Keep shot' }).click();
    await shotsBecome(['Shot 1']);
    await page.getByRole('button', { name: 'Look from +x' }).click();
    await page.getByRole('button', { name: 'Keep shot' }).click();
    await shotsBecome(['Shot 1', 'Shot 2']);
    await page.getByRole('button', { name: 'Open Shot 1' }).click({ button: 'right' });
    await page.getByRole('menuitem', { name: 'Delete' }).click();
    await shotsBecome(['Shot 2']);
    await undo();
    await shotsBecome(['Shot 1', 'Shot 2']);
    await undo();
    await shotsBecome(['Shot 1']);
    await page.getByRole('button', { name: 'Redo', exact: true }).click();
    await shotsBecome(['Shot 1', 'Shot 2']);
    await page.reload();
    await shotsBecome(['Shot 1', 'Shot 2']);
  });
  it('are given out all at once, by their names and at one size', async () => {
    await page.getByRole('button', { name: 'Give out' }).click();
    await page.getByLabel('Width in pixels').fill('160');
    await page.getByLabel('Width in pixels').press('Enter');
    await page.getByLabel('Height in pixels').fill('120');
    await page.getByLabel('Height in pixels').press('Enter');
    await page.getByRole('button', { name: 'Proof', exact: true }).click();
    await page.getByRole('button', { name: 'Make all 2 shots, as a zip' }).click();
    const { name, bytes } = await downloaded(page, 'Save zip');
    expect(name).toBe('block-shots.zip');
    const files = unzipSync(new Uint8Array(bytes));
    expect(Object.keys(files)).toEqual(['Shot-1.png', 'Shot-2.png']);
    const pictures = Object.values(files).map((f) => PNG.sync.read(Buffer.from(f)));
    for (const { width, height } of pictures) expect([width, height]).toEqual([160, 120]);
    expect(pictures[0].data.equals(pictures[1].data)).toBe(false);
    await page.getByRole('button', { name: 'Back to the scene' }).click();
  });
});

describe('the keys of the desk', () => {
  const focused = () => page.evaluate(() => document.activeElement?.getAttribute('aria-label') ?? '');
  it('go round the lines, the picture and the time', async () => {
    await page.keyboard.press('F6');
    expect(await focused()).toBe('Which parts');
    await page.keyboard.press('F6');
    expect(await focused()).toMatch(/^The picture/);
  });
  it('turn the picture, and point at what is in it', async () => {
    const view = () => page.locator('aside p').filter({ hasText: 'from ' }).last().textContent();
    const before = await view();
    for (let i = 0; i < 12; i++) await page.keyboard.press('ArrowLeft');
    await expect.poll(view).not.toBe(before);
    await page.keyboard.press('Enter');
    await page.getByTestId('cross').waitFor({ state: 'attached' });
    await page.keyboard.press('Enter');
    await page.getByRole('menu', { name: 'Part block' }).waitFor();
    await page.getByText('The files name no regions of it').waitFor();
    await page.keyboard.press('Escape');
  });
  it('reach a word of a line, Play and a legend within eight stops', async () => {
    const stopsTo = async (target: RegExp): Promise<number> => {
      for (let n = 0; n <= 8; n++) {
        if (target.test(await focused())) return n;
        await page.keyboard.press('Tab');
      }
      return 9;
    };
    await page.reload();
    await page.getByRole('button', { name: /^Legend of/ }).waitFor();
    expect(await stopsTo(/^Which parts/)).toBeLessThan(9);
    await page.locator('#picture').focus();
    expect(await stopsTo(/^Legend of/)).toBeLessThan(9);
    await page.locator('#picture').focus();
    expect(await stopsTo(/^Play/)).toBeLessThan(9);
    await page.keyboard.press('?');
    await page.getByRole('dialog', { name: 'Keys' }).waitFor();
    await page.keyboard.press('Escape');
  });
});

describe('scenes', () => {
  it('are taken off the list without being asked for, and brought back', async () => {
    await page.goto(site.address);
    await page.getByRole('button', { name: 'Delete block' }).click();
    await page.getByText('“block” is off the list').waitFor();
    expect(await page.getByRole('link', { name: /block/ }).count()).toBe(0);
    await page.getByRole('button', { name: 'Bring it back' }).click();
    await page
      .getByRole('link', { name: /^block/ })
      .first()
      .waitFor();
    await page
      .getByRole('link', { name: /^block/ })
      .first()
      .click();
    await shotsBecome(['Shot 1', 'Shot 2']);
  });
});
