import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Scene } from '#core/scene/document.ts';
import { ovenFiles } from './sample-files.ts';
import { importFiles, Site, settled } from './site.ts';

const site = new Site();
let page: Page;
let id = '';
// A cube of 0.5 m; its temperature is 30 + 35 n + 60 x + 40 y z, its velocity (1 + 4 z, 0, n), with steps 2 s apart.
beforeAll(async () => {
  await site.start();
  page = await site.page();
  await importFiles(page, ovenFiles(3));
  id = page.url().split('/').pop()!;
  await page.getByRole('slider', { name: 'Step' }).fill('0');
  await page.getByRole('button', { name: /Own quantities/ }).click();
});
afterAll(() => site.stop());

const sceneNow = async (): Promise<Scene> =>
  (await site.send<{ document: Scene }>('GET', `/api/scenes/${id}`)).answer.document;
const own = () => page.getByRole('region', { name: 'Own quantities' });
const name = () => page.getByLabel('Name of the quantity');
const formula = () => page.getByLabel('Formula of the quantity');
const says = (text: string | RegExp) => own().getByText(text).waitFor({ timeout: 30_000 });

describe('quantities of one’s own', () => {
  it('are typed with completion, and say what they and the piece under the caret come to', async () => {
    await own().getByText('+ new quantity').click();
    await name().fill('excess');
    await formula().pressSequentially('tempe');
    await own().getByRole('option', { name: 'temperature', exact: true }).waitFor();
    await page.keyboard.press('Tab');
    await expect.poll(() => formula().inputValue()).toBe('temperature');
    await formula().pressSequentially(' - 20 °C');
    await says(/goes from 10 K to 50 K/);
    await page.keyboard.press('Home');
    await says(/goes from 30 °C to 70 °C/);
  });

  it('cannot be saved while something is wrong, and say what', async () => {
    await formula().fill('temperature + velocity');
    await says(/"temperature" is a number, "velocity" a vector: they cannot be added/);
    await expect.poll(() => own().getByRole('button', { name: 'Save' }).isDisabled()).toBe(true);
    await formula().fill('temperature + 2 bar');
    await says(/they cannot be added/);
    await formula().fill('1 / (x - x)');
    await says(/has no value anywhere/);
    await formula().fill('1 / x');
    await says(/36 places have no value: divided by zero/);
    await formula().fill('steam');
    await says(/"steam" is not known here/);
  });

  it('colour a line, by their name and in their unit, and stay with the scene', async () => {
    await formula().fill('temperature - 20 °C');
    await own().getByRole('button', { name: 'Save' }).click();
    await says('number, K, on points');
    await own().getByRole('button', { name: 'Colour by excess' }).click();
    await settled(page);
    await page.getByText('coloured by').first().waitFor();
    await expect
      .poll(async () => JSON.stringify((await sceneNow()).layers))
      .toContain('formula:temperature - 20 °C');
    expect((await sceneNow()).quantities).toMatchObject([{ name: 'excess', formula: 'temperature - 20 °C' }]);
    await page.reload();
    await settled(page);
    await page.getByRole('button', { name: 'excess' }).first().waitFor();
  });

  it('take along what uses them when they change', async () => {
    await page.getByRole('button', { name: /Own quantities/ }).click();
    await own().getByRole('button', { name: 'Change excess' }).click();
    await name().fill('warmth');
    await formula().fill('2 * (temperature - 20 °C)');
    await page.keyboard.press('Enter');
    await settled(page);
    await expect
      .poll(async () => JSON.stringify((await sceneNow()).layers))
      .toContain('formula:2 * (temperature - 20 °C)');
    await page.getByRole('button', { name: 'warmth' }).first().waitFor();
    await page.getByRole('button', { name: 'Undo' }).click();
    await page.getByRole('button', { name: 'excess' }).first().waitFor();
  });

  it('use numbers that sentences ask for, once these are measured', async () => {
    await own().getByText('+ new quantity').click();
    await name().fill('over the mean');
    await formula().fill('temperature - measured("average of warmth over everything")');
    await says(/“average of warmth over everything”: "warmth" is not understood here/);
    // By hand the mean is 47.5 °C at the first step.
    await formula().fill('temperature - measured("average of temperature over everything")');
    await says(/goes from −17.5 K to 22.5 K/);
    await page.keyboard.press('Enter');
    await own().getByText('number, K, on points').nth(1).waitFor();
    await own().getByRole('button', { name: 'Colour by over the mean' }).click();
    await settled(page);
    await expect
      .poll(async () => JSON.stringify((await sceneNow()).layers))
      .toContain('average of temperature over everything');
    // The run keeps what was measured: it is there at once when the page comes back.
    await page.reload();
    await settled(page);
    await page.getByRole('button', { name: 'over the mean' }).first().waitFor();
    await page.getByRole('button', { name: /Own quantities/ }).click();
    await own().getByText('number, K, on points').nth(1).waitFor();
  });

  it('are begun with a formula that is ready', async () => {
    await own().getByText('+ new quantity').click();
    await own().getByRole('button', { name: 'dynamic pressure' }).click();
    await expect.poll(() => formula().inputValue()).toBe('1.2 kg/m³ * length(velocity)^2 / 2');
    await expect.poll(() => name().inputValue()).toBe('dynamic pressure');
    await page.keyboard.press('Escape');
  });
});
