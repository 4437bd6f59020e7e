import type { Page } from 'playwright-core';
import { PNG } from 'pngjs';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { plateFile } from './sample-files.ts';
import { downloaded, importFiles, Site, settled } from './site.ts';

const site = new Site();
let page: Page;
beforeAll(async () => {
  await site.start();
  page = await site.page();
  await importFiles(page, [plateFile()]);
  await settled(page);
  await page.getByRole('button', { name: 'Give out' }).click();
  await page.getByRole('button', { name: 'Draft', exact: true }).click();
});
afterAll(() => site.stop());

async function still(width: number, height: number, format: string, save: string): Promise<Buffer> {
  for (const [label, value] of [
    ['Width in pixels', width],
    ['Height in pixels', height],
  ] as const) {
    await page.getByLabel(label).fill(String(value));
    await page.getByLabel(label).press('Enter');
  }
  await page.getByLabel('Format').selectOption(format);
  await page.getByRole('button', { name: 'Make the picture' }).click();
  return (await downloaded(page, save)).bytes;
}

/** Means of so many columns of a picture, all rows, in levels of 255. */
function columns({ data, width, height }: PNG, count: number): number[] {
  const sums = new Float64Array(count);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = 4 * (y * width + x);
      sums[Math.floor((x * count) / width)] += data[i] + data[i + 1] + data[i + 2];
    }
  return [...sums].map((s) => s / (3 * (width / count) * height));
}

it('a still of 16,384 pixels is drawn in tiles, and shows what a small one shows', async () => {
  const large = PNG.sync.read(await still(16_384, 128, 'png16', 'Save PNG, 16 bit'));
  expect([large.width, large.height]).toEqual([16_384, 128]);
  const small = PNG.sync.read(await still(8192, 64, 'png', 'Save PNG'));
  const [a, b] = [columns(large, 64), columns(small, 64)];
  for (const [n, level] of a.entries()) expect(Math.abs(level - b[n]), `column ${n}`).toBeLessThan(3);
  expect(Math.max(...a) - Math.min(...a)).toBeGreaterThan(10);
});
