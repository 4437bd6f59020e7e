import { unzipSync } from 'fflate';
import type { Page } from 'playwright-core';
import { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { annotationKind } from '#core/scene/annotations/registry.ts';
import type { Annotation, Scene } from '#core/scene/document.ts';
import { RenderPage, rootMeanSquare } from './render-page.ts';
import { ovenFiles } from './sample-files.ts';
import { differing, downloaded, importFiles, pixel, Site, settled, upload } from './site.ts';

const site = new Site();
let page: Page;
let id = '';
let run = '';
beforeAll(async () => {
  await site.start();
  page = await site.page();
  // Three steps, at 0, 2 and 4 s.
  await importFiles(page, ovenFiles(3));
  id = page.url().split('/').pop()!;
  run = (await site.send<{ run: string }>('GET', `/api/scenes/${id}`)).answer.run;
});
afterAll(() => site.stop());

const sceneNow = async (): Promise<Scene> =>
  (await site.send<{ document: Scene }>('GET', `/api/scenes/${id}`)).answer.document;
const annotation = async (kind: string): Promise<Annotation | undefined> =>
  (await sceneNow()).annotations.find((a) => a.kind === kind);
const saved = <V>(kind: string, of: (a: Annotation | undefined) => V) =>
  expect.poll(async () => of(await annotation(kind)), { timeout: 20_000 });
/** Words as they are kept once nothing changes any more: what is dragged is saved on its way. */
async function atRest(kind: string): Promise<{ x: number; y: number }> {
  let last = '';
  await expect
    .poll(
      async () => {
        const now = JSON.stringify(await annotation(kind));
        const same = now === last;
        last = now;
        return same;
      },
      { timeout: 30_000, interval: 900 },
    )
    .toBe(true);
  return JSON.parse(last);
}
const handle = (kind: string) => page.locator(`[data-words=${kind}]`);

async function add(kind: Annotation['kind']): Promise<void> {
  await page.getByRole('button', { name: 'Add words or marks' }).click();
  await page.getByRole('button', { name: annotationKind(kind).purpose }).click();
}

/** A picture of one row of colours. */
function rowOfColours(...colours: [number, number, number][]): Buffer {
  const png = new PNG({ width: colours.length, height: 1 });
  for (const [i, c] of colours.entries()) png.data.set([...c, 255], 4 * i);
  return PNG.sync.write(png);
}

describe('words on the picture', () => {
  it('are added, with values completed as one types', async () => {
    await page.getByRole('button', { name: /^Words and marks/ }).click();
    await add('text');
    const field = page.getByRole('textbox', { name: 'Text', exact: true });
    await field.fill('');
    await field.pressSequentially('step {st');
    await page.getByRole('option', { name: /^steps/ }).waitFor();
    await page.keyboard.press('Tab');
    expect(await field.inputValue()).toBe('step {step}');
    // The caret stands where a format may follow.
    await page.keyboard.type(':03d');
    expect(await field.inputValue()).toBe('step {step:03d}');
    await saved('text', (a) => a?.text).toBe('step {step:03d}');
    await field.fill('step {stip}');
    await page.getByText(/There is no value “stip”/).waitFor();
    await field.fill('step {step:03d}');
    await page.keyboard.press('Escape');
    await handle('text').waitFor();
  });

  it('tell the values of the step on show, in the picture too', async () => {
    const drawing = await RenderPage.open(await page.context().browser()!.newPage(), site.address);
    const scene = await sceneNow();
    const [first, last] = [0, 2].map((step) =>
      drawing.draw({ run, scene, step, width: 480, height: 300, passes: 2 }),
    );
    const corner = (png: PNG): PNG => {
      const cut = new PNG({ width: 150, height: 40 });
      PNG.bitblt(png, cut, 0, 0, 150, 40, 0, 0);
      return cut;
    };
    expect(differing(corner(await first), corner(await last))).toBeGreaterThan(0.002);
    await drawing.page.close();
  });

  it('are moved by dragging and by keys, onto edges and middles', async () => {
    await page.keyboard.press('Escape');
    const before = await atRest('text');
    const box = (await handle('text').boundingBox())!;
    await page.mouse.move(box.x + 15, box.y + 12);
    await page.mouse.down();
    await page.mouse.move(box.x + 135, box.y + 112, { steps: 6 });
    await page.mouse.up();
    await saved('text', (a) => (a?.x as number) > before.x + 0.05).toBe(true);
    const picture = (await page.getByTestId('picture').boundingBox())!;
    await handle('text').focus();
    const { x } = await atRest('text');
    // Faster than the picture is painted, every press counts.
    for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowRight');
    await saved('text', (a) => Number(a?.x)).toBeCloseTo(x + 0.05, 3);
    // To the edge of the picture, step by step, and no further.
    await expect
      .poll(
        async () => {
          await page.keyboard.press('Shift+ArrowUp');
          return ((await handle('text').boundingBox())!.y - picture.y) / picture.height;
        },
        { timeout: 30_000, interval: 400 },
      )
      .toBeLessThan(0.035);
    const { y } = await atRest('text');
    await page.keyboard.press('Shift+ArrowUp');
    expect((await atRest('text')).y).toBeCloseTo(y, 6);
  });

  it('are edited where they stand, by a double click and by Enter', async () => {
    await handle('text').dblclick();
    const field = page.getByLabel('Words of the text');
    await field.fill('{run}');
    await field.press('Enter');
    await saved('text', (a) => a?.text).toBe('{run}');
    await handle('text').focus();
    await page.keyboard.press('Enter');
    await field.fill('now {time:.1f} s');
    await field.press('Enter');
    await saved('text', (a) => a?.text).toBe('now {time:.1f} s');
  });

  it('hang on what is clicked on the model', async () => {
    await settled(page);
    const picture = (await page.getByTestId('picture').boundingBox())!;
    await page.mouse.click(picture.x + picture.width * 0.45, picture.y + picture.height * 0.5);
    await page.getByRole('menuitem', { name: 'Label with its value' }).click();
    await handle('label').waitFor();
    await saved('label', (a) => a?.on).toBe('node');
    const label = (await annotation('label'))!;
    expect(label).toMatchObject({ field: 'point:temperature', text: '{value} °C', part: 'oven' });
    await page.keyboard.press('Escape');
    // Dragged away, they stay where they were put.
    const box = (await handle('label').boundingBox())!;
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width / 2 + 60, box.y + box.height / 2 - 40, { steps: 5 });
    await page.mouse.up();
    await saved('label', (a) => Array.isArray(a?.aside)).toBe(true);
  });

  it('are undone as one step and deleted by a key', async () => {
    await handle('label').focus();
    await page.keyboard.press('Delete');
    await saved('label', (a) => a).toBeUndefined();
    await page.getByRole('button', { name: 'Undo' }).click();
    await saved('label', (a) => Array.isArray(a?.aside)).toBe(true);
    await page.getByRole('button', { name: 'Undo' }).click();
    await saved('label', (a) => a?.aside).toBeNull();
  });

  it('say what is wrong with a picture that cannot be shown, and keep what was there', async () => {
    await add('logo');
    const input = page.getByLabel('Picture', { exact: true });
    await input.setInputFiles({ ...upload('a.png', rowOfColours([200, 30, 30])), mimeType: 'image/png' });
    await saved('logo', (a) => String(a?.image).slice(0, 22)).toBe('data:image/png;base64,');
    const before = (await annotation('logo'))!.image;
    await input.setInputFiles({ ...upload('notes.txt', Buffer.from('no picture')), mimeType: 'text/plain' });
    await page.getByText('notes.txt is no picture that can be shown').waitFor();
    await input.setInputFiles({ ...upload('b.png', Buffer.from('broken')), mimeType: 'image/png' });
    await page.getByText('b.png cannot be read as a picture').waitFor();
    expect((await annotation('logo'))!.image).toBe(before);
    await page.keyboard.press('Escape');
  });

  it('are typed as a line is', async () => {
    await page.getByRole('button', { name: 'Add a line' }).click();
    const field = page.getByLabel('A new line');
    await field.fill('Axes at the top');
    await page.getByRole('option', { name: /a number in %/ }).waitFor();
    await field.fill('Axes at 90 % 80 %, size 9 %');
    await field.press('Enter');
    await saved('axes', (a) => [a?.x, a?.y, a?.size]).toEqual([0.9, 0.8, 9]);
    await page.getByRole('button', { name: 'Undo' }).click();
    await saved('axes', (a) => a).toBeUndefined();
  });

  it('of a picture in coordinates take its world file', async () => {
    await add('placed-image');
    const picture = {
      ...upload('site.png', rowOfColours([220, 20, 20], [20, 20, 220])),
      mimeType: 'image/png',
    };
    await page
      .getByLabel('Picture', { exact: true })
      .setInputFiles([picture, upload('site.pgw', Buffer.from('0.25\n0\n0\n-0.5\n-0.5\n0.25\n'))]);
    await saved('placed-image', (a) => a?.world).toEqual([0.25, 0, 0, -0.5, -0.5, 0.25]);
    expect((await annotation('placed-image'))!.pixels).toEqual([2, 1]);
    await page
      .getByLabel('Picture', { exact: true })
      .setInputFiles([upload('bad.pgw', Buffer.from('1\n2\n'))]);
    await page.getByText('this one has 2').waitFor();
    expect((await annotation('placed-image'))!.world).toEqual([0.25, 0, 0, -0.5, -0.5, 0.25]);
    await page.keyboard.press('Escape');
  });
});

describe('pictures', () => {
  it('show a picture in coordinates where its world file says, as opaque as asked', async () => {
    const drawing = await RenderPage.open(await page.context().browser()!.newPage(), site.address);
    const scene = await sceneNow();
    const placed = scene.annotations.find((a) => a.kind === 'placed-image')!;
    const seen = async (opacity: number): Promise<PNG> =>
      drawing.draw({
        run,
        step: 0,
        // Two units high, seen from above: a pixel is a hundredth, (0, 0) lies at (200, 100).
        width: 400,
        height: 200,
        passes: 4,
        scene: {
          ...scene,
          layers: [],
          legends: { shown: false },
          stamp: { ...scene.stamp, visible: false },
          light: { ...scene.light, rig: 'even' },
          floor: { ...scene.floor, kind: 'none' },
          annotations: [{ ...placed, opacity }],
          camera: {
            ...scene.camera,
            projection: 'parallel',
            position: [0, 0, 5],
            target: [0, 0, 0],
            up: [0, 1, 0],
            height: 2,
          },
        },
      });
    const whole = await seen(1);
    // Two pixels of a quarter, half a unit high: from (-0.625, 0) to (-0.125, 0.5).
    const [red, blue, beside, below] = [
      pixel(whole, 150, 75),
      pixel(whole, 175, 75),
      pixel(whole, 120, 75),
      pixel(whole, 150, 110),
    ];
    expect(red[0] - red[2]).toBeGreaterThan(120);
    expect(blue[2] - blue[0]).toBeGreaterThan(120);
    for (const [r, g, b] of [beside, below]) expect(Math.max(r, g, b) - Math.min(r, g, b)).toBeLessThan(30);
    const half = pixel(await seen(0.5), 150, 75);
    expect(half[0] - half[2]).toBeGreaterThan(20);
    expect(half[0] - half[2]).toBeLessThan(red[0] - red[2] - 20);
    await drawing.page.close();
  });

  it('of a film each tell their own values', async () => {
    await handle('text').dblclick();
    const field = page.getByLabel('Words of the text');
    await field.fill('{time:.0f}');
    await field.press('Enter');
    await saved('text', (a) => a?.text).toBe('{time:.0f}');
    const words = await atRest('text');
    await page.getByRole('button', { name: 'Give out' }).click();
    await page.getByRole('tab', { name: 'Film' }).click();
    for (const [label, value] of [
      ['Width in pixels', '360'],
      ['Height in pixels', '240'],
      ['Length', '1.5'],
    ]) {
      await page.getByLabel(label).fill(value);
      await page.keyboard.press('Enter');
    }
    await page.getByRole('button', { name: 'Quick' }).click();
    await page.getByRole('button', { name: 'Pictures in a zip', exact: true }).click();
    await page.getByRole('button', { name: 'Make the film' }).click();
    await page.getByText(/3 pictures, .*× 240/).waitFor({ timeout: 120_000 });
    const files = unzipSync((await downloaded(page, 'Save')).bytes);
    const frames = Object.values(files).map((bytes) => PNG.sync.read(Buffer.from(bytes)));
    expect(frames).toHaveLength(3);
    const now = await sceneNow();
    const drawing = await RenderPage.open(await page.context().browser()!.newPage(), site.address);
    // Each picture of the film is that of its step, words and all; the words of another step would be seen.
    const { x, y } = words;
    const cut = (png: PNG): PNG => {
      const out = new PNG({ width: 40, height: 24 });
      PNG.bitblt(
        png,
        out,
        Math.max(0, Math.round(360 * x) - 5),
        Math.max(0, Math.round(240 * y) - 12),
        40,
        24,
        0,
        0,
      );
      return out;
    };
    for (const [step, frame] of frames.entries()) {
      const still = await drawing.draw({ run, scene: now, step, width: 360, height: 240, passes: 8 });
      expect(rootMeanSquare(cut(frame), cut(still))).toBeLessThan(6);
    }
    expect(differing(cut(frames[0]), cut(frames[1]))).toBeGreaterThan(0.002);
    expect(differing(cut(frames[1]), cut(frames[2]))).toBeGreaterThan(0.002);
    await drawing.page.close();
  });
});
