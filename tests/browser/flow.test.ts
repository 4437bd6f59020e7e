import type { Page } from 'playwright-core';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import type { Scene } from '#core/scene/document.ts';
import { hexBlock } from '../vtu-builder.ts';
import { differing, importFiles, pictureOnScreen, Site, settled, upload } from './site.ts';

const site = new Site();
let page: Page;
beforeAll(async () => {
  await site.start();
  page = await site.page();
  await importFiles(page, [upload('air.vtu', turningAir())]);
});
afterAll(() => site.stop());

/** A cube of air that turns about its upright axis, the faster the higher, and rises. */
function turningAir(): Uint8Array {
  const mesh = hexBlock(6);
  const data = new Float32Array(mesh.points.length);
  for (let i = 0; i < data.length; i += 3) {
    const [x, y, z] = mesh.points.slice(i, i + 3);
    data.set([(0.5 - y) * (1 + z), (x - 0.5) * (1 + z), 0.15], i);
  }
  return writeVtu(mesh, [{ name: 'velocity', location: 'point', components: 3, unit: 'm/s', data }], 0, {
    length: 'm',
    time: 's',
  });
}

/** Machines that draw by software may take a while. */
const PATIENTLY = { timeout: 30_000 };

const last = () => page.locator('[data-layer]').last();

async function type(sentence: string): Promise<void> {
  await page.getByRole('button', { name: 'Add a line' }).click();
  await page.getByLabel('A new line').fill(sentence);
  await page.getByLabel('A new line').press('Enter');
  await settled(page);
}

async function savedScene(): Promise<Scene> {
  await page.getByText('saved', { exact: true }).waitFor();
  const id = page.url().split('/').pop();
  return (await site.get<{ document: Scene }>(`/api/scenes/${id}`)).document;
}

it('streamlines are typed, drawn as tubes in the colours of the flow, and say why they end', async () => {
  const before = await pictureOnScreen(page);
  await type(
    'streamlines of velocity from a line (0.6, 0.5, 0.1) to (0.9, 0.5, 0.1), 5 seeds, as tubes of radius 0.02 m',
  );
  expect(await last().textContent()).toContain('Streamlines of');
  expect(await last().textContent()).toMatch(/5 lines from 5 seeds; ends: .*it leaves the body/);
  const { layers, scales } = await savedScene();
  const { chain, colour } = layers.at(-1)!;
  expect(chain.map((s) => s.op)).toEqual(['streamlines', 'tubes']);
  expect(colour).toMatchObject({ kind: 'field', field: 'point:velocity', component: 'magnitude' });
  expect(scales.some((s) => s.quantity === 'point:velocity#magnitude')).toBe(true);
  // The body around them is seen through, so that they are seen.
  expect(layers[0].opacity).toBeLessThan(1);
  const after = await pictureOnScreen(page);
  expect(differing(before, after)).toBeGreaterThan(0.01);
});

it('their ends are moved by two clicks on the picture', async () => {
  await page.getByRole('button', { name: 'Point at from and to' }).click();
  const box = (await page.getByTestId('picture').boundingBox())!;
  const at = (x: number, y: number) => page.mouse.click(box.x + x * box.width, box.y + y * box.height);
  await expect.poll(() => page.getByText('Click where it goes from.').count(), PATIENTLY).toBe(1);
  await at(0.46, 0.5);
  await expect.poll(() => page.getByText('Click where it goes to.').count(), PATIENTLY).toBe(1);
  await at(0.54, 0.5);
  await settled(page);
  const { from, to } = (await savedScene()).layers.at(-1)!.chain[0].options as {
    from: number[];
    to: number[];
  };
  expect(from).not.toEqual([0.6, 0.5, 0.1]);
  expect(to).not.toEqual([0.9, 0.5, 0.1]);
});

it('they are coloured by what comes with them', async () => {
  await type('streamlines of velocity, 12 seeds, as tubes, coloured by travel time');
  expect(await last().textContent()).toContain('travel time');
  const legend = await page.getByTestId('picture').textContent();
  expect(legend).not.toContain('NaN');
  expect((await savedScene()).scales.some((s) => s.quantity === 'line:time#0')).toBe(true);
});

it('arrows come with their key, which is taken away as any words are', async () => {
  await type('section at z = 0.5 m, its arrows, 60 evenly spread, the longest 6 % of the picture');
  const scene = await savedScene();
  expect(scene.annotations.map((a) => a.kind)).toEqual(['arrow-key']);
  const key = page.locator('[data-words=arrow-key]');
  await expect.poll(() => key.count(), PATIENTLY).toBe(1);
  const shown = await pictureOnScreen(page);
  await last().getByRole('button', { name: 'Hide this line' }).click();
  await settled(page);
  expect(differing(shown, await pictureOnScreen(page))).toBeGreaterThan(0.003);
  await expect.poll(() => key.count(), PATIENTLY).toBe(0);
});

it('questions of the trade make ordinary lines with a value that shows something', async () => {
  for (const [name, word] of [
    ['Vortices by Q', 'Q of velocity'],
    ['Where it stands still', 'velocity'],
  ]) {
    await page.getByRole('button', { name: 'Add a line' }).click();
    await page
      .locator('.card')
      .getByRole('button', { name: new RegExp(`^${name}`) })
      .click();
    await expect
      .poll(() => last().textContent(), { timeout: 30_000 })
      .toContain(`Isosurface of air where ${word}`);
    await settled(page);
    expect(await last().textContent()).not.toContain('Nothing to show');
  }
});

it('what cannot flow is said, and nothing is lost', async () => {
  await type('streamlines of velocity from point (9, 9, 9)');
  await expect
    .poll(() => last().textContent(), PATIENTLY)
    .toContain('Its one seed lies outside of what flows');
  await page.getByRole('button', { name: 'Undo' }).click();
  await settled(page);
  expect(await last().textContent()).toContain('Isosurface');
});

it('a flow texture darkens what a section is coloured by', async () => {
  await type('section of air at z = 0.5 m, coloured by velocity z');
  const plain = await pictureOnScreen(page);
  const { layers } = await savedScene();
  for (const { id } of layers.slice(0, -1).filter((l) => l.visible))
    await page.locator(`[data-layer="${id}"]`).getByRole('button', { name: 'Hide this line' }).click();
  await type(
    'section of air at z = 0.5 m, its flow texture by velocity, in grains of 0.02 m, coloured by velocity z',
  );
  expect((await savedScene()).layers.at(-1)!.chain.map((s) => s.op)).toEqual(['section', 'flow texture']);
  await expect
    .poll(async () => differing(plain, await pictureOnScreen(page)), PATIENTLY)
    .toBeGreaterThan(0.02);
});

it('a probe plane is put where the model is clicked, with lines of its own that one undo takes back', async () => {
  const before = (await savedScene()).layers.length;
  const box = (await page.getByTestId('picture').boundingBox())!;
  await page.mouse.click(box.x + box.width / 2, box.y + box.height / 2);
  await page.getByRole('menuitem', { name: 'Probe plane here' }).click();
  await settled(page);
  const { layers } = await savedScene();
  const made = layers.slice(before);
  expect(made.map((l) => l.name)).toEqual([
    'Probe 1',
    'Probe 1, contour lines',
    'Probe 1, arrows',
    'Probe 1, mesh',
  ]);
  expect(made.slice(1).every((l) => l.from === made[0].id)).toBe(true);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(async () => (await savedScene()).layers.length, PATIENTLY).toBe(before);
});
