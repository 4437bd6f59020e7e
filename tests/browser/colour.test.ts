import { converter, differenceCiede2000 } from 'culori';
import type { Page } from 'playwright-core';
import { PNG } from 'pngjs';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { CompiledScale } from '#core/colour/compiled-scale.ts';
import { evenBands } from '#core/model/levels.ts';
import { ovenFiles, plateFile } from './sample-files.ts';
import { downloaded, importFiles, pixel, Site } from './site.ts';

// CIEDE2000 by culori, a general-purpose colour library.
const difference = differenceCiede2000();
const toLch = converter('lch65');
const toLinear = converter('lrgb');
const rgb = (c: ArrayLike<number>) => ({ mode: 'rgb' as const, r: c[0] / 255, g: c[1] / 255, b: c[2] / 255 });

const site = new Site();
let page: Page;
beforeAll(async () => {
  await site.start();
  page = await site.page();
});
afterAll(() => site.stop());

async function still(width: number, height: number): Promise<PNG> {
  await page.getByRole('button', { name: 'Give out' }).click();
  await page.getByLabel('Width in pixels').fill(String(width));
  await page.keyboard.press('Enter');
  await page.getByLabel('Height in pixels').fill(String(height));
  await page.keyboard.press('Enter');
  // Hue and lightness are there from the first pass on.
  await page.getByRole('button', { name: 'Draft', exact: true }).click();
  await page.getByRole('button', { name: 'Make the picture' }).click();
  return PNG.sync.read((await downloaded(page, 'Save PNG')).bytes);
}

it('with the even light, the pixel of a value and its place in the legend differ by less than 1 in CIEDE2000', async () => {
  await importFiles(page, [plateFile()]);
  // A map whose ends both stand out from the backdrop, so that the edges of the plate can be found.
  await page.getByRole('button', { name: 'The colour scale' }).click();
  await page.getByRole('button', { name: 'Viridis' }).click();
  await page.keyboard.press('Escape');
  const png = await still(800, 600);
  // The plate reaches over the middle of the picture; its own edges are where the strong colours begin and end.
  const row = png.height / 2;
  const strong = (x: number) => difference(rgb(pixel(png, x, row)), rgb(pixel(png, 5, row))) > 12;
  let left = 0;
  while (!strong(left)) left++;
  let right = left;
  while (strong(right + 1)) right++;
  expect(right - left).toBeGreaterThan(300);
  // The legend stands at the right: find its bar as the column of the longest run of changing colour.
  const column = right + 8;
  const bars = Array.from({ length: png.width - column }, (_, i) => column + i).map((x) => {
    const rows = Array.from({ length: png.height }, (_, y) => y).filter((y) => {
      const c = pixel(png, x, y);
      return Math.max(...c.slice(0, 3)) - Math.min(...c.slice(0, 3)) > 45;
    });
    return { x, rows };
  });
  const bar = bars.reduce((a, b) => (b.rows.length > a.rows.length ? b : a));
  const inside = bars.filter((b) => b.rows.length > 0.9 * bar.rows.length);
  const x = inside[Math.floor(inside.length / 2)].x;
  const scale = { map: 'viridis', reversed: false, bands: null, low: 0, high: 100 };
  let compared = 0;
  for (const y of bar.rows.slice(8, -8)) {
    const legend = rgb(pixel(png, x, y));
    // The same colour must be met on the plate where the value is the one the legend stands for.
    let best = { d: Infinity, value: 0 };
    for (let px = left + 3; px <= right - 3; px++) {
      const d = difference(legend, rgb(pixel(png, px, row)));
      if (d < best.d) best = { d, value: (100 * (px + 0.5 - left)) / (right - left + 1) };
    }
    expect(best.d).toBeLessThan(1);
    const ideal = CompiledScale.of(scale)
      .colour(best.value)
      .map((v) => 255 * v);
    expect(difference(legend, rgb(ideal))).toBeLessThan(2);
    compared++;
  }
  expect(compared).toBeGreaterThan(150);
  // And value by value: the plate shows what the scale says.
  for (let value = 5; value <= 95; value += 5) {
    const px = left + ((right - left + 1) * value) / 100;
    const ideal = CompiledScale.of(scale)
      .colour((100 * (Math.floor(px) + 0.5 - left)) / (right - left + 1))
      .map((v) => 255 * v);
    expect(difference(rgb(pixel(png, Math.floor(px), row)), rgb(ideal))).toBeLessThan(1);
  }
});

it('in studio light only the lightness of a colour changes, its hue stays', async () => {
  await page.goto(site.address);
  const mesh = ovenFiles(1);
  await importFiles(page, mesh);
  // One band: one colour on the whole body, whatever the light.
  await page.getByRole('button', { name: 'The colour scale' }).click();
  await page.getByRole('tab', { name: 'Bands' }).click();
  await page.getByRole('button', { name: 'even', exact: true }).click();
  await page.getByLabel('Number of bands').fill('1');
  await page.keyboard.press('Escape');
  const png = await still(360, 300);
  const own = toLch(
    rgb(
      CompiledScale.of({ map: 'heat', reversed: false, bands: evenBands(1), low: 0, high: 1 })
        .colour(0.5)
        .map((v) => 255 * v),
    ),
  );
  const found: number[] = [];
  for (let y = 40; y < 260; y += 3) {
    for (let x = 60; x < 290; x += 3) {
      const c = toLch(rgb(pixel(png, x, y)));
      // Leave out the backdrop and pixels on edges, which are half backdrop.
      const edge = [-2, 2].some(
        (d) => toLch(rgb(pixel(png, x + d, y))).c < 25 || toLch(rgb(pixel(png, x, y + d))).c < 25,
      );
      if (c.c < 25 || c.l > own.l + 2 || edge) continue;
      found.push(c.l);
      if (c.l > 20) expect(Math.abs(((c.h! - own.h! + 540) % 360) - 180)).toBeLessThan(3);
    }
  }
  expect(found.length).toBeGreaterThan(500);
  expect(Math.max(...found)).toBeLessThanOrEqual(own.l + 1);
  // Lambert's law for the lamp and the surroundings of the rig, by hand: of the full light the upper face gets 0.92, the
  // one turned away from the lamp 0.52, less what stands in the way of the surroundings.
  const lit = (share: number): number => {
    const { r, g, b } = toLinear(own);
    return toLch({ mode: 'lrgb', r: share * r, g: share * g, b: share * b }).l;
  };
  const spread = (Math.max(...found) - Math.min(...found)) / (lit(0.92) - lit(0.52));
  expect(spread).toBeGreaterThan(0.67);
  expect(spread).toBeLessThan(1.6);
});
