import type { Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Scene } from '#core/scene/document.ts';
import { ovenFiles } from './sample-files.ts';
import { differing, importFiles, pictureOnScreen, Site, settled } from './site.ts';

const site = new Site();
let page: Page;
beforeAll(async () => {
  await site.start();
  page = await site.page();
});
afterAll(() => site.stop());

async function savedScene(): Promise<Scene> {
  await page.getByText('saved', { exact: true }).waitFor();
  const id = page.url().split('/').pop();
  return (await site.get<{ document: Scene }>(`/api/scenes/${id}`)).document;
}

it('a line in a finish, its own made of it, a part that wears one by dropping it, and all undone', async () => {
  await importFiles(page, ovenFiles(2));
  const before = await pictureOnScreen(page);
  const line = page.locator('[data-layer]').first();
  await line.getByRole('button', { name: 'Fine settings' }).click();
  await line.getByRole('button', { name: 'The finish' }).click();
  const choices = page.locator('.card').filter({ hasText: 'drag one onto a body' });
  // Each is shown on a small body.
  await choices.getByRole('button', { name: 'polished steel' }).locator('img').waitFor();
  await choices.getByRole('button', { name: 'polished steel' }).click();
  await settled(page);
  expect(await line.textContent()).toContain(', as polished steel');
  expect(differing(before, await pictureOnScreen(page))).toBeGreaterThan(0.05);
  expect((await savedScene()).layers[0].finish).toBe('polished-steel');

  await choices.getByText('What it is made of').click();
  const roughness = choices.getByLabel('Roughness', { exact: true }).first();
  await roughness.fill('0.5');
  await roughness.press('Enter');
  await choices.getByLabel('Name').fill('worn steel');
  await choices.getByLabel('Name').press('Tab');
  await settled(page);
  expect(await line.textContent()).toContain(', as worn steel');
  expect((await savedScene()).layers[0].finish).toMatchObject({
    name: 'worn steel',
    metal: 1,
    roughness: 0.5,
  });

  // Dropped on a body of the picture, beside the choices.
  const rust = choices.getByRole('button', { name: 'rust', exact: true });
  await rust.scrollIntoViewIfNeeded();
  const [from, to] = [(await rust.boundingBox())!, (await page.getByTestId('picture').boundingBox())!];
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(from.x + from.width, from.y, { steps: 3 });
  // Beside the choices.
  await page.mouse.move(to.x + 0.77 * to.width, to.y + 0.36 * to.height, { steps: 5 });
  await page.mouse.up();
  // What lies there is looked for first.
  const worn = async () => Object.values((await savedScene()).parts).map((p) => p.finish);
  await expect.poll(worn, { timeout: 20_000 }).toEqual(['rust']);
  await settled(page);

  await page.keyboard.press('Escape');
  const undo = page.getByRole('button', { name: 'Undo' });
  for (let i = 0; i < 30 && (await undo.isEnabled()); i++) await undo.click();
  await settled(page);
  expect(differing(before, await pictureOnScreen(page))).toBeLessThan(0.005);
});

it('light is chosen among rigs and told in numbers, in the sentence too', async () => {
  const lens = page.getByRole('button', { name: 'The light', exact: true });
  await lens.click();
  await page
    .locator('.card')
    .getByRole('button', { name: /^Night light/ })
    .click();
  await page.locator('.card').getByLabel('Warmth', { exact: true }).first().fill('0.4');
  await page.locator('.card').getByLabel('Warmth', { exact: true }).first().press('Enter');
  await page.keyboard.press('Escape');
  await settled(page);
  expect(await page.locator('#lines').textContent()).toContain('Night light, warm');
  expect((await savedScene()).light).toMatchObject({ rig: 'night', warmth: 0.4 });
});
