import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { unzipSync } from 'fflate';
import type { Page } from 'playwright-core';
import { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { toldOfFilm } from '../told-film.ts';
import { ovenFiles } from './sample-files.ts';
import { coloured, differing, downloaded, PATIENCE, pictureOnScreen, Site, settled } from './site.ts';

/** From files to a picture, a film and a page, as a person would go. The steps build on each other. */
describe('the way from files to what is given out', () => {
  const site = new Site();
  const folder = mkdtempSync(join(tmpdir(), 'dresser-journey-'));
  let page: Page;
  let before: PNG;
  const sceneNow = () =>
    site.get<{
      document: {
        layers: { chain: { options: { offset: number } }[]; colour: { field: string } }[];
        scales: { bands: { count: number } | null }[];
        step: number;
      };
    }>(`/api/scenes/${page.url().split('/').pop()}`);
  const saved = async () => {
    await page.waitForTimeout(100);
    await page.getByText('saved', { exact: true }).waitFor();
  };

  beforeAll(async () => {
    await site.start();
    page = await site.page();
  });
  afterAll(async () => {
    await site.stop();
    rmSync(folder, { recursive: true, force: true });
  });

  it('drop files and see what they hold before anything is stored', async () => {
    const files = ovenFiles().map((f) => ({ name: f.name, text: f.buffer.toString('base64') }));
    const data = await page.evaluateHandle((list) => {
      const transfer = new DataTransfer();
      for (const { name, text } of list) {
        transfer.items.add(new File([Uint8Array.from(atob(text), (c) => c.charCodeAt(0))], name));
      }
      return transfer;
    }, files);
    await page.dispatchEvent('main', 'drop', { dataTransfer: data });
    await page.getByText('A run of 5 steps').waitFor();
    await page.getByText('125 hexahedron').waitFor();
    expect(await page.getByLabel('Unit of velocity').inputValue()).toBe('m/s');
    expect(await page.getByLabel('Lengths in').inputValue()).toBe('m');
    await page.getByLabel('Unit of temperature').fill('K');
    expect(await page.getByRole('region', { name: 'Scenes' }).count()).toBe(0);
  });

  it('import and find a picture with no further click', async () => {
    await page.getByRole('button', { name: 'Import', exact: true }).click();
    await page.waitForURL(/\/scene\//);
    await settled(page);
    before = await pictureOnScreen(page);
    expect(coloured(before)).toBeGreaterThan(0.12);
    expect(coloured(before)).toBeLessThan(0.7);
    await page.getByText('Surface of').waitFor();
    const run = await site.get<{ description: { fields: { name: string; unit: string }[] } }>(
      `/api/runs/${(await site.get<{ run: string }>(`/api/scenes/${page.url().split('/').pop()}`)).run}`,
    );
    expect(run.description.fields.find((f) => f.name === 'temperature')!.unit).toBe('K');
  });

  it('read a value under the cursor', async () => {
    const box = (await page.getByTestId('picture').boundingBox())!;
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    const note = page.getByRole('status').filter({ hasText: 'at (' });
    await note.waitFor();
    const [, value, x, y, z] = /temperature ([\d.]+) K\s*at \(([\d.]+), ([\d.]+), ([\d.]+)\) m/
      .exec((await note.textContent())!.replace(/\n/g, ' '))!
      .map(Number);
    expect(value).toBeCloseTo(30 + 35 * 4 + 60 * x + 40 * y * z, -0.5);
  });

  it('change the field', async () => {
    await page.getByRole('button', { name: 'What it is coloured by' }).click();
    await page.getByRole('button', { name: /^velocity/ }).click();
    await page.keyboard.press('Escape');
    await settled(page);
    expect(differing(before, await pictureOnScreen(page))).toBeGreaterThan(0.1);
    await page.getByRole('button', { name: 'Undo' }).click();
    await settled(page);
    expect(differing(before, await pictureOnScreen(page))).toBeLessThan(0.01);
  });

  it('add a section, hide the surface, and drag the section on the stage', async () => {
    await page.getByRole('button', { name: 'Add a line' }).click();
    await page.getByRole('button', { name: 'Section', exact: false }).first().click();
    await page.getByRole('button', { name: 'Hide this line' }).first().click();
    await settled(page);
    await saved();
    const offset = async () => (await sceneNow()).document.layers[1].chain[0].options.offset;
    const begin = await offset();
    const handle = (await page.locator('[data-handle=plane]').boundingBox())!;
    await page.mouse.move(handle.x + 16, handle.y + 16);
    await page.mouse.down();
    await page.mouse.move(handle.x + 46, handle.y + 6, { steps: 5 });
    await page.mouse.up();
    await saved();
    const moved = await offset();
    expect(moved).not.toBe(begin);
    await page.getByRole('button', { name: 'Undo' }).click();
    await saved();
    expect(await offset()).toBe(begin);
    await page.getByRole('button', { name: 'Redo' }).click();
    await saved();
    expect(await offset()).toBe(moved);
    await page.getByLabel('Locked on the stage').check();
    const at = (await page.locator('[data-handle=plane]').boundingBox())!;
    await page.mouse.move(at.x + 16, at.y + 16);
    await page.mouse.down();
    await page.mouse.move(at.x + 60, at.y - 20, { steps: 3 });
    await page.mouse.up();
    await saved();
    expect(await offset()).toBe(moved);
  });

  it('make it banded, and the shared scale changes for both lines', async () => {
    await page.getByRole('button', { name: 'The colour scale' }).last().click();
    await page.getByText('Shared by 2 lines').waitFor();
    await page.getByRole('tab', { name: 'Bands' }).click();
    await page.getByRole('button', { name: 'even', exact: true }).click();
    await page.getByLabel('Number of bands').fill('6');
    await page.keyboard.press('Escape');
    await saved();
    const { document } = await sceneNow();
    expect(document.scales).toHaveLength(1);
    expect(document.scales[0].bands?.count).toBe(6);
  });

  it('go through time, and stop anywhere', async () => {
    await page.getByRole('button', { name: 'First step' }).click();
    await page.getByText('t = 0 s', { exact: false }).first().waitFor();
    await page.getByRole('button', { name: 'Play' }).click();
    await expect
      .poll(async () => Number(await page.getByLabel('Step', { exact: true }).inputValue()), {
        timeout: 15_000,
      })
      .toBeGreaterThan(1);
    await page.getByRole('button', { name: 'Pause' }).click();
    await page.getByRole('button', { name: 'Last step' }).click();
    await page.getByText('step 5 of 5').waitFor();
  });

  it('keep a shot, change the scene, reload, and find the shot as it was', async () => {
    await settled(page);
    const kept = await pictureOnScreen(page);
    await page.getByRole('button', { name: 'Keep shot' }).click();
    await page.getByRole('button', { name: 'Open Shot 1' }).waitFor();
    await page.getByRole('button', { name: 'Look from +z' }).click();
    await page.getByRole('button', { name: 'First step' }).click();
    await settled(page);
    expect(differing(kept, await pictureOnScreen(page))).toBeGreaterThan(0.05);
    await saved();
    await page.reload();
    await page.getByText('step 1 of 5').waitFor();
    await page.getByRole('button', { name: 'Open Shot 1' }).click();
    await page.getByText('step 5 of 5').waitFor();
    await settled(page);
    expect(differing(kept, await pictureOnScreen(page))).toBeLessThan(0.005);
  });

  it('give out a still of the chosen size, the same composition', async () => {
    await page.getByRole('button', { name: 'One step back' }).click();
    await page.getByRole('button', { name: 'One step back' }).click();
    await page.getByRole('button', { name: 'Give out' }).click();
    await page.getByLabel('Width in pixels').fill('420');
    await page.keyboard.press('Enter');
    await page.getByLabel('Height in pixels').fill('280');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Proof', exact: true }).click();
    await page.getByRole('button', { name: 'Make the picture' }).click();
    const { name, bytes } = await downloaded(page, 'Save PNG');
    expect(name).toMatch(/\.png$/);
    const png = PNG.sync.read(bytes);
    expect([png.width, png.height]).toEqual([420, 280]);
    expect(coloured(png)).toBeGreaterThan(0.05);
    // The picture on the stage took the shape of the still: scaled to its size, hardly a pixel differs but at edges and words.
    await settled(page);
    const box = (await page.getByTestId('picture').boundingBox())!;
    expect(box.width / box.height).toBeCloseTo(1.5, 2);
  });

  it('give out a still without its background', async () => {
    await page.getByLabel('Transparent background').check();
    await page.getByRole('button', { name: 'Make the picture' }).click();
    await page.getByRole('button', { name: 'Cancel' }).waitFor({ state: 'detached', timeout: PATIENCE });
    const png = PNG.sync.read((await downloaded(page, 'Save PNG')).bytes);
    expect(png.data[3]).toBe(0);
    let solid = 0;
    for (let i = 3; i < png.data.length; i += 4) if (png.data[i] === 255) solid++;
    expect(solid / (png.width * png.height)).toBeGreaterThan(0.03);
  });

  const makeFilm = async (kind: string) => {
    await page.getByRole('button', { name: kind, exact: true }).click();
    await page.getByRole('button', { name: 'Make the film' }).click();
    await page.getByText(/5 pictures, .*× 240/).waitFor({ timeout: PATIENCE });
    const { name, bytes } = await downloaded(page, 'Save');
    const path = join(folder, name);
    writeFileSync(path, bytes);
    return path;
  };
  it('give out a film as MP4, decoded again by another program', async () => {
    await page.getByRole('tab', { name: 'Film' }).click();
    await page.getByLabel('Width in pixels').fill('360');
    await page.keyboard.press('Enter');
    await page.getByLabel('Height in pixels').fill('240');
    await page.keyboard.press('Enter');
    await page.getByRole('button', { name: 'Quick' }).click();
    await page.getByLabel('Length').fill('2.5');
    await page.keyboard.press('Enter');
    expect(await page.getByLabel('Pictures a second').inputValue()).toBe('2');
    const path = await makeFilm('MP4, H.264');
    expect(toldOfFilm(path)).toMatchObject({
      codec_name: 'h264',
      width: 360,
      height: 240,
      nb_read_frames: 5,
      duration: expect.closeTo(2.5, 1),
    });
    execFileSync('ffmpeg', ['-v', 'error', '-i', path, join(folder, 'frame-%d.png')]);
    const { readFileSync } = await import('node:fs');
    const frames = [1, 2, 3, 4, 5].map((n) => PNG.sync.read(readFileSync(join(folder, `frame-${n}.png`))));
    const stamp = (png: PNG): PNG => {
      const cut = new PNG({ width: 100, height: 40 });
      PNG.bitblt(png, cut, 5, 200, 100, 40, 0, 0);
      return cut;
    };
    for (let n = 1; n < 5; n++) {
      expect(differing(frames[n - 1], frames[n])).toBeGreaterThan(0.01);
      expect(differing(stamp(frames[n - 1]), stamp(frames[n]))).toBeGreaterThan(0.002);
    }
  });

  it('give out the same film as WebM, GIF and pictures', async () => {
    expect(toldOfFilm(await makeFilm('WebM'))).toMatchObject({
      codec_name: 'vp9',
      width: 360,
      height: 240,
      nb_read_frames: 5,
    });
    expect(toldOfFilm(await makeFilm('GIF'))).toMatchObject({
      codec_name: 'gif',
      width: 360,
      height: 240,
      nb_read_frames: 5,
      duration: expect.closeTo(2.5, 1),
    });
    const { readFileSync } = await import('node:fs');
    const files = unzipSync(readFileSync(await makeFilm('Pictures in a zip')));
    expect(Object.keys(files)).toEqual([1, 2, 3, 4, 5].map((n) => `picture-000${n}.png`));
    expect(PNG.sync.read(Buffer.from(files['picture-0003.png'])).width).toBe(360);
  });

  it('give out a page with the shot, an own caption and the facts, in one file', async () => {
    await page.getByRole('tab', { name: 'Page' }).click();
    await page.getByLabel('Title').fill('Warm-up <of> the oven');
    const caption = page.getByLabel('Caption of Shot 1');
    expect(await caption.inputValue()).toMatch(
      /^Section of oven at .*coloured by temperature on Heat\. At t = 8 s\.$/,
    );
    await caption.fill('The oven after eight seconds.');
    await page.getByRole('button', { name: 'Make the page' }).click();
    const { name, bytes } = await downloaded(page, 'Save page');
    expect(name).toMatch(/\.html$/);
    const html = bytes.toString();
    expect(html).toContain('<h1>Warm-up &lt;of&gt; the oven</h1>');
    expect(html).toContain('The oven after eight seconds.');
    expect(html).toContain('125 hexahedron');
    expect(html.replace(/data:image\/png;base64,[A-Za-z0-9+/=]+/g, 'data:')).not.toMatch(
      /https?:|src="(?!data:)|<script|@import/,
    );
    const context = await page.context().browser()!.newContext({ offline: true });
    const alone = await context.newPage();
    const path = join(folder, 'page.html');
    writeFileSync(path, bytes);
    await alone.goto(`file://${path}`);
    expect(
      await alone.evaluate(() => [...document.images].every((i) => i.complete && i.naturalWidth === 1600)),
    ).toBe(true);
    await context.close();
  });

  it('give out the scene as a file, which the command line renders and another run opens', async () => {
    await page.getByRole('tab', { name: 'Scene file' }).click();
    const { name, bytes } = await downloaded(page, 'Save scene file');
    expect(name).toBe('oven.scene.json');
    const path = join(folder, name);
    writeFileSync(path, bytes);
    for (const f of ovenFiles(2)) writeFileSync(join(folder, f.name), f.buffer);
    const runFiles = ['oven_0.vtu', 'oven_1.vtu'].map((f) => join(folder, f));
    const lines = execFileSync(
      process.execPath,
      [
        'cli/bin.mjs',
        'render',
        path,
        '--run',
        ...runFiles,
        '--out',
        folder,
        '--size',
        '200x150',
        '--steps',
        '2',
        '--passes',
        '1',
      ],
      { encoding: 'utf8' },
    );
    expect(lines).toMatch(/oven-0002\.png step 2 t 2 200x150/);
    await page.locator('input[accept*=json]').setInputFiles(path);
    await page.getByText('everything in it was found').waitFor();
    const other = JSON.parse(bytes.toString());
    other.layers[0].parts = ['roof'];
    await page.locator('input[accept*=json]').setInputFiles({
      name: 'other.json',
      mimeType: 'application/json',
      buffer: Buffer.from(JSON.stringify(other)),
    });
    await page.getByText('the run has no part "roof"').waitFor();
    await page.locator('input[accept*=json]').setInputFiles({
      name: 'bad.json',
      mimeType: 'application/json',
      buffer: Buffer.from('{"version":1}'),
    });
    await page.getByRole('alert').filter({ hasText: 'bad.json' }).waitFor();
    await page.getByRole('button', { name: 'Undo' }).click();
  });

  it('find the scene on Intake, with its picture, after a restart of the server', async () => {
    await page.getByRole('button', { name: 'Back to the scene' }).click();
    await settled(page);
    await saved();
    await page.waitForTimeout(500);
    await site.kill();
    await site.start();
    await page.goto(site.address);
    const card = page.getByRole('link', { name: /^oven/ });
    await expect.poll(async () => card.getByRole('img').getAttribute('src')).toMatch(/^data:image\/jpeg/);
    await card.click();
    await page.getByRole('button', { name: 'Open Shot 1' }).waitFor();
  });
});
