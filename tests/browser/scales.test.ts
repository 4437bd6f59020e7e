import { converter, differenceCiede2000 } from 'culori';
import type { Page } from 'playwright-core';
import type { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { hexToRgb } from '#core/colour/cielab.ts';
import { CompiledScale, type ScaleColours } from '#core/colour/compiled-scale.ts';
import type { Scale, Scene } from '#core/scene/document.ts';
import { RenderPage } from './render-page.ts';
import { plateFile } from './sample-files.ts';
import { importFiles, pixel, Site, settled } from './site.ts';

// CIEDE2000 by culori, a general-purpose colour library.
const difference = differenceCiede2000();
const toLch = converter('lch65');
const rgb = (c: ArrayLike<number>) => ({ mode: 'rgb' as const, r: c[0] / 255, g: c[1] / 255, b: c[2] / 255 });
const ofScreen = (c: ArrayLike<number>) => rgb(Array.from(c, (v) => 255 * v));

const site = new Site();
let page: Page;
let run = '';
let begin: Scene;
beforeAll(async () => {
  await site.start();
  page = await site.page();
  // A flat plate from 0 to 1 in x on which the temperature is 100 x.
  await importFiles(page, [plateFile()]);
  const id = page.url().split('/').pop()!;
  const row = (await site.send<{ run: string; document: Scene }>('GET', `/api/scenes/${id}`)).answer;
  run = row.run;
  begin = row.document;
});
afterAll(() => site.stop());

const even = (count: number) => ({ kind: 'count' as const, count, low: null, high: null });

describe('colours on the model', () => {
  let drawing: RenderPage;
  beforeAll(async () => {
    drawing = await RenderPage.open(await page.context().browser()!.newPage(), site.address);
  });
  afterAll(() => drawing.page.close());

  const SIZE = { width: 500, height: 300 };

  /** The plate alone, without words, seen straight from above so that its left edge is at 100 and its right at 400. */
  async function drawn(change: Partial<Scale>, more: Partial<Scene> = {}): Promise<PNG> {
    const [scale] = begin.scales;
    const camera = {
      ...begin.camera,
      projection: 'parallel' as const,
      position: [0.5, 0.5, 3] as [number, number, number],
      target: [0.5, 0.5, 0] as [number, number, number],
      up: [0, 1, 0] as [number, number, number],
      height: 1,
    };
    const scene: Scene = {
      ...begin,
      camera,
      light: { ...begin.light, rig: 'even' },
      stamp: { ...begin.stamp, visible: false },
      legends: { shown: false },
      scales: [{ ...scale, range: { kind: 'fixed', low: 0, high: 100 }, ...change }],
      ...more,
    };
    return drawing.draw({ run, scene, ...SIZE, passes: 4 });
  }
  /** The pixel of a value: the plate is as high and as wide as the picture is high. */
  const at = (png: PNG, value: number, y = 140): number[] => pixel(png, 100 + 3 * value, y).slice(0, 3);
  const scaleOf = (more: Partial<ScaleColours> = {}): CompiledScale =>
    CompiledScale.of({ map: begin.scales[0].map, reversed: false, bands: null, low: 0, high: 100, ...more });
  const backdrop = (png: PNG): number[] => pixel(png, 20, 140).slice(0, 3);

  it.each([
    ['evenly', {}, {}],
    ['on another map, reversed', { map: 'steam', reversed: true }, { map: 'steam', reversed: true }],
    ['in bands', { bands: even(5) }, { bands: even(5) }],
    ['in 256 bands', { bands: even(256) }, { bands: even(256) }],
    [
      'in chosen bands',
      { bands: { kind: 'list', values: [13, 62] } },
      { bands: { kind: 'list', values: [13, 62] } },
    ],
    [
      'by logarithm',
      { range: { kind: 'fixed', low: 1, high: 100 }, spacing: { kind: 'log' } },
      { low: 1, spacing: { kind: 'log' } },
    ],
    [
      'through zero',
      { range: { kind: 'fixed', low: -100, high: 100 }, spacing: { kind: 'symlog', linear: 2 } },
      { low: -100, spacing: { kind: 'symlog', linear: 2 } },
    ],
    [
      'cropped and turned',
      { map: 'dial', crop: [0.1, 0.8], rotate: 0.3 },
      { map: 'dial', crop: [0.1, 0.8], rotate: 0.3 },
    ],
    [
      'of its own',
      {
        map: {
          name: 'Rye',
          space: 'oklab',
          stops: [
            { at: 0, colour: '#102030' },
            { at: 1, colour: '#f0c080' },
          ],
        },
      },
      {
        map: {
          name: 'Rye',
          space: 'oklab',
          stops: [
            { at: 0, colour: '#102030' },
            { at: 1, colour: '#f0c080' },
          ],
        },
      },
    ],
    [
      'beyond its range',
      { range: { kind: 'fixed', low: 30, high: 60 }, below: '#2b3a67', above: '#7a1f5c' },
      { low: 30, high: 60, below: '#2b3a67', above: '#7a1f5c' },
    ],
    [
      'by name',
      {
        map: 'told-apart',
        categories: [
          { value: 20, name: 'a', colour: null },
          { value: 70, name: 'b', colour: '#aa4411' },
        ],
      },
      {
        map: 'told-apart',
        categories: [
          { value: 20, name: 'a', colour: null },
          { value: 70, name: 'b', colour: '#aa4411' },
        ],
      },
    ],
  ] as [string, Partial<Scale>, Partial<ScaleColours>][])(
    'are those of the scale: %s',
    async (_, change, colours) => {
      const png = await drawn(change);
      const scale = scaleOf(colours);
      for (let value = 3.5; value < 99; value += 4) {
        // Beside an edge of a band a pixel has something of both.
        const near = scale.edges.some((e) => Math.abs(e - value) < 0.7) && scale.bandCount < 100;
        if (near) continue;
        const exact = ofScreen(scale.colour(value + 0.5 / 3));
        expect(difference(rgb(at(png, value)), exact), `${value}`).toBeLessThan(
          scale.bandCount > 100 ? 1.5 : 1,
        );
      }
    },
  );

  it('leave out what is hidden, and show what is behind', async () => {
    const png = await drawn({ shownFrom: 25, shownTo: 70 });
    for (const value of [5, 20, 75, 95])
      expect(difference(rgb(at(png, value)), rgb(backdrop(png)))).toBeLessThan(4);
    for (const value of [30, 65])
      expect(difference(rgb(at(png, value)), ofScreen(scaleOf().colour(value + 0.17)))).toBeLessThan(1);
  });

  it('are as opaque along the scale as is asked', async () => {
    const png = await drawn({
      opacity: [
        [0, 0],
        [1, 1],
      ],
    });
    expect(difference(rgb(at(png, 2)), rgb(backdrop(png)))).toBeLessThan(4);
    const solid = ofScreen(scaleOf().colour(98));
    expect(difference(rgb(at(png, 98)), solid)).toBeLessThan(4);
    const half = difference(rgb(at(png, 50)), ofScreen(scaleOf().colour(50)));
    expect(half).toBeGreaterThan(8);
  });

  it('have lines where levels lie', async () => {
    const png = await drawn({ bands: even(4), lines: { shown: true, colour: '#000000', width: 3 } });
    const dark = Array.from({ length: 300 }, (_, x) => x).filter(
      (x) => toLch(rgb(pixel(png, 100 + x, 140))).l < 6,
    );
    for (const level of [75, 150, 225]) expect(dark.some((x) => Math.abs(x - level) <= 1)).toBe(true);
    expect(dark.every((x) => [75, 150, 225].some((level) => Math.abs(x - level) <= 2))).toBe(true);
  });

  it('follow a shared scale on every line, and edges may borrow one', async () => {
    const [layer] = begin.layers;
    const second = { ...layer, id: 'second' };
    const two = await drawn({ map: 'steam' }, { layers: [layer, second] });
    expect(difference(rgb(at(two, 80)), ofScreen(scaleOf({ map: 'steam' }).colour(80.17)))).toBeLessThan(1);
    const by = { field: 'point:temperature', component: 0, scale: begin.scales[0].id };
    const edged = {
      ...layer,
      colour: { kind: 'plain' as const, colour: '#ffffff' },
      lineWidth: 6,
      edges: { shown: true, colour: '#000000', opacity: 1, by },
    };
    const png = await drawn({}, { layers: [edged] });
    // The plate has eight cells a side: an edge runs along the middle of it.
    const edge = pixel(png, 100 + 3 * 31, 150).slice(0, 3);
    expect(difference(rgb(edge), ofScreen(scaleOf().colour(31.17)))).toBeLessThan(3);
    const face = pixel(png, 100 + 3 * 31, 168).slice(0, 3);
    expect(difference(rgb(face), rgb([255, 255, 255]))).toBeLessThan(2);
  });

  it('of what has no value are told apart, or hidden', async () => {
    const nowhere = {
      range: { kind: 'fixed' as const, low: 60, high: 100 },
      spacing: { kind: 'log' as const },
    };
    const [layer] = begin.layers;
    const formula = { field: 'formula:temperature - 50', component: 0, scale: begin.scales[0].id };
    const layers = [{ ...layer, colour: { kind: 'field' as const, ...formula } }];
    const png = await drawn(
      { ...nowhere, range: { kind: 'fixed', low: 1, high: 50 }, missing: '#00aa66' },
      { layers },
    );
    expect(difference(rgb(at(png, 20)), ofScreen(hexToRgb('#00aa66')))).toBeLessThan(1);
    const hidden = await drawn(
      { ...nowhere, range: { kind: 'fixed', low: 1, high: 50 }, missing: 'hidden' },
      { layers },
    );
    expect(difference(rgb(at(hidden, 20)), rgb(backdrop(hidden)))).toBeLessThan(4);
  });
});

describe('a legend on the stage', () => {
  const sceneNow = async (): Promise<Scene> => {
    await page.getByText('saved', { exact: true }).waitFor();
    const id = page.url().split('/').pop()!;
    return (await site.send<{ document: Scene }>('GET', `/api/scenes/${id}`)).answer.document;
  };
  /** What is saved, once it is as asked. */
  const saved = (of: (scene: Scene) => unknown) =>
    expect.poll(async () => of(await sceneNow()), { timeout: 20_000 });

  it('takes a level where its bar is clicked, which is dragged and removed', async () => {
    const bar = (await page.getByTestId('legend-bar').boundingBox())!;
    await page.mouse.click(bar.x + bar.width / 2, bar.y + bar.height / 2);
    await page.getByRole('menuitem', { name: 'A level here' }).click();
    await saved((s) => s.scales[0].bands?.kind).toBe('list');
    const values = async (): Promise<number[]> =>
      ((await sceneNow()).scales[0].bands as { values: number[] }).values;
    const [first] = await values();
    expect(Math.abs(first - 50)).toBeLessThan(1.5);
    const level = page.getByRole('button', { name: /^Level 1 of 1/ });
    const grip = (await level.boundingBox())!;
    await page.mouse.move(grip.x + grip.width / 2, grip.y + grip.height / 2);
    await page.mouse.down();
    await page.mouse.move(grip.x + grip.width / 2, bar.y + bar.height / 4, { steps: 5 });
    await page.mouse.up();
    await expect.poll(async () => Math.abs((await values())[0] - 75)).toBeLessThan(2);
    await level.press('Delete');
    await saved((s) => s.scales[0].bands).toBeNull();
  });

  it('is moved by dragging, snaps, and its title is edited in place', async () => {
    const legend = page.getByRole('button', { name: /^Legend of/ });
    const box = (await legend.boundingBox())!;
    const begin = (await sceneNow()).scales[0].legend;
    await page.mouse.move(box.x + 12, box.y + 10);
    await page.mouse.down();
    await page.mouse.move(box.x - 150, box.y + 40, { steps: 6 });
    await page.mouse.up();
    await saved((s) => s.scales[0].legend.x < begin.x - 0.1).toBe(true);
    const moved = (await legend.boundingBox())!;
    await page.mouse.dblclick(moved.x + 20, moved.y + 12);
    const title = page.getByLabel('Title of the legend');
    await title.fill('How warm');
    await title.press('Enter');
    await saved((s) => s.scales[0].legend.title).toBe('How warm');
  });

  it('takes a level where the model is clicked', async () => {
    await settled(page);
    const picture = (await page.getByTestId('picture').boundingBox())!;
    await page.mouse.click(picture.x + picture.width * 0.4, picture.y + picture.height / 2);
    await page.getByRole('menuitem', { name: 'A level here' }).click();
    await saved((s) => s.scales[0].bands?.kind).toBe('list');
    const { bands } = (await sceneNow()).scales[0];
    const [value] = (bands as { values: number[] }).values;
    expect(value > 5 && value < 60).toBe(true);
  });

  it('and what is pointed at show the unit that is chosen', async () => {
    await page.getByRole('button', { name: 'The colour scale' }).click();
    await page.getByRole('tab', { name: 'Numbers' }).click();
    await page.getByLabel('Unit of the numbers').selectOption('K');
    await page.getByRole('tab', { name: 'Range' }).click();
    const ends = page.getByRole('region', { name: 'Range' }).locator('input.field');
    expect(Number(await ends.nth(1).inputValue())).toBeCloseTo(373.15, 1);
    await page.keyboard.press('Escape');
    await saved((s) => s.scales[0].unit).toBe('K');
    const picture = (await page.getByTestId('picture').boundingBox())!;
    await page.mouse.move(picture.x + picture.width * 0.4, picture.y + picture.height * 0.45, { steps: 4 });
    const note = page.getByRole('status').filter({ hasText: 'temperature' });
    await note.waitFor();
    expect(Number(/([\d.]+) K/.exec((await note.textContent())!)![1])).toBeGreaterThan(273);
  });

  it('all are hidden by one switch', async () => {
    await page.getByRole('button', { name: 'The legends' }).click();
    await page.getByLabel('All legends').uncheck();
    await page.keyboard.press('Escape');
    await expect.poll(() => page.getByRole('button', { name: /^Legend of/ }).count()).toBe(0);
    await saved((s) => s.legends.shown).toBe(false);
  });
});
