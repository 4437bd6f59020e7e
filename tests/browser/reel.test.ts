import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from 'playwright-core';
import { PNG } from 'pngjs';
import { beforeAll, describe, expect, it } from 'vitest';
import type { Scene } from '#core/scene/document.ts';
import { toldOfFilm } from '../told-film.ts';
import { openedOven } from './opened-oven.ts';
import { rootMeanSquare } from './render-page.ts';
import { downloaded, pictureOnScreen, settled } from './site.ts';

const oven = openedOven();
const { sceneNow, folder } = oven;
let page: Page;
beforeAll(() => {
  page = oven.page;
});

const lanes = () => expect.poll(async () => (await sceneNow()).lanes, { timeout: 30_000 });

async function move(sentence: string): Promise<void> {
  await page.getByRole('button', { name: 'Add a motion' }).click();
  await page.getByLabel('A motion in plain words').fill(sentence);
  await page.keyboard.press('Enter');
  await page.getByLabel('A motion in plain words').waitFor({ state: 'detached' });
}

describe('the reel', () => {
  it('says what it is for, and begins with motions in plain words', async () => {
    await page.getByRole('link', { name: 'Reel' }).click();
    await page.getByText(/Nothing moves yet/).waitFor();
    await page.getByRole('button', { name: 'Add a motion' }).click();
    await page.getByRole('button', { name: 'Turntable', exact: true }).click();
    const field = page.getByLabel('A motion in plain words');
    expect(await field.inputValue()).toBe('from 0 s to 10 s turntable');
    await field.fill('from 0 s to 1 s turntabel');
    await expect.poll(() => field.getAttribute('aria-invalid')).toBe('true');
    await field.fill('from 0 s to 1 s turntable');
    await page.getByRole('button', { name: 'Add', exact: true }).click();
    await move('from 0 s to 1 s play the results once');
    await lanes().toMatchObject([{ of: ['camera'], steady: true }, { of: ['time'] }]);
    await page.getByText('the camera', { exact: true }).waitFor();
    await page.getByText('the time of the run', { exact: true }).waitFor();
  });

  it('tells how long the film is, and lets it be changed', async () => {
    await page.getByRole('button', { name: 'The film as a whole' }).click();
    const length = page.locator('.card').getByLabel('Length in seconds').last();
    await length.fill('1');
    await page.keyboard.press('Enter');
    await page.keyboard.press('Escape');
    await page.getByText(/^25 pictures · 4 of 4 times used/).waitFor();
  });

  it('shows the film at the time that is looked at', async () => {
    await page.getByRole('button', { name: 'Beginning of the film' }).click();
    await settled(page);
    const begin = await pictureOnScreen(page);
    await page.getByRole('slider', { name: 'Time of the film' }).focus();
    for (let i = 0; i < 12; i++) await page.keyboard.press('ArrowRight');
    await page.getByText('0.48 s', { exact: true }).waitFor();
    await settled(page);
    // The cube has been turned by 12 of 25 pictures of a whole turn.
    expect(rootMeanSquare(begin, await pictureOnScreen(page))).toBeGreaterThan(2);
  });

  it('moves keys by the keyboard, several at once, and undoes it', async () => {
    const keys = () => page.getByRole('button', { name: /^Key at/ });
    const before = (await sceneNow()).lanes[1].keys.map((k) => k.at);
    expect(before).toEqual([0, 1]);
    await keys().last().focus();
    await page.keyboard.press('ArrowLeft');
    await lanes().toMatchObject([{}, { keys: [{ at: 0 }, { at: 0.96 }] }]);
    await page.getByRole('button', { name: 'Undo' }).click();
    await lanes().toMatchObject([{}, { keys: [{ at: 0 }, { at: 1 }] }]);
  });

  it('keeps what is changed as a key, at the time that is looked at', async () => {
    const opacity = page.getByLabel('Opacity', { exact: true }).first();
    await page.getByRole('button', { name: 'Fine settings' }).first().click();
    await page.getByLabel('Keep as a key').check();
    for (const [place, value] of [
      ['Beginning of the film', '0.4'],
      ['End of the film', '0.9'],
    ]) {
      await page.getByRole('button', { name: place }).click();
      await opacity.fill(value);
    }
    await lanes().toMatchObject([
      {},
      {},
      {
        of: ['layers', expect.anything(), 'opacity'],
        keys: [
          { at: 0, value: 0.4 },
          { at: 1, value: 0.9 },
        ],
      },
    ]);
    // Near the middle the panel shows what the film has there, in as many digits as are seen.
    await page.getByLabel('Keep as a key').uncheck();
    await page.getByRole('slider', { name: 'Time of the film' }).focus();
    for (let i = 0; i < 13; i++) await page.keyboard.press('ArrowLeft');
    await expect.poll(() => opacity.inputValue()).toMatch(/^0\.6\d{0,5}$/);
    // The dot beside it sets a key there, and takes it away.
    const keysOfOpacity = () =>
      expect.poll(async () => (await sceneNow()).lanes[2].keys.length, { timeout: 30_000 });
    await page.getByRole('button', { name: /^Set a key of opacity at/ }).click();
    await keysOfOpacity().toBe(3);
    await page.getByRole('button', { name: /^Take the key of opacity away/ }).click();
    await keysOfOpacity().toBe(2);
    // What moves in a thing is marked at its word.
    await page.getByRole('img', { name: 'moves in the film' }).first().waitFor();
    await page.getByRole('link', { name: 'Stage' }).click();
    await expect.poll(() => opacity.inputValue()).toBe('1');
    await page.getByTitle('In the film, opacity moves: its keys are on the Reel desk').waitFor();
    await page.getByRole('link', { name: 'Reel' }).click();
  });

  it('marks a time with a chapter and a caption, which stands on the picture there', async () => {
    await page.getByRole('button', { name: 'Beginning of the film' }).click();
    await settled(page);
    // Words stand above the picture, on a canvas of their own.
    const seen = async () => PNG.sync.read(await page.getByTestId('picture').screenshot());
    const bare = await seen();
    await page.getByRole('button', { name: 'Mark the time that is shown' }).click();
    await page.getByRole('button', { name: 'Chapter and caption' }).click();
    await page.getByLabel('Caption', { exact: true }).fill('The fan is on');
    await page.keyboard.press('Escape');
    await settled(page);
    expect(rootMeanSquare(bare, await seen())).toBeGreaterThan(1);
    expect((await sceneNow()).annotations).toEqual([]);
  });

  it('shows the way of the camera from outside, where its keys are dragged', async () => {
    const { lanes: before, camera } = await sceneNow();
    const through = await pictureOnScreen(page);
    const button = page.getByRole('button', { name: 'Way of the camera' });
    await button.click();
    await page.getByTestId('way-of-the-camera').waitFor();
    await settled(page);
    expect(rootMeanSquare(await pictureOnScreen(page), through)).toBeGreaterThan(2);
    // Turned, the view from outside changes nothing of the scene.
    await page.getByTestId('picture').focus();
    await page.keyboard.press('ArrowLeft');
    const grip = page.getByRole('button', { name: /^Where the camera stands at/ }).nth(1);
    const { x, y, width, height } = (await grip.boundingBox())!;
    await page.mouse.move(x + width / 2, y + height / 2);
    await page.mouse.down();
    await page.mouse.move(x + width / 2 + 20, y + height / 2 - 30, { steps: 4 });
    await page.mouse.up();
    const values = (lanes: Scene['lanes']) => lanes[0].keys.map((k) => k.value as Scene['camera']);
    await expect
      .poll(async () => values((await sceneNow()).lanes)[1].position)
      .not.toEqual(values(before)[1].position);
    const after = (await sceneNow()).lanes;
    for (const [i, one] of values(after).entries())
      expect(one).toEqual({ ...values(before)[i], position: one.position });
    expect(after.slice(1)).toEqual(before.slice(1));
    expect((await sceneNow()).camera).toEqual(camera);
    // All of the drag is one step.
    await page.getByRole('button', { name: 'Undo' }).click();
    await lanes().toEqual(before);
    await page.getByText('the camera', { exact: true }).click();
    const apart = page.getByLabel('What it looks at has keys of its own');
    await apart.check();
    const target = { of: ['camera', 'target'], keys: before[0].keys.map(({ at }) => ({ at })) };
    await expect.poll(async () => (await sceneNow()).lanes.at(-1)).toMatchObject(target);
    await apart.uncheck();
    await lanes().toEqual(before);
    await page.keyboard.press('Escape');
    await button.click();
    await page.getByTestId('way-of-the-camera').waitFor({ state: 'detached' });
  });

  it('is drawn ahead, and then plays without drawing anything', async () => {
    await page.getByRole('button', { name: 'draw ahead', exact: true }).click();
    await page.getByText('plays as it was drawn').waitFor({ timeout: 120_000 });
    await settled(page);
    const drawn = await page.evaluateHandle(() => {
      const seen = { pictures: 0, times: new Set<string>() };
      const look = new PerformanceObserver((list) => {
        seen.pictures += list.getEntries().length;
      });
      look.observe({ entryTypes: ['mark'] });
      const label = document.querySelector('#time p')!;
      new MutationObserver(() => seen.times.add(label.textContent!)).observe(label, {
        subtree: true,
        characterData: true,
        childList: true,
      });
      return seen;
    });
    await page.getByRole('button', { name: 'Play the film' }).click();
    await expect
      .poll(() => drawn.evaluate(({ times }) => times.size), { timeout: 30_000 })
      .toBeGreaterThan(8);
    expect(await drawn.evaluate(({ pictures }) => pictures)).toBe(0);
    await page.getByRole('button', { name: 'Pause' }).click();
    // Where it ended it is drawn again, as it is there.
    await expect
      .poll(() => drawn.evaluate(({ pictures }) => pictures), { timeout: 30_000 })
      .toBeGreaterThan(0);
    await settled(page);
    const ended = await pictureOnScreen(page);
    await page.getByRole('button', { name: 'Beginning of the film' }).click();
    // A busy machine takes a while to begin with another picture.
    await expect
      .poll(async () => rootMeanSquare(await pictureOnScreen(page), ended), { timeout: 30_000 })
      .toBeGreaterThan(1);
    await settled(page);
    // What is changed makes another film: none of its pictures was drawn.
    await page.getByLabel('Keep as a key').check();
    await page.getByTestId('picture').focus();
    await page.keyboard.press('ArrowLeft');
    await page.keyboard.press('ArrowLeft');
    await page.getByLabel('Keep as a key').uncheck();
    await page.getByText('draw ahead', { exact: true }).waitFor();
    await page.getByRole('button', { name: 'Undo' }).click();
  });

  it('is given out as a film of just these pictures, with captions and chapters beside it', async () => {
    await page.getByRole('button', { name: 'Give out' }).click();
    await page.getByRole('tab', { name: 'Film' }).click();
    await page.getByLabel('Width in pixels').fill('160');
    await page.keyboard.press('Enter');
    await page.getByLabel('Height in pixels').fill('120');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Quick' }).click();
    await page.getByText('Also as', { exact: true }).click();
    await page.getByLabel('GIF', { exact: true }).check();
    await page.getByRole('button', { name: 'Make the film' }).click();
    await page.getByText(/25 pictures, 1\.0 s, 160 × 120/).waitFor({ timeout: 300_000 });
    const captions = await downloaded(page, 'Save captions');
    expect(captions.name).toMatch(/\.captions\.vtt$/);
    expect(captions.bytes.toString()).toBe('WEBVTT\n\n1\n00:00:00.000 --> 00:00:01.000\nThe fan is on\n');
    expect((await downloaded(page, 'Save chapters')).bytes.toString()).toContain('Chapter 1');
    const poster = await downloaded(page, 'Save poster');
    expect(poster.name).toMatch(/\.poster\.png$/);
    expect(PNG.sync.read(poster.bytes)).toMatchObject({ width: 160, height: 120 });
    // Both of one drawing.
    expect((await downloaded(page, 'Save GIF')).bytes.subarray(0, 6).toString()).toBe('GIF89a');
    const { bytes } = await downloaded(page, 'Save');
    const path = join(folder, 'film.mp4');
    writeFileSync(path, bytes);
    expect(toldOfFilm(path)).toMatchObject({ r_frame_rate: '25/1', nb_read_frames: 25, nb_streams: 1 });
  });

  it('is made in the background, paused, and is there after a reload', async () => {
    await page.getByRole('button', { name: 'In the background' }).click();
    await page.getByRole('button', { name: 'Pause' }).click();
    await page.getByRole('button', { name: 'Go on' }).waitFor({ timeout: 60_000 });
    await page.reload();
    await page.getByRole('button', { name: 'Give out' }).click();
    await page.getByRole('tab', { name: 'Film' }).click();
    await page.getByRole('button', { name: 'Go on' }).click();
    await page.getByText(', 25 pictures', { exact: true }).waitFor({ timeout: 300_000 });
    const film = await downloaded(page, 'Save MP4, H.264');
    expect(film.name).toMatch(/\.mp4$/);
    // The box of an MP4 (ISO/IEC 14496-12) that says what it is comes first.
    expect(film.bytes.subarray(4, 8).toString()).toBe('ftyp');
    await page.getByRole('button', { name: /^Remove .*160 × 120/ }).click();
    await page.getByText(', 25 pictures', { exact: true }).waitFor({ state: 'detached' });
  });
});
