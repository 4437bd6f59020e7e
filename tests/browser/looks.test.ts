import type { Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Scene } from '#core/scene/document.ts';
import { ovenFiles } from './sample-files.ts';
import { differing, importFiles, pictureOnScreen, pixel, Site, settled } from './site.ts';

const site = new Site();
let page: Page;
beforeAll(async () => {
  await site.start();
  page = await site.page();
  await importFiles(page, ovenFiles(2));
});
afterAll(() => site.stop());

async function savedScene(): Promise<Scene> {
  await page.getByText('saved', { exact: true }).waitFor();
  const id = page.url().split('/').pop();
  return (await site.get<{ document: Scene }>(`/api/scenes/${id}`)).document;
}

const card = () => page.locator('.card');
const openLooks = () => page.getByRole('button', { name: 'Looks', exact: true }).click();
const look = (name: string) => card().getByRole('button', { name: new RegExp(`^${name}`) });
const corner = async (): Promise<number[]> => pixel(await pictureOnScreen(page), 4, 4).slice(0, 3);

it('a look is seen on the scene while it is pointed at, put on by a click, and undone at once', async () => {
  const before = await pictureOnScreen(page);
  const scene = await savedScene();
  await openLooks();
  await look('high contrast').hover();
  await expect.poll(corner, { timeout: 60_000 }).toEqual([0, 0, 0]);
  expect(await savedScene()).toEqual(scene);
  // Away from it everything is as it was.
  await page.mouse.move(700, 40);
  await expect.poll(corner, { timeout: 60_000 }).not.toEqual([0, 0, 0]);
  await settled(page);
  expect(differing(before, await pictureOnScreen(page))).toBeLessThan(0.005);

  await look('blueprint').click();
  await page.keyboard.press('Escape');
  await settled(page);
  const worn = await savedScene();
  expect(worn.ink.shown).toBe(true);
  expect(worn.backdrop.kind).toBe('own');
  expect(await page.locator('#lines').textContent()).toContain('inked');
  const [r, , b] = await corner();
  expect(b).toBeGreaterThan(2 * r);

  const undo = page.getByRole('button', { name: 'Undo' });
  expect(await undo.getAttribute('title')).toBe('Undo: put on a look');
  await undo.click();
  await settled(page);
  expect(await savedScene()).toEqual(scene);
  expect(differing(before, await pictureOnScreen(page))).toBeLessThan(0.005);
});

it('the look of a scene is kept under a name, for new scenes too, and taken away and brought back', async () => {
  await openLooks();
  await look('night').click();
  await card().getByLabel('Name of the look').fill('our night');
  await card().getByRole('button', { name: 'Keep', exact: true }).click();
  await card().getByRole('button', { name: 'New scenes begin with our night' }).click();
  await expect.poll(async () => (await site.get<{ look: string }>('/api/new-scenes')).look).not.toBe('paper');
  const { run } = await site.get<{ run: string }>(`/api/scenes/${page.url().split('/').pop()}`);
  const made = await site.send<{ id: string }>('POST', '/api/scenes', { run });
  const { document } = await site.get<{ document: Scene }>(`/api/scenes/${made.answer.id}`);
  expect([document.light.rig, document.floor.mirrors]).toEqual(['night', (await savedScene()).floor.mirrors]);

  await card().getByRole('button', { name: 'Take away our night' }).click();
  await look('our night').first().waitFor({ state: 'detached' });
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Undo' }).click();
  await openLooks();
  await look('our night').waitFor();
  // It is offered as it was kept, under the same name it would be replaced.
  await card().getByLabel('Name of the look').fill('our night');
  await card().getByRole('button', { name: 'Replace' }).waitFor();
  await page.keyboard.press('Escape');
});

it('a finish of one’s own is kept for every scene, and choices are seen while pointed at', async () => {
  await settled(page);
  const line = page.locator('[data-layer]').first();
  await line.getByRole('button', { name: 'Fine settings' }).click();
  await line.getByRole('button', { name: 'The finish' }).last().click();
  const choices = card().filter({ hasText: 'drag one onto a body' });
  const scene = await savedScene();
  const before = await pictureOnScreen(page);
  await choices.getByRole('button', { name: 'polished copper' }).hover();
  await expect
    .poll(async () => differing(before, await pictureOnScreen(page)), { timeout: 60_000 })
    .toBeGreaterThan(0.01);
  expect(await savedScene()).toEqual(scene);
  await choices.getByRole('button', { name: 'polished copper' }).click();
  await choices.getByText('What it is made of').click();
  await choices.getByLabel('Roughness', { exact: true }).first().fill('0.6');
  await choices.getByLabel('Roughness', { exact: true }).first().press('Enter');
  await choices.getByRole('button', { name: 'Keep for every scene' }).click();
  await choices.getByRole('button', { name: 'Kept for every scene' }).waitFor();
  const [kept] = await site.get<{ name: string; document: object }[]>('/api/styles/finish');
  expect(kept).toMatchObject({ name: 'own polished copper', document: { roughness: 0.6, metal: 1 } });
  // Offered though nothing of the scene wears it.
  await choices.getByRole('button', { name: 'plain colour' }).click();
  await choices.getByRole('button', { name: 'own polished copper' }).waitFor();
});

it('the ink and the haze are told in the sentence and chosen there', async () => {
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'The ink', exact: true }).click();
  const inked = card().getByLabel('Ink lines');
  if (!(await inked.isChecked())) await inked.check();
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'The haze', exact: true }).click();
  await card().getByLabel('Lost in haze far away').fill('0.7');
  await page.keyboard.press('Escape');
  const { ink, haze } = await savedScene();
  expect([ink.shown, haze.amount]).toEqual([true, 0.7]);
  const said = await page.locator('#lines').textContent();
  expect(said).toMatch(/thick haze, inked/);
});

it('a view is kept under a name, seen while pointed at, gone back to and deleted', async () => {
  const { camera } = await savedScene();
  const lens = page.getByRole('button', { name: 'The camera', exact: true });
  await lens.click();
  await card().getByLabel('Name of the camera').fill('first');
  await card().getByRole('button', { name: 'Keep view' }).click();
  await card().getByRole('button', { name: 'first', exact: true }).waitFor();
  await page.keyboard.press('Escape');
  await page.getByText('+x', { exact: true }).click();
  await settled(page);
  const aside = await savedScene();
  expect(aside.camera).not.toEqual(camera);
  expect(aside.cameras).toEqual([{ name: 'first', camera }]);

  await lens.click();
  await card().getByRole('button', { name: 'first', exact: true }).click();
  await expect.poll(async () => (await savedScene()).camera).toEqual(camera);
  await card().getByRole('button', { name: 'Delete first' }).click();
  await expect.poll(async () => (await savedScene()).cameras).toEqual([]);
});
