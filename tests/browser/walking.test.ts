import type { Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { dot, lengthOf, subtract, unit } from '#core/model/vectors.ts';
import type { Scene } from '#core/scene/document.ts';
import { ovenFiles } from './sample-files.ts';
import { importFiles, Site, settled } from './site.ts';

const site = new Site();
let page: Page;
beforeAll(async () => {
  await site.start();
  page = await site.page();
  await importFiles(page, ovenFiles(1));
});
afterAll(() => site.stop());

async function camera(): Promise<Scene['camera']> {
  await settled(page);
  await page.getByText('saved', { exact: true }).waitFor();
  const id = page.url().split('/').pop();
  return (await site.get<{ document: Scene }>(`/api/scenes/${id}`)).document.camera;
}

it('one walks through the model: looks around, goes on by wheel and arrows, and undoes it', async () => {
  const begun = await camera();
  const ahead = unit(subtract(begun.target, begun.position));
  const arm = lengthOf(subtract(begun.target, begun.position));
  await page.getByRole('button', { name: 'walk', exact: true }).click();
  const box = (await page.locator('#picture').boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 3];

  await page.mouse.move(x, y);
  for (let i = 0; i < 5; i++) await page.mouse.wheel(0, -100);
  const gone = await camera();
  const way = subtract(gone.position, begun.position);
  expect(lengthOf(way)).toBeGreaterThan(0);
  expect(dot(unit(way), ahead)).toBeCloseTo(1, 6);
  // What is looked at goes along, so that one comes through instead of ever nearer.
  expect(lengthOf(subtract(gone.target, gone.position))).toBeCloseTo(arm, 9);

  await page.mouse.down();
  await page.mouse.move(x + 60, y, { steps: 4 });
  await page.mouse.up();
  const turned = await camera();
  expect(turned.position).toEqual(gone.position);
  expect(turned.target).not.toEqual(gone.target);

  await page.locator('#picture').focus();
  await page.keyboard.press('Shift+ArrowUp');
  const raised = await camera();
  const up = subtract(raised.position, turned.position);
  expect([up[0], up[1]].map((v) => Math.abs(v) < 1e-9)).toEqual([true, true]);
  expect(up[2]).toBeGreaterThan(0);

  const undo = page.getByRole('button', { name: 'Undo' });
  while (await undo.isEnabled()) await undo.click();
  expect((await camera()).position).toEqual(begun.position);

  await page.getByRole('button', { name: 'walk', exact: true }).click();
  await page.mouse.move(x, y);
  await page.mouse.wheel(0, -100);
  const near = await camera();
  expect(lengthOf(subtract(near.target, near.position))).toBeLessThan(arm);
});
