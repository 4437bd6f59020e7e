import type { Page } from 'playwright-core';
import type { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import type { RunDescription } from '#core/model/run.ts';
import type { Scene } from '#core/scene/document.ts';
import { scale } from '#core/scene/things/scale.ts';
import { hexBlock } from '../vtu-builder.ts';
import { RenderPage } from './render-page.ts';
import { importFiles, pictureOnScreen, Site, settled, upload } from './site.ts';

/** A block of cubes that is stretched along x, by 1, 2 and 3. */
const stretched = (stretch: number): Uint8Array => {
  const mesh = hexBlock(2);
  const points = mesh.points.map((v, i) => (i % 3 === 0 ? v * stretch : v));
  return writeVtu({ ...mesh, points }, [], stretch, {});
};

describe('ranges of quantities that no file states', () => {
  const site = new Site();
  let page: Page;
  let scene = '';
  let run = '';
  beforeAll(async () => {
    await site.start();
    page = await site.page();
    await importFiles(
      page,
      [1, 2, 3].map((n) => upload(`block_${n}.vtu`, stretched(n))),
    );
    const id = page.url().split('/').pop()!;
    const row = (await site.send<{ run: string; document: Scene }>('GET', `/api/scenes/${id}`)).answer;
    run = row.run;
    const document = structuredClone(row.document);
    document.step = 0;
    document.scales = [
      {
        ...scale.plain,
        id: 's',
        name: 'Size',
        quantity: 'mesh:size#0',
      },
    ];
    document.layers[0].colour = { kind: 'field', field: 'mesh:size', component: 0, scale: 's' };
    const made = await site.send<{ id: string }>('POST', '/api/scenes', { run, document });
    scene = made.answer.id;
  });
  afterAll(() => site.stop());

  it('are computed whole by the server, kept with the run, and shown by the legend', async () => {
    await page.goto(`${site.address}/scene/${scene}`);
    await settled(page);
    const { description } = (await site.send<{ description: RunDescription }>('GET', `/api/runs/${run}`))
      .answer;
    const [stats] = description.measured['mesh:size'].overall!.components;
    expect([stats.min, stats.max]).toEqual([expect.closeTo(0.125, 5), expect.closeTo(0.375, 5)]);
    const again = await site.send<{ range: unknown }>('POST', `/api/runs/${run}/range`, {
      kind: 'range',
      key: 'mesh:size',
    });
    expect(again.answer.range).toEqual(description.measured['mesh:size']);
    for (const key of ['point:none', 'mesh:none', 'constructor', ''])
      expect((await site.send('POST', `/api/runs/${run}/range`, { kind: 'range', key })).status).toBe(404);
  });

  it('give the same picture on the stage, whatever was looked at before', async () => {
    const first = await pictureOnScreen(page);
    for (const name of ['One step on', 'Last step', 'First step']) {
      await page.getByRole('button', { name }).click();
      await settled(page);
    }
    expect((await pictureOnScreen(page)).data.equals(first.data)).toBe(true);
  });

  it('give the same picture to the command line in any order of steps', async () => {
    const document = (await site.send<{ document: Scene }>('GET', `/api/scenes/${scene}`)).answer.document;
    const render = async (steps: number[]): Promise<Buffer> => {
      const other = await page.context().browser()!.newPage();
      const drawing = await RenderPage.open(other, site.address);
      let picture: PNG | null = null;
      for (const step of steps)
        picture = await drawing.draw({ run, scene: document, step, width: 160, height: 120, passes: 2 });
      await other.close();
      return picture!.data;
    };
    const alone = await render([1]);
    expect((await render([2, 0, 1])).equals(alone)).toBe(true);
    expect((await render([0, 1])).equals(alone)).toBe(true);
  });

  it('of a formula, in bands of equal shares, are computed and kept as well', async () => {
    const { document } = (await site.send<{ document: Scene }>('GET', `/api/scenes/${scene}`)).answer;
    const field = 'formula:x ^ 2';
    document.scales[0] = {
      ...document.scales[0],
      quantity: `${field}#0`,
      bands: { kind: 'share', count: 4 },
    };
    document.layers[0].colour = { kind: 'field', field, component: 0, scale: 's' };
    const made = await site.send<{ id: string }>('POST', '/api/scenes', { run, document });
    await page.addInitScript(() => {
      const counted = Object.assign(window, { stages: 0 });
      const own = HTMLCanvasElement.prototype.getContext as (...all: unknown[]) => unknown;
      HTMLCanvasElement.prototype.getContext = function (this: HTMLCanvasElement, ...all: unknown[]) {
        if (all[0] === 'webgl2') counted.stages++;
        return own.apply(this, all);
      } as never;
    });
    await page.goto(`${site.address}/scene/${made.answer.id}`);
    await settled(page);
    expect(await page.getByTestId('trouble').count()).toBe(0);
    // The stage goes on when a range becomes known: a second one would draw on the same canvas.
    expect(await page.evaluate(() => (window as never as { stages: number }).stages)).toBe(1);
    expect(await page.getByRole('button', { name: 'What it is coloured by' }).textContent()).toBe('(x ^ 2)');
    const { description } = (await site.send<{ description: RunDescription }>('GET', `/api/runs/${run}`))
      .answer;
    const [stats] = description.measured[field].overall!.components;
    // The longest of the three blocks reaches from 0 to 3 along x.
    expect([stats.min, stats.max]).toEqual([0, 9]);
    const shares = description.shares![`${field}#0`];
    expect(shares).toHaveLength(101);
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
  });

  it('a picture larger than a tile is the same in tiles as in one piece', async () => {
    const document = (await site.send<{ document: Scene }>('GET', `/api/scenes/${scene}`)).answer.document;
    const other = await page.context().browser()!.newPage();
    const drawing = await RenderPage.open(other, site.address);
    const rendered = (tile: number | undefined): Promise<PNG> =>
      drawing.draw({ run, scene: document, step: 1, width: 2100, height: 150, passes: 2, tile });
    const whole = await rendered(4096);
    const usual = await rendered(undefined);
    const small = await rendered(512);
    await other.close();
    expect([whole.width, whole.height]).toEqual([2100, 150]);
    // Where an edge runs through the middle of a pixel, rounding within a tile may decide the other way: less than one
    // pixel in ten thousand.
    for (const tiled of [usual, small]) {
      let others = 0;
      for (let i = 0; i < whole.data.length; i += 4)
        if ([0, 1, 2].some((k) => Math.abs(whole.data[i + k] - tiled.data[i + k]) > 2)) others++;
      expect(others / (whole.data.length / 4)).toBeLessThan(1e-4);
    }
  });
});
