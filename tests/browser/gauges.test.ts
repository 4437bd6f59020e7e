import type { Page } from 'playwright-core';
import { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { annotationKind } from '#core/scene/annotations/registry.ts';
import type { Scene } from '#core/scene/document.ts';
import { RenderPage } from './render-page.ts';
import { ovenFiles } from './sample-files.ts';
import { differing, downloaded, importFiles, pixel, Site, settled } from './site.ts';

const site = new Site();
let page: Page;
let id = '';
let run = '';
// A cube of 0.5 m; its temperature is 30 + 35 n + 60 x + 40 y z, its velocity (1 + 4 z, 0, n), with steps 2 s apart.
beforeAll(async () => {
  await site.start();
  page = await site.page();
  await importFiles(page, ovenFiles(4));
  id = page.url().split('/').pop()!;
  run = (await site.send<{ run: string }>('GET', `/api/scenes/${id}`)).answer.run;
});
afterAll(() => site.stop());

const sceneNow = async (): Promise<Scene> =>
  (await site.send<{ document: Scene }>('GET', `/api/scenes/${id}`)).answer.document;
const readings = () => page.getByTestId('reading');
const readingOf = (i: number) => expect.poll(() => readings().nth(i).textContent(), { timeout: 30_000 });
const charts = () => page.getByRole('region', { name: 'Charts' });
const goTo = (step: number) => page.getByRole('slider', { name: 'Step' }).fill(String(step));

async function ask(sentence: string): Promise<void> {
  await page.getByRole('button', { name: 'Ask for a number' }).click();
  await page.getByLabel('What is asked for').fill(sentence);
  await page.keyboard.press('Enter');
}

describe('gauges', () => {
  it('are asked on a desk of their own, which says what it is for', async () => {
    await page.getByRole('link', { name: 'Gauges' }).click();
    await page.getByText(/No numbers yet/).waitFor();
    await page.getByText(/No curve is drawn/).waitFor();
    await goTo(0);
    await ask('average of temperature over everything');
    await readingOf(0).toBe('47.5 °C');
    await page.getByText(/125 cells/).waitFor();
  });

  it('follow the step on show', async () => {
    await goTo(2);
    await readingOf(0).toBe('117.5 °C');
    await page.getByText(/at t = 4/).waitFor();
  });

  it('tell what is not understood, and offer what could stand there', async () => {
    await page.getByRole('button', { name: 'Ask for a number' }).click();
    const field = page.getByLabel('What is asked for');
    await field.fill('average of tempratur over everything');
    await expect.poll(() => field.getAttribute('aria-invalid')).toBe('true');
    await field.fill('average of te');
    await page.getByRole('option', { name: 'temperature' }).first().waitFor();
    await page.keyboard.press('Tab');
    expect(await field.inputValue()).toContain('average of temperature');
    await page.keyboard.press('Escape');
  });

  it('show the direction that counts as positive, and what they are measured on', async () => {
    await ask('flow of velocity through section of everything at x = 0.2');
    // The mean of 1 + 4 z is 2 m/s, on a quarter of a square metre.
    await readingOf(1).toBe('0.5 m³/s');
    await page.getByText(/Positive along \+x, as the arrow on the stage shows/).waitFor();
    await settled(page);
    await page.getByRole('button', { name: 'Write on the picture' }).click();
    await expect.poll(async () => (await sceneNow()).annotations.map((a) => a.kind)).toEqual(['reading']);
    await page.locator('[data-words=reading]').waitFor();
  });

  it('are undone as everything is', async () => {
    await page.getByRole('button', { name: 'Undo' }).click();
    await page.locator('[data-words=reading]').waitFor({ state: 'detached' });
    await page.getByRole('button', { name: 'Redo' }).click();
    await page.locator('[data-words=reading]').waitFor();
  });
});

describe('places that are pointed at', () => {
  const picture = () => page.getByTestId('picture').locator('canvas').first();
  const at = async (x: number, y: number) => {
    const box = (await picture().boundingBox())!;
    return { x: box.x + x * box.width, y: box.y + y * box.height };
  };

  it('give the value at the node there, and the distance to another', async () => {
    const before = (await sceneNow()).gauges.length;
    await settled(page);
    const first = await at(0.5, 0.5);
    await page.mouse.click(first.x, first.y);
    await page.getByText('Gauge its value').click();
    await expect.poll(async () => (await sceneNow()).gauges.length, { timeout: 20_000 }).toBe(before + 1);
    expect((await sceneNow()).gauges.at(-1)).toMatchObject({
      measure: 'value at',
      options: { picked: { kind: 'node', part: 'oven' } },
    });
    await settled(page);
    await page.mouse.click(first.x, first.y);
    await page.getByText('Distance from here').click();
    await page.getByText('Click where the distance ends.').waitFor();
    const second = await at(0.55, 0.4);
    await page.mouse.click(second.x, second.y);
    await expect.poll(async () => (await sceneNow()).gauges.length, { timeout: 20_000 }).toBe(before + 2);
    const { measure, options } = (await sceneNow()).gauges.at(-1)!;
    expect(measure).toBe('distance');
    expect(options).toMatchObject({ from: { kind: 'node' }, to: { kind: 'node' } });
    // It is drawn between them: nodes of a grid of a tenth of a metre lie apart by no less.
    await expect
      .poll(async () => Number.parseFloat((await readings().last().textContent()) ?? ''), { timeout: 30_000 })
      .toBeGreaterThanOrEqual(0.1);
    for (let i = 0; i < 2; i++) await page.getByRole('button', { name: 'Undo' }).click();
    await expect.poll(async () => (await sceneNow()).gauges.length).toBe(before);
  });
});

describe('curves', () => {
  it('are drawn when they are chosen from the list, and mark the step on show', async () => {
    await page.getByRole('searchbox', { name: 'Search curves' }).fill('max temp everything');
    await page
      .getByRole('button', { name: /maximum of temperature over everything/ })
      .first()
      .click();
    await charts()
      .getByRole('img', { name: /^Chart of/ })
      .waitFor();
    await expect
      .poll(async () => (await sceneNow()).charts.map((c) => c.curves.length), { timeout: 20_000 })
      .toEqual([1]);
    await readingOf(2).toBe('140 °C');
  });

  it('lead to the step that is pressed in them', async () => {
    const box = (await charts().getByRole('img').boundingBox())!;
    // The curve runs from 0 to 6 s between axes that take some room at the left.
    await page.mouse.click(box.x + box.width - 25, box.y + box.height / 2);
    await expect.poll(() => page.getByRole('slider', { name: 'Step' }).inputValue()).toBe('3');
    await readingOf(2).toBe('175 °C');
  });

  it('are worked on, and tell what was found', async () => {
    await charts()
      .getByRole('button', { name: /Change the curve/ })
      .click();
    await page.getByText('Do something with it').click();
    await page.getByRole('button', { name: /^Fit/ }).click();
    await page.getByText(/Slope 17\.5 ± /).waitFor();
    await page.keyboard.press('Escape');
  });

  it('are saved as pictures and as tables', async () => {
    for (const [choice, beginning] of [
      ['SVG, sharp at any size', '<svg'],
      ['PNG, for slides', '\u0089PNG'],
      ['CSV, its numbers in full', 'time [s],fit of maximum of temperature over oven'],
    ] as const) {
      await charts().getByRole('button', { name: 'Save this chart' }).click();
      const { bytes } = await downloaded(page, choice);
      expect(bytes.toString('latin1').slice(0, beginning.length)).toBe(beginning);
      await page.keyboard.press('Escape');
    }
  });

  it('share the stretch of the steps with the strip, which plays it', async () => {
    const box = (await charts().getByRole('img').boundingBox())!;
    await page.mouse.move(box.x + box.width * 0.75, box.y + box.height / 2);
    await page.mouse.wheel(0, -100);
    await expect.poll(async () => (await sceneNow()).stretch).toEqual({ from: 2, to: null });
    const first = page.getByRole('slider', { name: 'Where the stretch begins' });
    await expect.poll(() => first.getAttribute('aria-valuenow')).toBe('1');
    await page.getByRole('button', { name: 'First step' }).click();
    await expect.poll(() => page.getByRole('slider', { name: 'Step' }).inputValue()).toBe('1');
    await first.focus();
    await page.keyboard.press('ArrowRight');
    await expect.poll(async () => (await sceneNow()).stretch).toEqual({ from: 3, to: null });
    await page.mouse.dblclick(box.x + box.width * 0.5, box.y + box.height / 2);
    await expect.poll(async () => (await sceneNow()).stretch).toEqual({ from: 1, to: null });
    await goTo(3);
  });

  it('along a line are drawn at every step as a picture, and go to another chart where they are dropped', async () => {
    await ask(
      'profile of temperature along probe line in everything through (0.05, 0.2, 0.2), (0.45, 0.2, 0.2)',
    );
    await page.getByRole('searchbox', { name: 'Search curves' }).fill('');
    await page.getByRole('button', { name: /^profile.*at every step$/ }).click();
    const chips = charts().getByRole('button', { name: /Change the curve temperature/ });
    await chips.waitFor();
    // Both charts in sight.
    const before = page.viewportSize()!;
    await page.setViewportSize({ width: 1280, height: 800 });
    await page.getByRole('button', { name: 'Chart', exact: true }).click();
    await page.getByText('Empty as yet: drag a curve from the list here.').waitFor();
    await chips.dragTo(page.getByRole('article').nth(1));
    await expect.poll(async () => (await sceneNow()).charts.map((c) => c.curves.length)).toEqual([1, 1]);
    expect((await sceneNow()).charts[1].curves[0].of).toMatchObject({ everyStep: true });
    const picture = page.getByRole('article').nth(1).getByRole('img');
    const box = (await picture.boundingBox())!;
    await page.mouse.move(box.x + box.width * 0.5, box.y + box.height / 2);
    // Its temperature is 30 + 35 n + 60 x + 8: in the middle of time and line 105.5 °C.
    await page.getByText(/^time .* s, way along it .*: temperature .* °C$/).waitFor();
    // The colours of the legend: from the cold end at the first step to the hot one at the last.
    const png = PNG.sync.read(await picture.screenshot());
    const at = (x: number, y: number) => pixel(png, x * png.width, y * png.height).slice(0, 3);
    const [cold, hot] = [at(0.3, 0.5), at(0.6, 0.5)];
    expect(Math.max(...cold.map((v, k) => Math.abs(v - hot[k])))).toBeGreaterThan(40);
    await page.setViewportSize(before);
    await page.getByRole('button', { name: /^Delete the chart temperature/ }).click();
  });

  it('stand on the picture up to the step on show, in what is given out too', async () => {
    await charts()
      .getByRole('button', { name: /on the picture/ })
      .click();
    await page.locator('[data-words=chart]').waitFor();
    await expect.poll(async () => (await sceneNow()).annotations.map((a) => a.kind)).toContain('chart');
    const scene = await sceneNow();
    const drawing = await RenderPage.open(await page.context().browser()!.newPage(), site.address);
    const draw = (of: Scene, step: number) =>
      drawing.draw({ run, scene: of, step, width: 480, height: 300, passes: 1 });
    const without = { ...scene, annotations: scene.annotations.filter((a) => a.kind !== 'chart') };
    const [first, last, none] = [await draw(scene, 1), await draw(scene, 3), await draw(without, 3)];
    expect(differing(last, none)).toBeGreaterThan(0.03);
    expect(differing(first, last)).toBeGreaterThan(0.003);
    await drawing.page.close();
    expect(annotationKind('chart').pictures).toBeUndefined();
  });

  it('of a line are drawn from the line', async () => {
    await page.getByRole('link', { name: 'Stage' }).click();
    await page.getByRole('button', { name: 'Fine settings' }).first().click();
    await page.getByRole('button', { name: 'Numbers over the steps' }).click();
    await expect.poll(async () => (await sceneNow()).charts.length, { timeout: 20_000 }).toBe(2);
    await page.getByRole('article', { name: /line 1/ }).waitFor();
  });
});
