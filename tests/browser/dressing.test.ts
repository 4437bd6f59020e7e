import type { JSHandle, Page } from 'playwright-core';
import { PNG } from 'pngjs';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { heightAtTarget } from '#core/scene/camera-moves.ts';
import type { Scene } from '#core/scene/document.ts';
import { sceneInPicture } from '#stage/pictures/about.ts';
import { ovenFiles } from './sample-files.ts';
import { differing, downloaded, importFiles, pictureOnScreen, pixel, Site, settled } from './site.ts';

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

it('a lens in millimetres, rolled and shifted, composed with lines that no picture has', async () => {
  const before = (await savedScene()).camera;
  const lens = page.getByRole('button', { name: 'The camera', exact: true });
  await lens.click();
  await page.getByRole('button', { name: '85', exact: true }).click();
  await page.getByLabel(/^Roll/).first().fill('10');
  await page.keyboard.press('Enter');
  await page
    .getByLabel(/^Shift upwards/)
    .first()
    .fill('20');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  await settled(page);
  expect(await lens.textContent()).toBe('Perspective of 85 mm');
  expect(await page.getByText(/rolled by 10°, shifted/).count()).toBe(1);
  const { camera } = await savedScene();
  expect(camera).toMatchObject({ roll: 10, shiftRise: 20, shiftAcross: 0, target: before.target });
  // What lies at the target keeps its size, from further away.
  expect(heightAtTarget(camera)).toBeCloseTo(heightAtTarget(before), 3);

  const composed = await pictureOnScreen(page);
  await page.getByRole('button', { name: 'The shape of the picture' }).click();
  await page.getByRole('button', { name: 'Thirds', exact: true }).click();
  await page.getByLabel('Show the safe area').check();
  await page.keyboard.press('Escape');
  await settled(page);
  // Two ways of two lines and two borders, each dark and bright.
  expect(await page.getByTestId('composing-lines').locator('line').count()).toBe(2 * (4 + 8));
  expect(differing(composed, await pictureOnScreen(page))).toBe(0);

  // A part fills the picture, rolled as it was; a named view looks straight again.
  const picture = (await page.getByTestId('picture').boundingBox())!;
  await page.mouse.click(picture.x + 0.5 * picture.width, picture.y + 0.68 * picture.height);
  await page.getByRole('menuitem', { name: 'Look at it' }).click();
  await settled(page);
  expect((await savedScene()).camera).toMatchObject({ roll: 10, shiftRise: 0 });
  await page.getByRole('button', { name: 'Look from +x' }).click();
  await settled(page);
  expect((await savedScene()).camera.roll).toBe(0);
});

it('a backdrop of a house colour is that colour to the level', async () => {
  await page.getByRole('button', { name: 'The backdrop', exact: true }).click();
  await page.getByRole('button', { name: /^own colours/ }).click();
  for (const end of ['At the top', 'At the foot'])
    await page.getByLabel(end, { exact: true }).first().fill('#2a5d8f');
  await page.keyboard.press('Escape');
  await settled(page);
  expect((await savedScene()).backdrop).toEqual({
    kind: 'own',
    top: '#2a5d8f',
    foot: '#2a5d8f',
    picture: null,
    brightness: 1,
    blur: 0,
  });
  const picture = await pictureOnScreen(page);
  for (const [x, y] of [
    [3, 3],
    [picture.width - 4, 5],
    [0.5 * picture.width, 4],
  ])
    for (const [k, level] of [0x2a, 0x5d, 0x8f].entries())
      expect(Math.abs(pixel(picture, x, y)[k] - level)).toBeLessThanOrEqual(1);
  await page.getByText('a plain colour').waitFor();
});

it('a floor of tiles that mirrors, and the light of a panorama of one\u2019s own; a damaged one is told of and changes nothing', async () => {
  await page.getByRole('button', { name: 'aslant', exact: true }).click();
  await page.getByRole('button', { name: 'The light', exact: true }).click();
  const card = page.locator('.card');
  await card.getByRole('button', { name: /^Own surroundings/ }).click();
  const choose = card.getByLabel('Panorama');
  await choose.setInputFiles({ name: 'hall.txt', mimeType: 'text/plain', buffer: Buffer.from('no light') });
  await card.getByRole('alert').waitFor();
  expect(await card.getByRole('alert').textContent()).toMatch(/hall.txt is neither a Radiance file/);
  expect((await savedScene()).light.panorama).toBeNull();
  await choose.setInputFiles({ name: 'hall.hdr', mimeType: 'application/octet-stream', buffer: hall() });
  await card.getByText('hall.hdr').waitFor();
  await page.keyboard.press('Escape');
  await settled(page);
  const { light } = await savedScene();
  expect(light).toMatchObject({
    rig: 'own',
    panorama: { name: 'hall.hdr', bytes: { length: hall().length } },
  });
  const before = await pictureOnScreen(page);

  await page.getByRole('button', { name: 'The floor', exact: true }).click();
  await card.getByRole('button', { name: /^Tiles/ }).click();
  await page.keyboard.press('Escape');
  await settled(page);
  expect((await savedScene()).floor).toMatchObject({ kind: 'tiles', mirrors: 0 });
  expect(await page.locator('#lines').textContent()).toContain('Own surroundings, a floor of tiles');
  expect(differing(before, await pictureOnScreen(page))).toBeGreaterThan(0.03);
});

it('a still in another format holds its scene, which it opens again where it is dropped', async () => {
  await page.getByRole('button', { name: 'Give out' }).click();
  await page.getByLabel('Width in pixels').fill('160');
  await page.keyboard.press('Enter');
  await page.getByLabel('Format').selectOption('jpeg');
  expect(await page.getByLabel('Transparent background').count()).toBe(0);
  await page.getByRole('button', { name: 'Proof', exact: true }).click();
  await page.getByRole('button', { name: 'Make the picture' }).click();
  const still = await downloaded(page, 'Save JPEG');
  const shown = await savedScene();
  expect(still.name).toMatch(/\.jpg$/);
  expect([...still.bytes.subarray(0, 3)]).toEqual([0xff, 0xd8, 0xff]);
  await page.getByRole('button', { name: 'Back to the scene' }).click();

  await page.getByRole('button', { name: 'The floor', exact: true }).click();
  await page.locator('.card').getByRole('button', { name: 'None', exact: true }).click();
  await page.keyboard.press('Escape');
  await settled(page);
  expect((await savedScene()).floor.kind).toBe('none');
  await dropped(still.bytes, 'still.jpg', 'image/jpeg');
  await expect.poll(async () => (await savedScene()).floor.kind, { timeout: 20_000 }).toBe('tiles');
  expect(await savedScene()).toEqual(shown);

  // Where results come in it opens as a scene of its own, on the run it was made of.
  const from = page.url();
  const bring = async (bytes: Buffer, name: string): Promise<void> => {
    await page.goto(`${site.address}/`);
    await page.getByTestId('file-input').setInputFiles({ name, mimeType: 'image/jpeg', buffer: bytes });
  };
  await bring(still.bytes, 'still.jpg');
  await page.waitForURL(/\/scene\//);
  expect(page.url()).not.toBe(from);
  await settled(page);
  expect(await savedScene()).toEqual(shown);
  // Of a run that is not here it is told, and can still be brought in as a picture.
  const { run } = sceneInPicture(still.bytes)!;
  const elsewhere = Buffer.from(
    still.bytes.toString('latin1').replaceAll(run!, 'x'.repeat(run!.length)),
    'latin1',
  );
  await bring(elsewhere, 'elsewhere.jpg');
  await page.getByText(/it was made of the run x+, which is not here/i).waitFor();
  await page.getByRole('article').getByText('elsewhere.jpg').waitFor();
  await page.goto(from);
  await settled(page);

  await dropped(Buffer.from('nothing'), 'other.png', 'image/png');
  await page.getByText(/other.png does not hold the scene it was made of/).waitFor();
});

it('a still is worked on until it is clean enough, or until one keeps it as it is', async () => {
  await page.getByRole('button', { name: 'Give out' }).click();
  await page.getByLabel('Width in pixels').fill('160');
  await page.keyboard.press('Enter');
  await page.getByLabel('Height in pixels').fill('120');
  await page.keyboard.press('Enter');
  await page.getByRole('button', { name: 'Until clean' }).click();
  await page.getByLabel('Noise below').selectOption('2');
  await page.getByRole('button', { name: 'Make the picture' }).click();
  const clean = await downloaded(page, 'Save PNG');
  expect(textsOf(clean.bytes).Description).toMatch(/160 x 120, noise below 2 of 255 levels/);

  await page.getByRole('button', { name: 'Final', exact: true }).click();
  await page.getByLabel('Passes').fill('512');
  await page.getByLabel('Passes').press('Enter');
  const said = await noiseSaid();
  await page.getByRole('button', { name: 'Make the picture' }).click();
  await page.getByText(/^Noise .* of 255 levels/).waitFor();
  // Not the noise that the picture before came to.
  expect(await said.evaluate(([first]) => first)).toBe('Measuring its noise');
  expect(await page.getByLabel('The picture by now').count()).toBe(1);
  await page.getByRole('button', { name: 'Keep it as it is' }).click();
  const kept = PNG.sync.read((await downloaded(page, 'Save PNG')).bytes);
  expect([kept.width, kept.height]).toEqual([160, 120]);
  const other = PNG.sync.read(clean.bytes);
  // Two pictures of one scene, each clean enough.
  const apart = kept.data.reduce((sum, v, i) => sum + (v - other.data[i]) ** 2, 0) / kept.data.length;
  expect(Math.sqrt(apart)).toBeLessThan(6);
  await page.getByRole('button', { name: 'Back to the scene' }).click();
});

/** What is said of a picture's noise from now on, in its order. */
async function noiseSaid(): Promise<JSHandle<string[]>> {
  return page.evaluateHandle(() => {
    const said: string[] = [];
    new MutationObserver(() => {
      const words = /Measuring its noise|Noise [\d.]+ of 255 levels/.exec(
        document.body.textContent ?? '',
      )?.[0];
      if (words && words !== said.at(-1)) said.push(words);
    }).observe(document.body, { subtree: true, childList: true, characterData: true });
    return said;
  });
}

/** The texts of a PNG file that are not packed, by their keywords. */
function textsOf(bytes: Buffer): Record<string, string> {
  const found: Record<string, string> = {};
  for (let at = 8; at < bytes.length; at += 12 + bytes.readUInt32BE(at)) {
    if (bytes.toString('latin1', at + 4, at + 8) !== 'iTXt') continue;
    const [keyword] = bytes.toString('latin1', at + 8).split('\0', 1);
    found[keyword] = bytes.toString('utf8', at + 8 + keyword.length + 5, at + 8 + bytes.readUInt32BE(at));
  }
  return found;
}

/** A file dropped on the picture. */
async function dropped(bytes: Buffer, name: string, type: string): Promise<void> {
  const data = await page.evaluateHandle(
    ({ base64, name, type }) => {
      const transfer = new DataTransfer();
      transfer.items.add(new File([Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))], name, { type }));
      return transfer;
    },
    { base64: bytes.toString('base64'), name, type },
  );
  await page.getByTestId('picture').dispatchEvent('drop', { dataTransfer: data });
}

/** A Radiance file of a bright ceiling over a dark floor. */
function hall(): Buffer {
  const head = Buffer.from('#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y 32 +X 64\n');
  const row = (...rgbe: number[]): Buffer => Buffer.from(Array.from({ length: 64 }, () => rgbe).flat());
  return Buffer.concat([
    head,
    ...Array.from({ length: 32 }, (_, y) => (y < 12 ? row(250, 240, 220, 130) : row(90, 80, 70, 127))),
  ]);
}
