import { readFileSync, writeFileSync } from 'node:fs';
import { unzipSync } from 'fflate';
import type { Page } from 'playwright-core';
import { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { sayNumber } from '#core/language/sentence.ts';
import { fitResponse } from '#core/response/fit-response.ts';
import { polynomial } from '#core/response/polynomial.ts';
import { wordsOfPdf } from '../pdf-words.ts';
import { OvenFamily } from './oven-family.ts';
import { downloaded, Site, settled } from './site.ts';

const family = new OvenFamily();
/** Those that are on the desk. */
const cases = family.cases.slice(0, 6);
const site = new Site();

beforeAll(() => site.start([family.folder]));
afterAll(async () => {
  await site.stop();
  family.gone();
});

describe('a set of runs on the desk', () => {
  let page: Page;
  const words = (label: string) => page.getByRole('button', { name: label, exact: true });
  /** What was opened beside a word is closed, and the focus back on it. */
  const closed = async (): Promise<void> => {
    await page.keyboard.press('Escape');
    await page.getByRole('dialog').waitFor({ state: 'detached' });
    await page.waitForFunction(() => document.activeElement?.getAttribute('aria-haspopup') === 'dialog');
  };

  it('is made of a table that names them, with inputs and outputs told apart', async () => {
    page = await site.page();
    await page.setViewportSize({ width: 1280, height: 800 });
    const small = family.at('small.csv');
    const rows = cases.map(({ fan, vent, file }) => `runs/${file},${fan},${vent},${Math.sqrt(fan + vent)}`);
    writeFileSync(small, `file,fan,vent,noise [dB]\n${rows.join('\n')}\nruns/gone.vtu,1,2,3\n`);
    const { answer } = await site.send<{ id: string }>('POST', '/api/intake');
    await site.send('DELETE', `/api/intake/${answer.id}`);
    const names = cases.map(({ file }) => file);
    await page
      .getByTestId('file-input')
      .setInputFiles([small, ...names.map((file) => family.at('runs', file))]);
    await page.getByText('row 7 names a file that is not there: runs/gone.vtu').waitFor();
    await page.getByRole('button', { name: /^Import all 6/ }).click();
    await page.waitForURL(/\/sheets\/./);
    expect(await page.getByLabel('Name of the set').inputValue()).toBe('oven');
    await expect
      .poll(() => page.getByRole('columnheader').allTextContents())
      .toEqual(['Mark', 'Scene', 'Run', 'faninput', 'ventinput', 'noisedBoutput', 'Hide']);
    expect(
      await page
        .getByRole('row', { name: /oven_600_15/ })
        .getByRole('cell')
        .allTextContents(),
    ).toEqual(expect.arrayContaining(['600', '15']));
  });

  it('is sorted, filtered, hidden, marked and grouped, and remembers it', async () => {
    const order = () => page.getByRole('rowheader').allTextContents();
    await words('Column noise').click();
    await page.getByRole('button', { name: 'downwards' }).click();
    await closed();
    await expect
      .poll(order)
      .toEqual(['oven_900_15', 'oven_900_0', 'oven_600_45', 'oven_600_30', 'oven_600_15', 'oven_600_0']);
    await words('Column vent').click();
    await page.getByLabel('Only to').fill('30');
    await page.keyboard.press('Enter');
    await closed();
    await page.getByRole('row', { name: /oven_900_15/ }).hover();
    await page.getByRole('button', { name: 'Hide oven_900_15' }).click();
    await page.getByRole('button', { name: 'Mark oven_600_0' }).click();
    await expect.poll(order).toEqual(['oven_900_0', 'oven_600_30', 'oven_600_15', 'oven_600_0']);
    await page.getByText('saved', { exact: true }).waitFor();
    await page.reload();
    await expect.poll(order).toEqual(['oven_900_0', 'oven_600_30', 'oven_600_15', 'oven_600_0']);
    expect(await page.getByRole('button', { name: 'Mark oven_600_0' }).getAttribute('aria-pressed')).toBe(
      'true',
    );
    await page.getByRole('button', { name: 'bring back' }).click();
    await page.getByRole('button', { name: 'show all' }).click();
    await words('Column fan').click();
    await page.getByRole('button', { name: 'in groups' }).click();
    await closed();
    await page.getByRole('rowheader', { name: 'fan 600, 4 runs' }).waitFor();
    await page.keyboard.press('Control+z');
    await expect.poll(() => page.getByRole('rowheader', { name: /4 runs/ }).count()).toBe(0);
  });

  it('takes a value that is typed, and lets the files speak again', async () => {
    const cell = page.getByRole('button', { name: /^fan of oven_600_0:/ });
    await cell.dblclick();
    await page.getByLabel('fan of oven_600_0', { exact: true }).fill('650');
    await page.keyboard.press('Enter');
    await expect.poll(() => cell.textContent()).toBe('650');
    await cell.dblclick();
    await page.getByLabel('fan of oven_600_0', { exact: true }).fill('');
    await page.keyboard.press('Enter');
    await expect.poll(() => cell.textContent()).toBe('600');
  });

  it('lets one of its runs be dressed, and its shot be kept', async () => {
    const set = page.url();
    await page.getByRole('link', { name: 'Open the scene of oven_600_0' }).click();
    await settled(page);
    await page.getByRole('button', { name: 'Add a line' }).click();
    await page.getByRole('button', { name: 'Section', exact: false }).first().click();
    await page.getByRole('button', { name: 'Hide this line' }).first().click();
    await words('Look from +x').click();
    await settled(page);
    await words('Keep shot').click();
    await page.getByRole('button', { name: 'Open Shot 1' }).click({ button: 'right' });
    await page.getByRole('menuitem', { name: 'Rename' }).click();
    await page.getByLabel('Name of the shot').fill('Front');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Open Front' }).waitFor();
    await page.getByText('saved', { exact: true }).waitFor();
    await page.goto(set);
  });

  it('has pictures made of all its runs in the background, and gives them in a zip', async () => {
    await words('Which shots').click();
    await page.getByRole('list', { name: 'Shots to choose' }).getByRole('button', { name: /Front/ }).click();
    await closed();
    await words('In which sizes').click();
    await page.getByLabel('Width in pixels').fill('80');
    await page.keyboard.press('Enter');
    await page.getByLabel('Height in pixels').fill('60');
    await page.keyboard.press('Enter');
    await closed();
    await words('How long each is worked on').click();
    await page.getByRole('button', { name: 'Draft' }).click();
    await closed();
    await page.getByLabel('Names of the files').fill('{fan}-{vent}-{sh');
    await page.getByRole('option', { name: /^shot/ }).waitFor();
    await page.keyboard.press('Tab');
    await expect.poll(() => page.getByLabel('Names of the files').inputValue()).toBe('{fan}-{vent}-{shot}');
    await expect
      .poll(() =>
        page.getByRole('list', { name: 'Names of the first files' }).getByRole('listitem').allTextContents(),
      )
      .toEqual([
        '900-15-Front.png',
        '900-0-Front.png',
        '600-45-Front.png',
        '600-30-Front.png',
        '600-15-Front.png',
        '…',
      ]);
    await page.getByRole('button', { name: 'Make 6 pictures' }).click();
    await page.getByText('6 pictures: 6 made').waitFor({ timeout: 300_000 });
    const coming = page.waitForEvent('download');
    await page.getByRole('link', { name: 'Save zip' }).click();
    const files = unzipSync(new Uint8Array(readFileSync((await (await coming).path())!)));
    expect(Object.keys(files).sort()).toEqual([
      '600-0-Front.png',
      '600-15-Front.png',
      '600-30-Front.png',
      '600-45-Front.png',
      '900-0-Front.png',
      '900-15-Front.png',
    ]);
    const { width, height } = PNG.sync.read(Buffer.from(files['600-0-Front.png']));
    expect([width, height]).toEqual([80, 60]);
  });

  it('is reported of in one document, with every run and every picture', async () => {
    const { name, bytes } = await downloaded(page, 'Report as PDF');
    expect(name).toBe('oven-report.pdf');
    const text = wordsOfPdf(bytes);
    for (const { fan, vent, file } of cases) {
      expect(text).toContain(`Front: ${file.replace('.vtu', '')}`);
      expect(text).toContain(
        `fan ${fan}; vent ${vent}; noise ${sayNumber(Math.sqrt(fan + vent))} dB; step 1`,
      );
    }
    expect(text).toContain('6 pictures of 6 runs by 1 shot');
    await page.getByRole('button', { name: 'Make 6 pictures' }).click();
    await page.getByText('6 pictures: 6 as they were').waitFor({ timeout: 300_000 });
  });

  it('is paged through as a strip, with the scale of all runs stated, and marked on the way', async () => {
    const view = (name: string) => page.getByRole('button', { name, exact: true }).click();
    await view('strip');
    const lows = cases.map((one) => family.coldest(one));
    const ends = `temperature from ${sayNumber(Math.min(...lows))} to ${sayNumber(Math.max(...lows) + 6)}`;
    await page.getByText(ends).waitFor({ timeout: 300_000 });
    const strip = page.getByRole('list', { name: 'All runs' });
    await expect.poll(() => strip.locator('img').count(), { timeout: 300_000 }).toBe(6);
    const caption = page.getByRole('region', { name: 'Strip' }).locator('figcaption');
    expect(await caption.textContent()).toContain('oven_900_15fan 900, vent 151 of 6');
    await strip.getByRole('button', { pressed: true }).focus();
    await page.keyboard.press('ArrowRight');
    await expect.poll(() => caption.textContent()).toContain('oven_900_0fan 900, vent 02 of 6');
    await page.keyboard.press('m');
    await page.keyboard.press('End');
    await expect.poll(() => caption.textContent()).toContain('oven_600_0');
    await words('Give the sheet out').click();
    const pdf = wordsOfPdf((await downloaded(page, 'PDF')).bytes);
    expect(pdf).toContain('oven_900_15: fan 900, vent 15');
    expect(pdf).toContain(ends);
    const slides = unzipSync(new Uint8Array((await downloaded(page, 'Slides')).bytes));
    const pictures = Object.keys(slides).filter((part) => /^ppt\/media\/.+\.png$/.test(part));
    expect(pictures).toHaveLength(6);
    await closed();
    await view('table');
    await expect
      .poll(() => page.getByRole('button', { name: 'Mark oven_900_0' }).getAttribute('aria-pressed'))
      .toBe('true');
  });

  it('is laid out by two inputs, each run in its place, and given out as one picture', async () => {
    await page.getByRole('button', { name: 'matrix', exact: true }).click();
    const matrix = page.getByRole('table');
    await expect.poll(() => matrix.getByRole('img').count(), { timeout: 300_000 }).toBe(6);
    expect(await matrix.getByRole('columnheader').allTextContents()).toEqual([
      'vent 0',
      'vent 15',
      'vent 30',
      'vent 45',
    ]);
    for (const [fan, vents] of [
      ['600', [0, 15, 30, 45]],
      ['900', [0, 15]],
    ] as const) {
      const row = matrix.getByRole('row', { name: new RegExp(`^${fan}`) });
      const links = await row
        .getByRole('cell')
        .evaluateAll((cells) =>
          cells.map((cell) => cell.querySelector('a')?.getAttribute('aria-label') ?? null),
        );
      expect(links).toEqual(
        [0, 15, 30, 45].map((vent) =>
          (vents as readonly number[]).includes(vent) ? `Open oven_${fan}_${vent}` : null,
        ),
      );
    }
    await words('Give the sheet out').click();
    const coming = page.waitForEvent('download');
    await page.getByRole('button', { name: 'As one picture' }).click();
    const sheet = PNG.sync.read(readFileSync((await (await coming).path())!));
    // Four pictures of 480 beside each other, and two of them below each other.
    expect(sheet.width).toBeGreaterThan(4 * 480);
    expect(sheet.height).toBeGreaterThan(2 * 360);
    await closed();
  });

  it('has its outputs fitted over its inputs, with how well that tells', async () => {
    await page.getByRole('button', { name: 'response', exact: true }).click();
    await page.getByRole('img', { name: 'noise over vent' }).waitFor();
    await words('How it is fitted').click();
    await page.getByRole('button', { name: 'polynomial', exact: true }).click();
    await page
      .getByText(/^No fit: |^R² /)
      .first()
      .waitFor();
    await page.getByLabel('degree').fill('1');
    await page.keyboard.press('Enter');
    await closed();
    const own = cases.map(({ fan, vent }) => ({ place: [vent, fan], noise: Math.sqrt(fan + vent) }));
    const { quality } = fitResponse(
      polynomial,
      { degree: 1 },
      { inputs: own.map((o) => o.place), outputs: own.map((o) => o.noise) },
    );
    const said = await page.getByText(/^R² .*; leaving out each run in turn /).textContent();
    expect(said).toContain(`R² ${quality.explained!.toFixed(4)};`);
    expect(said).toContain(`in turn ${quality.predicted!.toFixed(4)};`);
    expect(said).toContain('dB');
  });

  it('keeps shots of how its runs are looked at, which are presented and opened as they were', async () => {
    const keep = page.getByRole('button', { name: 'Keep shot', exact: true });
    const view = (name: string) => page.getByRole('button', { name, exact: true }).click();
    const rename = async (from: string, to: string): Promise<void> => {
      await page.getByRole('button', { name: `Open ${from}` }).click({ button: 'right' });
      await page.getByRole('menuitem', { name: 'Rename' }).click();
      await page.getByLabel('Name of the shot').fill(to);
      await page.keyboard.press('Enter');
      await page.getByRole('button', { name: `Open ${to}` }).waitFor();
    };
    await keep.click();
    await rename('Shot 1', 'Fit');
    await view('table');
    const order = () => page.getByRole('rowheader').allTextContents();
    const sorted = await order();
    await keep.click();
    await rename('Shot 2', 'Loudest first');
    await view('strip');
    await page.getByRole('list', { name: 'All runs' }).waitFor();
    await keep.click();
    await rename('Shot 3', 'All');
    const small = page.getByRole('list', { name: 'Shots' }).locator('img');
    expect(await small.count()).toBe(3);
    // Each shows what it keeps: no two alike, none plain paper.
    const pictures = await small.evaluateAll((all) => all.map((img) => (img as HTMLImageElement).src));
    expect(new Set(pictures).size).toBe(3);
    for (const picture of pictures) expect(picture.length).toBeGreaterThan(1500);
    const board = page.getByRole('dialog', { name: 'Shots' });
    await page.getByRole('button', { name: 'All shots' }).click();
    await board.getByRole('textbox', { name: 'Notes on Fit' }).fill('Only noise is told by a line.');
    await board.getByRole('textbox', { name: 'Tags of Fit' }).fill('noise');
    await board.getByLabel('Heading of All').fill('To show first');
    await page.keyboard.press('Enter');
    await expect
      .poll(() =>
        board
          .getByRole('heading', { level: 2 })
          .filter({ hasNotText: /^Shots$/ })
          .allTextContents(),
      )
      .toEqual(['To show first', 'Tables', 'Responses']);
    await page.keyboard.press('Escape');
    await board.waitFor({ state: 'detached' });
    // What was kept stays as it was whatever is changed after it.
    await view('table');
    await words('Column noise').click();
    await page.getByRole('button', { name: 'upwards' }).click();
    await closed();
    await expect.poll(order).toEqual(sorted.toReversed());
    await page.getByText('saved', { exact: true }).waitFor();
    await page.reload();
    await page.getByRole('button', { name: 'All shots' }).click();
    await board.getByRole('button', { name: 'Present', exact: true }).click();
    const shown = (name: string) => page.locator(`[data-testid=presented][data-shot="${name}"]`).waitFor();
    // As they stand on the board: those under a heading of one's own first.
    await shown('All');
    await page.getByRole('list', { name: 'All runs' }).waitFor();
    await page.keyboard.press('ArrowRight');
    await shown('Loudest first');
    await expect.poll(order).toEqual(sorted);
    await page.keyboard.press('End');
    await shown('Fit');
    await page.getByRole('img', { name: 'noise over vent' }).waitFor();
    await page.keyboard.press('n');
    await page.getByText('Only noise is told by a line.').waitFor();
    await page.keyboard.press('Escape');
    // The desk stayed as it was; a press opens one there.
    await page.getByRole('dialog').waitFor({ state: 'detached' });
    await expect.poll(order).toEqual(sorted.toReversed());
    await page.getByRole('button', { name: 'Open Loudest first' }).click();
    await expect.poll(order).toEqual(sorted);
    await page.getByRole('button', { name: 'Open Fit' }).click();
    await page.getByRole('img', { name: 'noise over vent' }).waitFor();
    await page.keyboard.press('Control+z');
    await view('table');
    await expect.poll(order).toEqual(sorted);
  });

  it('shows how far every two columns go together, and marks what a box is drawn over', async () => {
    await words('clear the marks').click();
    await page.getByRole('button', { name: 'relations', exact: true }).click();
    const plot = page.getByRole('img', { name: 'vent over fan' });
    await plot.scrollIntoViewIfNeeded();
    const { x, y, width, height } = (await plot.boundingBox())!;
    // The right half: the faster fans.
    await page.mouse.move(x + 0.6 * width, y + 1);
    await page.mouse.down();
    await page.mouse.move(x + width - 1, y + height - 1, { steps: 4 });
    await page.mouse.up();
    await page.getByText('2 marked:').waitFor();
    await page.getByRole('button', { name: 'table', exact: true }).click();
    for (const name of ['oven_900_0', 'oven_900_15'])
      expect(await page.getByRole('button', { name: `Mark ${name}` }).getAttribute('aria-pressed')).toBe(
        'true',
      );
  });
});
