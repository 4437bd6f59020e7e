import { unzipSync } from 'fflate';
import type { Page } from 'playwright-core';
import { PNG } from 'pngjs';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import type { Scene } from '#core/scene/document.ts';
import { hexBlock } from '../vtu-builder.ts';
import { rootMeanSquare } from './render-page.ts';
import { differing, downloaded, importFiles, pictureOnScreen, Site, settled, upload } from './site.ts';

const site = new Site();
let page: Page;
beforeAll(async () => {
  await site.start();
  page = await site.page();
  await importFiles(page, [upload('wave.vtu', runningWave())]);
});
afterAll(() => site.stop());

/** A block that a wave runs through along x, so many lengths of it: cos(ωt - kx). */
function runningWave(lengths = 1): Uint8Array {
  const mesh = hexBlock(8);
  const along = (of: (phase: number) => number): Float32Array =>
    Float32Array.from({ length: mesh.points.length / 3 }, (_, i) =>
      of(2 * Math.PI * lengths * mesh.points[3 * i]),
    );
  const field = (name: string, data: Float32Array) => ({
    name,
    location: 'point' as const,
    components: 1,
    unit: 'V/m',
    data,
  });
  const fields = [
    field('E_re', along(Math.cos)),
    field(
      'E_im',
      along((phase) => -Math.sin(phase)),
    ),
  ];
  return writeVtu(mesh, fields, lengths, { length: 'm' });
}

/** Machines that draw by software may take a while. */
const PATIENTLY = { timeout: 30_000 };

const sceneNow = async (): Promise<Scene> => {
  await page.getByText('saved', { exact: true }).waitFor();
  const id = page.url().split('/').pop();
  return (await site.get<{ document: Scene }>(`/api/scenes/${id}`)).document;
};
const first = () => page.locator('[data-layer]').first();

it('a complex quantity opens swinging, and its phase is turned on the strip', async () => {
  expect(await first().textContent()).toContain('swinging E');
  const before = await pictureOnScreen(page);
  // Half a turn: what was red is blue.
  for (let i = 0; i < 6; i++) await page.getByRole('button', { name: '30° on' }).click();
  await settled(page);
  expect(differing(before, await pictureOnScreen(page))).toBeGreaterThan(0.05);
  await expect.poll(async () => (await sceneNow()).cycle.phase, PATIENTLY).toBe(180);
  // A whole turn later everything is as it was.
  for (let i = 0; i < 6; i++) await page.getByRole('button', { name: '30° on' }).click();
  await settled(page);
  expect(differing(before, await pictureOnScreen(page))).toBeLessThan(0.002);
});

it('is one quantity, with its forms beside it', async () => {
  await first().getByRole('button', { name: 'Coloured by' }).first().click();
  for (const form of ['swinging', 'real part', 'imaginary part', 'amplitude', 'phase', 'rms'])
    expect(await page.getByRole('button', { name: form, exact: true }).count()).toBe(1);
  await page.getByRole('button', { name: 'amplitude', exact: true }).click();
  await expect.poll(() => first().textContent(), PATIENTLY).toContain('E amplitude');
  await page.keyboard.press('Escape');
  // Nothing swings any more.
  await expect.poll(() => page.getByLabel('Phase').count(), PATIENTLY).toBe(0);
  await page.getByRole('button', { name: 'Undo' }).click();
  await page.getByLabel('Phase').waitFor();
});

it('plays round while its one step stands', async () => {
  await page.getByRole('button', { name: 'Play' }).click();
  await expect
    .poll(async () => Number(await page.getByLabel('Phase').inputValue()), PATIENTLY)
    .toBeGreaterThan(0);
  await page.getByRole('button', { name: 'Pause' }).click();
  await settled(page);
});

it('is filmed over one cycle, whose last picture leads to the first', async () => {
  await page.getByRole('button', { name: 'Give out' }).click();
  await page.getByRole('tab', { name: 'Film' }).click();
  for (const [label, value] of [
    ['Width in pixels', '240'],
    ['Height in pixels', '160'],
    ['Pictures', '6'],
  ]) {
    await page.getByLabel(label, { exact: true }).fill(value);
    await page.keyboard.press('Enter');
  }
  await page.getByRole('button', { name: 'Quick' }).click();
  await page.getByRole('button', { name: 'Pictures in a zip', exact: true }).click();
  await page.getByRole('button', { name: 'Make the film' }).click();
  await page.getByText(/6 pictures, .*× 160/).waitFor({ timeout: 120_000 });
  const files = unzipSync((await downloaded(page, 'Save')).bytes);
  const frames = Object.values(files).map((bytes) => PNG.sync.read(Buffer.from(bytes)));
  expect(frames).toHaveLength(6);
  // A wave that runs on evenly changes as much from any picture to the next, and from the last to the first.
  const between = frames.map((frame, i) => rootMeanSquare(frame, frames[(i + 1) % frames.length]));
  for (const step of between) {
    expect(step).toBeGreaterThan(0.6 * Math.max(...between));
    expect(step).toBeGreaterThan(4);
  }
  await page.getByRole('button', { name: 'Back to the scene' }).click();
});

it('and a section sweeps through the body and back', async () => {
  await page.getByRole('button', { name: 'Add a line' }).click();
  await page
    .getByLabel('A new line')
    .fill('section of wave at x = 0.1 m sweeping to 0.9 m and back, in stone');
  await page.getByLabel('A new line').press('Enter');
  await settled(page);
  expect(await page.locator('[data-layer]').last().textContent()).toContain('sweeping to 0.9 m and back');
});

it('of several frequencies the one that swings is chosen, and the phase stays', async () => {
  const made = await site.importFiles({ 'waves_1.vtu': runningWave(1), 'waves_2.vtu': runningWave(2) });
  await page.goto(`${site.address}/scene/${made!.scene}`);
  await settled(page);
  await page.getByRole('group', { name: 'What plays' }).getByRole('button', { name: 'phase' }).click();
  await page.getByRole('button', { name: '30° on' }).click();
  const which = page.getByLabel(/^Which .* is shown$/);
  const begun = await which.inputValue();
  await settled(page);
  const before = await pictureOnScreen(page);
  await which.selectOption(begun === '0' ? '1' : '0');
  await settled(page);
  expect(differing(before, await pictureOnScreen(page))).toBeGreaterThan(0.05);
  await expect.poll(async () => (await sceneNow()).cycle.phase, PATIENTLY).toBe(30);
  await which.selectOption(begun);
  await settled(page);
  expect(differing(before, await pictureOnScreen(page))).toBeLessThan(0.002);
});
