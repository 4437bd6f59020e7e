import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from 'playwright-core';
import { beforeAll, expect, it } from 'vitest';
import type { Annotation, Lane, Scene } from '#core/scene/document.ts';
import { picturesOfFilm, toldOfFilm } from '../told-film.ts';
import { openedOven } from './opened-oven.ts';
import { downloaded, settled } from './site.ts';

const SIZE = { width: 240, height: 160 };

const oven = openedOven();
const { sceneNow, folder } = oven;
let page: Page;
beforeAll(() => {
  page = oven.page;
});

const laneOf = (lanes: Lane[], last: string) => lanes.find((l) => l.of.at(-1) === last);
const keysOf = (last: string) =>
  expect.poll(async () => laneOf((await sceneNow()).lanes, last)?.keys, { timeout: 30_000 });

async function typed(button: string, field: string, sentence: string): Promise<void> {
  await page.getByRole('button', { name: button }).click();
  const box = page.getByLabel(field);
  await box.fill(sentence);
  await box.press('Enter');
  await box.waitFor({ state: 'detached' });
}

/** Mean difference of two pictures in a part of them, in fractions from the top left, in levels of 255. */
function difference(a: Buffer, b: Buffer, [x0, x1, y0, y1]: [number, number, number, number]): number {
  let [sum, count] = [0, 0];
  for (let y = Math.round(y0 * SIZE.height); y < y1 * SIZE.height; y++)
    for (let x = Math.round(x0 * SIZE.width); x < x1 * SIZE.width; x++, count++)
      for (let k = 0; k < 3; k++) {
        const at = 3 * (y * SIZE.width + x) + k;
        sum += Math.abs(a[at] - b[at]) / 3;
      }
  return sum / count;
}

it('a film is made from plain words: a section swept while all turns, the time beside it; a key is moved, and that undone', async () => {
  await typed('Add a line', 'A new line', 'section of oven at x = 0.25 m');
  await settled(page);
  await page.getByRole('button', { name: /^Words and marks/ }).click();
  await page.getByRole('button', { name: 'Add words or marks' }).click();
  await page.getByRole('button', { name: 'words anywhere, with values such as {time:.1f}' }).click();
  await page.getByRole('textbox', { name: 'Text', exact: true }).fill('after {time:.1f} s');
  await page.keyboard.press('Escape');

  await page.getByRole('link', { name: 'Reel' }).click();
  await page.getByRole('button', { name: 'The film as a whole' }).click();
  await page.locator('.card').getByLabel('Length in seconds').last().fill('1');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Escape');
  for (const motion of [
    'turntable',
    'play the results once',
    'from 0.2 s to 0.8 s sweep section 1 from x = 0.05 to 0.45 m, ease both ends',
  ])
    await typed('Add a motion', 'A motion in plain words', motion);
  const swept = [
    { at: 0.2, value: 0.05 },
    { at: 0.8, value: 0.45 },
  ];
  await keysOf('offset').toMatchObject(swept);

  // Its last key is dragged a quarter of the film to the left, and put back.
  const key = page.getByRole('button', { name: /^Key at 0\.80? s/ }).last();
  const [from, ruler] = [
    (await key.boundingBox())!,
    (await page.getByRole('slider', { name: 'Time of the film' }).boundingBox())!,
  ];
  const [x, y] = [from.x + from.width / 2, from.y + from.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x - 0.25 * ruler.width, y, { steps: 5 });
  await page.mouse.up();
  await expect
    .poll(async () => laneOf((await sceneNow()).lanes, 'offset')?.keys[1].at, { timeout: 30_000 })
    .toBeLessThan(0.7);
  await page.getByRole('button', { name: 'Undo' }).click();
  await keysOf('offset').toMatchObject(swept);
});

/** Presses in the middle of something, and lets go somewhere else. */
async function dragged(what: ReturnType<Page['locator']>, by: { x?: number; y?: number }): Promise<void> {
  const { x, y, width, height } = (await what.boundingBox())!;
  const [cx, cy] = [x + width / 2, y + height / 2];
  await page.mouse.move(cx, cy);
  await page.mouse.down();
  await page.mouse.move(cx + (by.x ?? 0), cy + (by.y ?? 0), { steps: 5 });
  await page.mouse.up();
}

it('keys within a box are chosen, and stretched by their ends; on empty ground none is', async () => {
  const keys = page.getByRole('button', { name: /^Key at/ });
  const [first, last] = [keys.nth((await keys.count()) - 2), keys.last()];
  const [a, b] = [(await first.boundingBox())!, (await last.boundingBox())!];
  await page.mouse.move(a.x - 12, a.y - 6);
  await page.mouse.down();
  await page.mouse.move(b.x + 24, b.y + 20, { steps: 5 });
  await page.mouse.up();
  await page.getByText('2 keys', { exact: true }).waitFor();
  await dragged(page.getByTitle('Drag to stretch the chosen keys').last(), { x: (a.x - b.x) / 2 });
  await expect
    .poll(async () => laneOf((await sceneNow()).lanes, 'offset')?.keys[1].at, { timeout: 30_000 })
    .toBeLessThan(0.65);
  const { keys: stretched } = laneOf((await sceneNow()).lanes, 'offset')!;
  expect(stretched.map((k) => k.value)).toEqual([0.05, 0.45]);
  expect(stretched[0].at).toBe(0.2);
  await page.getByRole('button', { name: 'Undo' }).click();
  await keysOf('offset').toMatchObject([{ at: 0.2 }, { at: 0.8 }]);
  await page.mouse.click(a.x + (b.x - a.x) / 2, a.y + 6);
  await page.getByText('2 keys', { exact: true }).waitFor({ state: 'detached' });
});

it('a marker is dragged and takes its caption along, whose end is dragged too; the reel is made higher', async () => {
  const markers = () => expect.poll(async () => (await sceneNow()).markers, { timeout: 30_000 });
  await page.getByRole('button', { name: 'Beginning of the film' }).click();
  await page.getByRole('button', { name: 'Mark the time that is shown' }).click();
  await page.getByRole('button', { name: 'Chapter and caption' }).click();
  await page.getByLabel('Caption', { exact: true }).fill('The fan is on');
  await page.keyboard.press('Escape');
  const second = (await page.getByRole('slider', { name: 'Time of the film' }).boundingBox())!.width;
  await dragged(page.getByRole('button', { name: /^End of the caption of Chapter 1/ }), { x: -0.5 * second });
  await expect.poll(async () => (await sceneNow()).markers[0].until, { timeout: 30_000 }).toBeLessThan(0.6);
  const { until } = (await sceneNow()).markers[0];
  const begins = page.getByRole('button', { name: /^Beginning of Chapter 1/ });
  await begins.focus();
  await page.keyboard.press('ArrowRight');
  await markers().toMatchObject([{ at: 0.04, until: until! + 0.04 }]);
  await dragged(begins, { x: 0.2 * second });
  await expect.poll(async () => (await sceneNow()).markers[0].at, { timeout: 30_000 }).toBeGreaterThan(0.15);
  const [moved] = (await sceneNow()).markers;
  expect(moved.until! - moved.at).toBeCloseTo(until!, 6);
  await page.getByRole('button', { name: 'Chapter and caption' }).click();
  await page.getByRole('button', { name: 'Delete', exact: true }).last().click();
  await markers().toEqual([]);

  const reel = page.getByRole('region', { name: 'Reel' });
  const { height } = (await reel.boundingBox())!;
  const edge = page.getByRole('separator', { name: 'Height of the reel' });
  await edge.focus();
  await page.keyboard.press('ArrowDown');
  await expect.poll(async () => (await reel.boundingBox())!.height).toBe(height - 28);
  await page.keyboard.press('ArrowUp');
});

it('a walk goes through places that are pointed at in the model, and its lanes fold with those of the same thing', async () => {
  const before = (await sceneNow()).lanes;
  await page.getByRole('button', { name: 'Add a motion' }).click();
  await page.getByRole('button', { name: 'Walk a path', exact: true }).click();
  await page.getByRole('button', { name: 'Point at more places' }).click();
  const picture = (await page.getByTestId('picture').boundingBox())!;
  for (const share of [0.45, 0.55]) {
    const sentence = () => page.getByLabel('A motion in plain words').inputValue();
    const count = (await sentence()).split('(').length;
    await page.mouse.click(picture.x + share * picture.width, picture.y + 0.5 * picture.height);
    await expect.poll(async () => (await sentence()).split('(').length, { timeout: 20_000 }).toBe(count + 1);
  }
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  const camera = async (): Promise<Lane> => (await sceneNow()).lanes.find((l) => l.of[0] === 'camera')!;
  await expect.poll(async () => (await camera()).smooth, { timeout: 30_000 }).toBe(true);
  // Where it stands, the middle of the model, and the two places.
  const { keys } = await camera();
  expect(keys.map((k) => k.at)).toEqual([0, 1 / 3, 2 / 3, 1].map((at) => expect.closeTo(at, 9)));
  for (const { value } of keys.slice(2))
    for (const v of (value as Scene['camera']).position) expect(Math.abs(v - 0.25)).toBeLessThan(0.26);

  await page.getByRole('button', { name: 'How the camera goes' }).click();
  await page.getByLabel('What it looks at has keys of its own').check();
  await page.keyboard.press('Escape');
  const fold = page.getByRole('button', { name: 'Fold the lanes of camera' });
  await fold.click();
  const together = page.getByRole('button', { name: /^Key at 1(\.00)? s: 2 keys$/ });
  await together.focus();
  await page.keyboard.press('ArrowLeft');
  const last = async (): Promise<number[]> =>
    (await sceneNow()).lanes.filter((l) => l.of[0] === 'camera').map((l) => l.keys.at(-1)!.at);
  await expect.poll(last, { timeout: 30_000 }).toEqual([0.96, 0.96]);
  await page.getByRole('button', { name: 'Unfold the lanes of camera' }).click();
  await fold.waitFor();
  // All of that is taken back.
  const undo = page.getByRole('button', { name: 'Undo' });
  for (let i = 0; i < 3; i++) await undo.click();
  await expect.poll(async () => (await sceneNow()).lanes, { timeout: 30_000 }).toEqual(before);
});

it('what is given out has its pictures, its rate and its length, and all of it moves', async () => {
  await page.getByRole('button', { name: 'Give out' }).click();
  await page.getByRole('tab', { name: 'Film' }).click();
  for (const [label, value] of [
    ['Width in pixels', SIZE.width],
    ['Height in pixels', SIZE.height],
  ] as const) {
    await page.getByLabel(label).fill(String(value));
    await page.keyboard.press('Enter');
  }
  await page.getByRole('button', { name: 'Quick' }).click();
  await page.getByRole('button', { name: 'Make the film' }).click();
  await page.getByText(/25 pictures, 1\.0 s, 240 × 160/).waitFor({ timeout: 300_000 });
  const path = join(folder, 'film.mp4');
  writeFileSync(path, (await downloaded(page, 'Save')).bytes);
  expect(toldOfFilm(path)).toMatchObject({
    codec_name: 'h264',
    ...SIZE,
    color_space: 'bt709',
    r_frame_rate: '25/1',
    nb_read_frames: 25,
  });
  const pictures = picturesOfFilm(path, SIZE);
  expect(pictures.length).toBe(25);
  // The whole turns all the time; in the end it has come round, with the values of another time.
  const middle: [number, number, number, number] = [0.3, 0.7, 0.25, 0.75];
  for (const [a, b] of [
    [0, 6],
    [6, 12],
    [12, 18],
  ])
    expect(difference(pictures[a], pictures[b], middle), `${a} ${b}`).toBeGreaterThan(4);
  // The words have told another time; beside them nothing but what the format lost has changed.
  const text = (a: Annotation): a is Extract<Annotation, { kind: 'text' }> => a.kind === 'text';
  const { x, y } = (await sceneNow()).annotations.find(text)!;
  const rows = [Math.max(0, y - 0.05), y + 0.04] as const;
  const words = difference(pictures[0], pictures[24], [x, x + 0.1, ...rows]);
  expect(words).toBeGreaterThan(4 * difference(pictures[0], pictures[24], [0.75, 0.85, ...rows]));
});

it('a wipe is begun in plain words; its edge is dragged where it is keyed, and never leaves the picture', async () => {
  await typed('Add a motion', 'A motion in plain words', 'wipe from step 1 to step 3');
  const placeAtFirst = async () => laneOf((await sceneNow()).lanes, 'place')?.keys[0];
  await expect.poll(placeAtFirst, { timeout: 30_000 }).toMatchObject({ at: 0, value: 1 });
  await page.getByRole('button', { name: 'Beginning of the film' }).click();
  const handle = page.locator('[data-handle=wipe]');
  await expect.poll(() => handle.getAttribute('aria-valuenow')).toBe('100');
  const picture = (await page.getByTestId('picture').boundingBox())!;
  const knob = (await handle.boundingBox())!;
  expect(knob.x + knob.width).toBeLessThanOrEqual(picture.x + picture.width);
  const [x, y] = [knob.x + knob.width / 2, knob.y + knob.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x - 0.25 * picture.width, y, { steps: 5 });
  await page.mouse.up();
  await expect.poll(async () => (await placeAtFirst())?.value, { timeout: 30_000 }).toBeCloseTo(0.75, 1);
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect.poll(async () => (await placeAtFirst())?.value, { timeout: 30_000 }).toBe(1);
});

it('what this browser cannot write is told before a film is made, and so is a size that has to be even', async () => {
  await page.addInitScript(() => Reflect.deleteProperty(window, 'VideoEncoder'));
  await page.reload();
  await settled(page);
  await page.getByRole('button', { name: 'Give out' }).click();
  await page.getByRole('tab', { name: 'Film' }).click();
  await page
    .getByText('This browser cannot write MP4, H.264: make it in the background, or choose another kind.')
    .waitFor();
  const make = page.getByRole('button', { name: 'Make the film' });
  expect(await make.isDisabled()).toBe(true);
  await page.getByLabel('Width in pixels').fill('121');
  await page.getByLabel('Width in pixels').press('Enter');
  await page.getByLabel('Height in pixels').fill('80');
  await page.getByLabel('Height in pixels').press('Enter');
  const even = page.getByText('Films of this kind have even sides: it will be 122 × 80.');
  await even.waitFor();
  await page.getByRole('button', { name: 'GIF', exact: true }).click();
  await even.waitFor({ state: 'detached' });
  expect(await make.isEnabled()).toBe(true);
});
