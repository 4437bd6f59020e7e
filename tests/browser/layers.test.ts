import type { Locator, Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Scene } from '#core/scene/document.ts';
import { ovenFiles, plateFile } from './sample-files.ts';
import { coloured, differing, importFiles, pictureOnScreen, pixel, Site, settled } from './site.ts';

const site = new Site();
let page: Page;
beforeAll(async () => {
  await site.start();
  page = await site.page();
});
afterAll(() => site.stop());

const lines = () => page.locator('[data-layer]');
const last = () => lines().last();
const said = async (of: Locator) => (await of.textContent()) ?? '';

async function begin(name: RegExp): Promise<void> {
  await page.getByRole('button', { name: 'Add a line' }).click();
  await page.locator('.card').getByRole('button', { name }).first().click();
  await settled(page);
}

async function type(sentence: string): Promise<void> {
  await page.getByRole('button', { name: 'Add a line' }).click();
  await page.getByLabel('A new line').fill(sentence);
  await page.getByLabel('A new line').press('Enter');
}

async function colourBy(field: string): Promise<void> {
  await last().getByRole('button', { name: 'What it is coloured by' }).click();
  await page
    .locator('.card')
    .getByRole('button', { name: new RegExp(`^${field}`) })
    .click();
  await page.keyboard.press('Escape');
  await settled(page);
}

async function savedScene(): Promise<Scene> {
  await page.getByText('saved', { exact: true }).waitFor();
  const id = page.url().split('/').pop();
  return (await site.get<{ document: Scene }>(`/api/scenes/${id}`)).document;
}

async function undoAll(): Promise<void> {
  const undo = page.getByRole('button', { name: 'Undo' });
  for (let i = 0; i < 60 && (await undo.isEnabled()); i++) await undo.click();
  expect(await undo.isEnabled()).toBe(false);
  await settled(page);
}

it('a translucent slice with the hot zone opaque inside it, each by a variable of its own, and all undone', async () => {
  await importFiles(page, ovenFiles(3));
  const before = await pictureOnScreen(page);
  const begun = await savedScene();
  await lines().first().getByRole('button', { name: 'Hide this line' }).click();

  // The slice: a section through the middle at once, then see-through.
  await begin(/^Section/);
  expect(await said(last())).toMatch(/Section of (oven|everything)/);
  const opaque = await pictureOnScreen(page);
  expect(coloured(opaque)).toBeGreaterThan(0.03);
  await last().getByLabel('Opacity', { exact: true }).waitFor();
  await last().getByLabel('Opacity', { exact: true }).fill('0.4');
  await settled(page);
  const seeThrough = await pictureOnScreen(page);
  const middle = [seeThrough.width / 2, seeThrough.height / 2] as const;
  const strength = (png: typeof opaque) => {
    const c = pixel(png, ...middle).slice(0, 3);
    return Math.max(...c) - Math.min(...c);
  };
  expect(strength(seeThrough)).toBeLessThan(0.8 * strength(opaque));

  // The zone: whole cells where it is hot, coloured by speed.
  await begin(/^Keep where/);
  await colourBy('velocity');
  const zone = await pictureOnScreen(page);
  expect(differing(seeThrough, zone)).toBeGreaterThan(0.02);
  await expect.poll(async () => said(last().getByTestId('news'))).toMatch(/Keeps \d+ of 125 cells\./);

  const scene = await savedScene();
  expect(scene.scales).toHaveLength(2);
  // Two legends, one on either side.
  expect(Math.abs(scene.scales[0].legend.x - scene.scales[1].legend.x)).toBeGreaterThan(0.5);
  const [, slice, kept] = scene.layers;
  expect(slice).toMatchObject({ opacity: 0.4, chain: [{ op: 'section' }] });
  expect(kept).toMatchObject({
    opacity: 1,
    chain: [{ op: 'keep-where' }],
    colour: { field: 'point:velocity' },
  });

  await undoAll();
  expect((await savedScene()).layers).toEqual(begun.layers);
  expect(differing(before, await pictureOnScreen(page))).toBeLessThan(0.01);
});

it('lines can be typed: completed with Tab, refused where they are not understood, empty with the valid range', async () => {
  await page.getByRole('button', { name: 'Add a line' }).click();
  const input = page.getByLabel('A new line');
  // What is not understood stays as it was typed, and nothing is added.
  const unclear = 'Surface of oven, its edges of iron';
  await input.fill(unclear);
  await page.getByRole('option', { name: 'the end' }).waitFor();
  await input.press('Enter');
  await input.press('Tab');
  expect(await input.inputValue()).toBe(unclear);
  await input.fill('Isosurface of temp');
  await input.press('Tab');
  expect(await input.inputValue()).toBe('Isosurface of temperature ');
  await input.pressSequentially('at 9000');
  await input.press('Enter');
  await settled(page);
  await expect
    .poll(async () => said(last().getByTestId('news')))
    .toMatch(/Nothing to show: choose a value between .* and .* °C/);
  // Edited in place as text.
  await last().getByRole('button', { name: 'As text' }).click();
  const own = page.getByLabel('The sentence of this line');
  await own.fill((await own.inputValue()).replace('9000 °C', 'lots'));
  expect(await own.getAttribute('aria-invalid')).toBe('true');
  expect(await said(page.getByRole('listbox'))).toMatch(/a number in °C/);
  await own.fill((await own.inputValue()).replace('lots', '110 °C'));
  await own.press('Enter');
  await settled(page);
  expect((await savedScene()).layers.at(-1)!.chain[0].options).toMatchObject({
    levels: { kind: 'list', values: [110] },
  });
  await undoAll();
});

it('a part set by a box, shown in a line of its own, follows the values at every step', async () => {
  await page.getByRole('button', { name: 'Part sets' }).click();
  await page.getByRole('button', { name: '+ new set …' }).click();
  await page.getByLabel('What the set is made from').selectOption('range');
  const section = page.getByRole('region', { name: 'Part sets' });
  await section.getByLabel('Name').fill('hot');
  await expect.poll(async () => said(section.getByRole('status'))).toMatch(/\d+ of 125 cells/);
  await page.getByRole('button', { name: 'Save the set' }).click();
  await page.getByRole('button', { name: 'New line of hot' }).click();
  await settled(page);
  const counts = async () => /Keeps (\d+) of/.exec(await said(last().getByTestId('news')))![1];
  const late = Number(await counts());
  expect(late).toBeGreaterThan(0);
  await page.keyboard.press(',');
  await expect.poll(counts).not.toBe(String(late));
  await page.keyboard.press('.');
  // A rectangle over cells of the picture.
  await page.getByRole('button', { name: '+ new set …' }).click();
  await page.getByLabel('What the set is made from').selectOption('cells');
  await page.getByRole('button', { name: 'Rectangle' }).click();
  const box = (await page.getByTestId('picture').boundingBox())!;
  await page.mouse.move(box.x + box.width * 0.3, box.y + box.height * 0.2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.65, box.y + box.height * 0.7, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => said(section.getByRole('status'))).toMatch(/[1-9]\d* of 125 cells/);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Save the set' }).click();
  const { sets } = await savedScene();
  expect(sets.map((s) => s.rule.kind)).toEqual(['range', 'cells']);
  await undoAll();
});

it('a flat run revolved by 270 degrees with contour lines on it, by hand, and all undone', async () => {
  await page.goto(site.address);
  await importFiles(page, [plateFile()]);
  const before = await pictureOnScreen(page);
  await lines().first().getByRole('button', { name: 'Hide this line' }).click();
  await begin(/^Revolve/);
  expect(await said(last())).toMatch(/Revolve of plate by\s+270°/);
  await page.getByRole('button', { name: 'Look from +y' }).click();
  await page.getByRole('button', { name: 'Show the whole run' }).click();
  await settled(page);
  const turned = await pictureOnScreen(page);
  // Three of four quarters are there. The disc is as high as the picture but for the margin.
  const [cx, cy] = [turned.width / 2, turned.height / 2];
  const r = 0.2 * turned.height;
  const strong = [
    [1, 1],
    [1, -1],
    [-1, 1],
    [-1, -1],
  ].filter(([x, y]) => {
    const c = pixel(turned, cx + x * r, cy + y * r).slice(0, 3);
    return Math.max(...c) - Math.min(...c) > 60;
  });
  expect(strong).toHaveLength(3);

  // Contour lines that follow that line, whatever becomes of it.
  await last().getByRole('button', { name: 'Follow' }).click();
  await last().getByRole('button', { name: 'Add an operation' }).click();
  await page
    .locator('.card')
    .getByRole('button', { name: /^Contour lines/ })
    .click();
  await page.keyboard.press('Escape');
  await last().getByRole('button', { name: 'What it is coloured by' }).click();
  await page.getByRole('button', { name: 'no field, one colour' }).click();
  await page.keyboard.press('Escape');
  await settled(page);
  const lined = await pictureOnScreen(page);
  const changed = differing(turned, lined);
  expect(changed).toBeGreaterThan(0.005);
  expect(changed).toBeLessThan(0.25);
  expect(await said(last())).toMatch(/Contour lines on line 2 of temperature/);

  // One change moves all that follow: half a turn instead.
  const scene = await savedScene();
  const [, body, contour] = scene.layers;
  expect(contour.from).toBe(body.id);
  await lines().nth(1).getByRole('button', { name: 'Fine settings' }).click();
  const angle = lines().nth(1).getByRole('slider', { name: 'By' });
  await angle.fill('180');
  await settled(page);
  expect(differing(lined, await pictureOnScreen(page))).toBeGreaterThan(0.05);

  await undoAll();
  expect(differing(before, await pictureOnScreen(page))).toBeLessThan(0.01);
});

it('a line whose source is gone says so and keeps its settings', async () => {
  await type('Section at x = 0.5');
  await settled(page);
  await last().getByRole('button', { name: 'Follow' }).click();
  await settled(page);
  await lines().nth(1).getByRole('button', { name: 'Fine settings' }).click();
  await lines().nth(1).getByRole('button', { name: 'Delete' }).click();
  await expect.poll(async () => said(last().getByTestId('news'))).toMatch(/The line it follows is gone/);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(async () => last().getByTestId('news').count()).toBe(0);
  await undoAll();
});
