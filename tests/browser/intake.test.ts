import { copyFileSync, mkdirSync, mkdtempSync, readFileSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { gunzipSync } from 'node:zlib';
import type { Page } from 'playwright-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { writeVtu } from '#core/formats/vtk-xml/vtk-xml-write.ts';
import type { RunDescription } from '#core/model/run.ts';
import { temperature } from '../sample-run.ts';
import { hexBlock } from '../vtu-builder.ts';
import { pictureOnScreen, pixel, Site, settled, upload } from './site.ts';

const growing = mkdtempSync(join(tmpdir(), 'dresser-growing-'));
const site = new Site();
beforeAll(() => site.start([growing, resolve('tests/fixtures/formats')]));
afterAll(async () => {
  await site.stop();
  rmSync(growing, { recursive: true, force: true });
});

const facts = JSON.parse(readFileSync('tests/fixtures/expected.json', 'utf8'));
const sample = (name: string): Buffer => {
  const bytes = readFileSync(`tests/fixtures/samples/${name}`);
  return name.endsWith('.gz') ? gunzipSync(bytes) : bytes;
};

/** Drops files and waits for what they were understood to be. */
async function drop(page: Page, ...files: ReturnType<typeof upload>[]): Promise<void> {
  await page.goto(site.address);
  await page.getByTestId('file-input').setInputFiles(files);
  await page.getByRole('article').first().waitFor();
}

async function importOnly(page: Page): Promise<RunDescription> {
  await page.getByRole('button', { name: 'Import', exact: true }).click();
  await page.waitForURL(/\/(scene|run)\//);
  return runBehind(page);
}

/** The description of the run a page shows. */
async function runBehind(page: Page): Promise<RunDescription> {
  const [, kind, id] = new URL(page.url()).pathname.split('/');
  const run = kind === 'scene' ? (await site.get<{ run: string }>(`/api/scenes/${id}`)).run : id;
  return (await site.get<{ description: RunDescription }>(`/api/runs/${run}`)).description;
}

describe('partitions', () => {
  it('dropped as an archive are joined to one part, whose numbers are those of the facts', async () => {
    const page = await site.page();
    await drop(page, upload('duct-parts.zip', sample('duct-parts.zip')));
    await page.getByText('4 partitions joined').waitFor();
    await page.getByText('223 doubled points').waitFor();
    await page.getByLabel('Lengths in').fill('m');
    const run = await importOnly(page);
    const { joined, times } = facts['duct-parts'];
    expect(run.steps.map((s) => s.time)).toEqual(times);
    expect(run.lengthUnit).toBe('m');
    expect(run.parts.map((p) => [p.meshes.length, p.meshes[0].pointCount, p.meshes[0].cellsByType])).toEqual([
      [1, joined.points, joined.cells],
    ]);
    const T = run.fields.find((f) => f.name === 'T')!;
    expect(T.perStep[5]!.components[0].max).toBeCloseTo(joined.fields.T.last.max, 4);
    await page.close();
  });
});

describe('the column chooser', () => {
  it('guesses, shows the first rows, and reads the columns as they are chosen', async () => {
    const page = await site.page();
    await drop(page, upload('landings_tin.csv', sample('landings_tin.csv.gz')));
    expect(await page.getByLabel('Meaning of x', { exact: true }).inputValue()).toBe('x');
    expect(await page.getByLabel('Meaning of u', { exact: true }).inputValue()).toBe('velocity x');
    await page.getByText('0.27835').waitFor();
    // The droplets laid out by another triple of columns.
    await page.getByLabel('Meaning of temperature').selectOption('z');
    await page.getByText(/0\.12 … 0\.28 · 368/).waitFor();
    await page.getByLabel('Meaning of z', { exact: true }).selectOption('z');
    await page.getByText(/0\.0503 … 0\.14/).waitFor();
    await page.getByLabel('Keep mass').uncheck();
    const run = await importOnly(page);
    expect(run.parts[0]).toMatchObject({ kind: 'particles' });
    expect(run.parts[0].meshes[0].pointCount).toBe(facts.nozzle.tin_csv.rows);
    expect(run.fields.map((f) => f.name)).not.toContain('mass');
    expect(run.source!.leftOut.map((f) => f.name)).toEqual(['mass']);
    // Left out now, added later from the kept copy.
    await page.goto(`${site.address}/run/${(await runsHere(page)).run}`);
    await page.getByLabel('mass on points').check();
    await page.getByRole('button', { name: 'Add them' }).click();
    await page.getByRole('cell', { name: 'mass', exact: true }).first().waitFor();
    const grown = await runBehind(page);
    expect(grown.fields.find((f) => f.name === 'mass')!.overall.components[0].count).toBe(2717);
    await page.close();
  });

  it('reads a history, with a chart on the page of the run', async () => {
    const page = await site.page();
    await drop(page, upload('door_forces.csv', sample('door_forces.csv.gz')));
    expect(await page.getByLabel('The table is read as').inputValue()).toBe('history');
    const run = await importOnly(page);
    expect(run.tables[0]).toMatchObject({ rows: 2000, time: 0 });
    await page.getByRole('img', { name: 'Chart of door_forces' }).locator('canvas').waitFor();
    await page.getByRole('button', { name: 'seal_force_y [N]' }).click();
    expect(await page.getByRole('button', { name: 'seal_force_y [N]' }).getAttribute('aria-pressed')).toBe(
      'true',
    );
    await page.close();
  });
});

/** Run and scene of the page that is open. */
async function runsHere(page: Page): Promise<{ run: string }> {
  const id = page.url().split('/').pop();
  return site.get<{ run: string }>(`/api/scenes/${id}`);
}

const block = hexBlock(3);
const oven = (n: number, name = `oven_${n}.vtu`) =>
  upload(name, Buffer.from(writeVtu(block, [temperature(block, (x, y, z) => 20 + 10 * n + x + y + z)])));

describe('how files are put together', () => {
  it('is proposed and corrected: times typed, steps to parts, parts to runs of their own', async () => {
    const page = await site.page();
    await drop(page, oven(1), oven(2), oven(4));
    await page.getByText('A run of 3 frames').waitFor();
    await page.getByLabel('Times come').selectOption('typed');
    await page.getByLabel('Time of the first step').fill('10');
    await page.getByLabel('Time of the first step').press('Enter');
    await page.getByText('t = 10 to 12').waitFor();
    await page.getByLabel('Time between steps').fill('0.5');
    await page.getByLabel('Time between steps').press('Enter');
    await page.getByText('t = 10 to 11').waitFor();
    await page.getByLabel('The files are').selectOption('parts');
    await page.getByLabel('Keep oven_2').waitFor();
    await page.getByLabel('Keep oven_2').uncheck();
    const run = await importOnly(page);
    expect(run.parts.map((p) => p.name)).toEqual(['oven_1', 'oven_4']);
    await page.close();
  });

  it('takes every second step and says what it will take', async () => {
    const page = await site.page();
    await drop(page, oven(1), oven(2), oven(3), oven(4), oven(5));
    const whole = await page.getByTestId('size').textContent();
    await page.getByLabel('Keep every n-th step').fill('2');
    expect(await page.getByTestId('size').textContent()).not.toBe(whole);
    const run = await importOnly(page);
    expect(run.fields[0].perStep.map((s) => s!.components[0].min)).toEqual([30, 50, 70]);
    await page.close();
  });
});

describe('reading again', () => {
  it('notices new steps, reads them, and swaps the files of a run with what does not match listed', async () => {
    const page = await site.page();
    mkdirSync(join(growing, 'cavity'));
    const add = (n: string): void =>
      copyFileSync(`tests/fixtures/cavity/cavity_${n}.vtu`, join(growing, 'cavity', `cavity_${n}.vtu`));
    for (const n of ['00', '01', '02']) add(n);
    await page.goto(site.address);
    await page.getByRole('button', { name: 'Server' }).click();
    await page.getByRole('button', { name: growing.split('/').pop() }).click();
    await page.getByRole('button', { name: 'cavity' }).click();
    await page.getByRole('button', { name: 'Open all of this folder' }).click();
    await page.getByText('A flat run of 3 frames').waitFor();
    await importOnly(page);
    const { run } = await runsHere(page);
    add('03');
    await page.goto(`${site.address}/run/${run}`);
    await page.getByText('1 new step').waitFor();
    await page.getByRole('button', { name: 'Read the new steps' }).click();
    await page.getByText('4 frames').waitFor();
    expect((await runBehind(page)).steps).toHaveLength(4);

    await page.getByRole('link', { name: 'Swap its files' }).click();
    await page.getByText('take the place of those').waitFor();
    await page.getByTestId('file-input').setInputFiles([oven(1)]);
    await page.getByRole('button', { name: 'Swap in' }).click();
    // Before anything is changed it is said what will not match, with what is likely meant.
    await page.getByText('Before the files of').waitFor();
    const held = async (): Promise<RunDescription> =>
      (await site.get<{ description: RunDescription }>(`/api/runs/${run}`)).description;
    expect((await held()).steps).toHaveLength(4);
    const meant = page.getByLabel('T is now');
    expect(await meant.inputValue()).toBe('point:temperature');
    await page.getByText(/in its scenes and shots/).click();
    await page
      .getByText(/no point field "T"/)
      .first()
      .waitFor();
    await page.getByRole('button', { name: 'Swap the files' }).click();
    await page.getByRole('button', { name: 'Undo the swap' }).waitFor();
    expect((await held()).parts[0].meshes[0].cellsByType).toEqual({ hexahedron: 27 });
    expect(await page.getByRole('button', { name: 'What it is coloured by' }).textContent()).toBe(
      'temperature',
    );

    await page.getByRole('button', { name: 'Undo the swap' }).click();
    await expect
      .poll(() => page.getByRole('button', { name: 'What it is coloured by' }).textContent())
      .toBe('T');
    expect((await held()).steps).toHaveLength(4);
    // The next drop is a new run again.
    await page.goto(site.address);
    expect(await page.getByText('take the place of those').count()).toBe(0);
    await page.close();
  });
});

describe('parts on the stage', () => {
  it('are hidden by pointing, shown alone, coloured, and come back with undo', async () => {
    const page = await site.page();
    // Two blocks one behind the other, seen from the front.
    const moved = (shift: number) => ({
      ...block,
      points: Float32Array.from(block.points, (v, i) => (i % 3 === 1 ? v + shift : v)),
    });
    await drop(
      page,
      upload('front.vtu', Buffer.from(writeVtu(moved(0), []))),
      upload('back.vtu', Buffer.from(writeVtu(moved(3), []))),
    );
    for (const box of await page.getByLabel('put together with the other marked runs').all())
      await box.check();
    await page.getByRole('button', { name: 'together as parts' }).click();
    await page.getByLabel('Keep back').waitFor();
    await importOnly(page);
    const picture = page.getByTestId('picture');
    await page.getByRole('button', { name: 'Look from −y' }).click();
    await settled(page);
    const box = (await picture.boundingBox())!;
    const middle = { x: box.width / 2, y: box.height / 2 };
    await picture.click({ position: middle });
    await page.getByRole('menu', { name: 'Part front' }).waitFor();
    await page.getByRole('button', { name: 'Colour copper' }).click();
    await settled(page);
    const png = await pictureOnScreen(page);
    const [r, , b] = pixel(png, png.width / 2, png.height / 2);
    expect(r).toBeGreaterThan(b + 40);
    await page.getByRole('button', { name: 'clear the view' }).click();
    await picture.click({ position: middle });
    await page.getByText('1 hidden').waitFor();
    await picture.click({ position: middle });
    await page.getByText('2 hidden').waitFor();
    await page.keyboard.press('Control+z');
    await page.getByText('1 hidden').waitFor();
    await page.keyboard.press('Control+z');
    await page.getByText(/hidden/).waitFor({ state: 'detached' });
    await page.close();
  });
});
