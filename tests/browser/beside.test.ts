import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Page } from 'playwright-core';
import { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { type SideBySide, scenePanes } from '#core/beside/side-by-side.ts';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import type { Scene } from '#core/scene/document.ts';
import { temperature } from '../sample-run.ts';
import { picturesOfFilm, toldOfFilm } from '../told-film.ts';
import { hexBlock } from '../vtu-builder.ts';
import { coloured, downloaded, importFiles, PATIENCE, Site, settled, upload } from './site.ts';

/** Ovens whose temperatures go evenly along x: so every difference between two is known, on unlike meshes too. */
const ovens: Record<string, { cells: number; at: (x: number) => number }> = {
  plain: { cells: 3, at: (x) => 20 + x },
  warm: { cells: 3, at: (x) => 25 + 2 * x },
  fine: { cells: 4, at: (x) => 24 - 3 * x },
  cool: { cells: 3, at: (x) => 10 + x / 2 },
};

const site = new Site();
let page: Page;
let runs: Record<string, string>;
beforeAll(async () => {
  await site.start();
  page = await site.page();
  await page.setViewportSize({ width: 1280, height: 800 });
  for (const [name, { cells, at }] of Object.entries(ovens)) {
    const mesh = hexBlock(cells);
    const file = writeVtu(mesh, [temperature(mesh, at)], null);
    await page.goto(site.address);
    await importFiles(page, [upload(`${name}.vtu`, file)]);
  }
  const listed = await site.get<{ id: string; name: string }[]>('/api/runs/listed');
  runs = Object.fromEntries(listed.map(({ id, name }) => [name, id]));
});
afterAll(() => site.stop());

const id = (): string => page.url().split('/').at(-1)!;
const kept = async (): Promise<SideBySide> =>
  (await site.get<{ document: SideBySide }>(`/api/beside/${id()}`)).document;
const scenes = async () => scenePanes(await kept()).map((p) => p.scene);
const allDrawn = () =>
  page.waitForFunction(
    () => {
      const panes = [...document.querySelectorAll<HTMLElement>('[data-testid=pane]')];
      return panes.length > 0 && panes.every((p) => p.dataset.settled === 'true');
    },
    null,
    { timeout: PATIENCE },
  );
const press = (name: string) => page.getByRole('button', { name, exact: true }).click();
const largest = () => page.getByRole('region', { name: 'Largest differences' }).getByRole('listitem');

/** The mean colour of a square of 40 pixels, half way down. */
function middleOf(
  picture: Buffer,
  { width, height }: { width: number; height: number },
  x: number,
): number[] {
  const sum = [0, 0, 0];
  for (let row = height / 2 - 20; row < height / 2 + 20; row++)
    for (let column = x - 20; column < x + 20; column++)
      for (let k = 0; k < 3; k++) sum[k] += picture[3 * (row * width + column) + k] / 1600;
  return sum;
}

const apart = (a: number[], b: number[]): number => Math.hypot(...a.map((v, k) => v - b[k]));

describe('runs side by side', () => {
  it('are opened from the marks of a set', async () => {
    const { answer } = await site.send<{ id: string }>('POST', '/api/sets', {
      name: 'Ovens',
      runs: Object.keys(ovens).map((name) => runs[name]),
    });
    await page.goto(`${site.address}/sheets/${answer.id}`);
    const open = page.getByRole('button', { name: 'Side by side', exact: true });
    await open.waitFor();
    expect(await open.isDisabled()).toBe(true);
    for (const name of Object.keys(ovens)) await press(`Mark ${name}`);
    await press('4 side by side');
    await page.waitForURL(/beside/);
    await allDrawn();
    expect(await page.getByTestId('pane').count()).toBe(4);
    await page.getByTestId('legend-of-all').waitFor();
  });

  it('turn together: what is done in one picture is done in all, to the last digit', async () => {
    const [before] = await scenes();
    const box = (await page.getByTestId('pane').nth(2).boundingBox())!;
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width / 2 + 60, box.y + box.height / 2 + 25, { steps: 3 });
    await page.mouse.up();
    await expect.poll(async () => (await scenes())[2].camera.position).not.toEqual(before.camera.position);
    const cameras = (await scenes()).map((s) => s.camera);
    for (const camera of cameras) expect(camera).toEqual(cameras[2]);
  });

  it('share a scale, and say so where one goes its own way', async () => {
    expect(await page.getByText(/One colour is not one/).count()).toBe(0);
    await page.getByRole('button', { name: 'This pane: its own ways, and another run' }).nth(3).click();
    await page.getByLabel('scales of its own').check();
    await page.getByText(/One colour is not one temperature in all panes: .* °C in cool/).waitFor();
    await page.keyboard.press('Escape');
    await page.keyboard.press('Control+z');
    await page.getByText(/One colour is not one/).waitFor({ state: 'detached' });
  });

  it('change together where a line of one is changed', async () => {
    await press('Lines');
    await page
      .getByRole('button', { name: /^Hide line 1|^Hide/ })
      .first()
      .click();
    await expect
      .poll(async () => (await scenes()).map((s) => s.layers[0].visible))
      .toEqual([false, false, false, false]);
    await page.keyboard.press('Control+z');
    await expect.poll(async () => (await scenes()).every((s) => s.layers[0].visible)).toBe(true);
    await press('Lines');
  });

  it('show how they differ, exactly on one mesh and between the nodes of another', async () => {
    await press('difference');
    // 20 + x less 25 + 2 x.
    await expect
      .poll(() => largest().allTextContents(), { timeout: PATIENCE })
      .toEqual([expect.stringContaining('−6 K'), expect.stringContaining('−5 K')]);
    expect(await largest().first().textContent()).toMatch(/\(1, /);
    await press('Which is the second');
    await press('fine');
    // 20 + x less 24 − 3 x.
    await expect
      .poll(() => largest().allTextContents(), { timeout: PATIENCE })
      .toEqual([expect.stringContaining('−4 K')]);
    await page.keyboard.press('Escape');
  });

  it('lie upon each other with a line between them that keys move', async () => {
    await press('wipe');
    const line = page.getByRole('slider', { name: 'How much of the first is seen' });
    await line.focus();
    await page.keyboard.press('ArrowRight');
    await expect.poll(async () => (await kept()).show.share).toBeCloseTo(0.52, 6);
    await press('panes');
  });

  it('get another run under one of them, with the same view', async () => {
    await page.getByRole('button', { name: 'This pane: its own ways, and another run' }).first().click();
    const others = page.getByRole('list', { name: 'Other runs' });
    await others.getByRole('button', { name: /^warm/ }).click();
    await page.getByRole('button', { name: /^kept at 20 to 21 °C/ }).click();
    await press('Show this run');
    await expect
      .poll(async () => scenePanes(await kept()).map((p) => p.run))
      .toEqual([runs.warm, runs.warm, runs.fine, runs.cool]);
    const [first, second] = await scenes();
    expect(first.scales[0].range).toMatchObject({ kind: 'fixed', low: 20, high: 21 });
    expect(first.camera).toEqual(second.camera);
    await page.keyboard.press('Control+z');
    await expect.poll(async () => scenePanes(await kept())[0].run).toBe(runs.plain);
  });

  it('are given out as they stand on the screen', async () => {
    await allDrawn();
    await press('Give out');
    await press('HD');
    await press('Draft');
    const { bytes, name } = await downloaded(page, 'Save picture');
    expect(name).toMatch(/\.png$/);
    const png = PNG.sync.read(bytes);
    expect([png.width, png.height]).toEqual([1280, 720]);
    expect(coloured(png)).toBeGreaterThan(0.02);
    await page.keyboard.press('Escape');
  });

  it('tell of a run that is gone, and go on without it', async () => {
    await site.send('PUT', '/api/removed', { kind: 'run', id: runs.cool, removed: true });
    const address = page.url();
    await page.goto(`${site.address}/sheets`);
    await page.getByRole('region', { name: 'Side by side' }).getByRole('link').first().waitFor();
    await page.goto(address);
    await page.getByText(/The run of this pane is no longer there/).waitFor();
    expect(await page.getByTestId('pane').count()).toBe(4);
    await site.send('PUT', '/api/removed', { kind: 'run', id: runs.cool, removed: false });
  });
});

describe('runs over time, side by side', () => {
  it('are given out as a film of their steps, under one scale', async () => {
    const mesh = hexBlock(2);
    const rising = [0, 1, 2].map((step) =>
      upload(`rising_${step}.vtu`, writeVtu(mesh, [temperature(mesh, (x) => 20 + 40 * step + 10 * x)], null)),
    );
    await page.goto(site.address);
    await importFiles(page, rising);
    const listed = await site.get<{ id: string; name: string }[]>('/api/runs/listed');
    const { id: run } = listed.find((one) => one.name === 'rising')!;
    const { answer } = await site.send<{ id: string }>('POST', '/api/beside', {
      name: 'Twice',
      of: { kind: 'runs', runs: [run, run], shot: null, set: null },
    });
    await page.goto(`${site.address}/sheets/beside/${answer.id}`);
    await allDrawn();
    await press('Give out');
    await press('HD');
    await press('Draft');
    await page.getByLabel('Steps a second').selectOption('2');
    const { name, bytes } = await downloaded(page, 'Save film of 3 steps');
    expect(name).toBe('Twice.mp4');
    const path = join(site.data, name);
    writeFileSync(path, bytes);
    const size = { width: 1280, height: 720 };
    expect(toldOfFilm(path)).toMatchObject({
      codec_name: 'h264',
      ...size,
      nb_read_frames: 3,
      duration: expect.closeTo(1.5, 1),
    });
    const pictures = picturesOfFilm(path, size);
    // Both halves are of one run, each step is of other values, and the scale is that of all.
    const half = (of: Buffer, side: number) => middleOf(of, size, (0.25 + 0.5 * side) * size.width);
    for (const picture of pictures) expect(apart(half(picture, 0), half(picture, 1))).toBeLessThan(4);
    for (const step of [1, 2])
      expect(apart(half(pictures[step - 1], 0), half(pictures[step], 0))).toBeGreaterThan(25);
  });
});

describe('the same views of another run', () => {
  it('are made from the stage, with the shots, their pictures and the scales that are kept', async () => {
    const { answer } = await site.send<{ id: string }>('POST', '/api/scenes', {
      run: runs.plain,
      name: 'Views',
    });
    await page.goto(`${site.address}/scene/${answer.id}`);
    await settled(page);
    await press('Keep shot');
    await page.getByRole('button', { name: 'Open Shot 1' }).waitFor();
    await press('The same views of another run');
    await page.getByRole('list', { name: 'Other runs' }).getByRole('button', { name: /^warm/ }).click();
    await page.getByRole('button', { name: /^kept at 20 to 21 °C/ }).click();
    await page.getByLabel('In which look').selectOption('high contrast');
    await press('Make this scene and its shot');
    await page.waitForURL((url) => url.pathname.startsWith('/scene/') && !url.pathname.endsWith(answer.id));
    const made = await site.get<{ run: string; document: Scene }>(`/api/scenes/${id()}`);
    expect(made.run).toBe(runs.warm);
    expect(made.document.scales[0].range).toEqual({ kind: 'fixed', low: 20, high: 21 });
    expect(made.document.backdrop).toMatchObject({ kind: 'own', top: '#000000', foot: '#000000' });
    const shot = page.getByRole('button', { name: 'Open Shot 1' });
    // Its picture is that of the other run: drawn anew.
    await shot.locator('img').waitFor();
  });
});
