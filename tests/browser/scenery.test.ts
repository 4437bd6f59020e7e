import type { Page } from 'playwright-core';
import type { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Piece, Scene } from '#core/scene/document.ts';
import type { Enclosure } from '#core/scene/enclosure.ts';
import type { FromFile } from '#core/scene/scenery/from-file.ts';
import { plainPlaced } from '#core/scene/scenery/placed.ts';
import { dracoPacked, sheet, written } from '../sheet-glb.ts';
import { DrawnBalls, fromFront } from './drawn-balls.ts';
import { ovenFiles } from './sample-files.ts';
import { differing, importFiles, pictureOnScreen, pixel, Site, settled } from './site.ts';

const SIZE = { width: 120, height: 120 };

describe('scenery on the stage', () => {
  let drawn: DrawnBalls;
  let scene: Scene;
  let enclosed: Enclosure;
  beforeAll(async () => {
    // A ball that hangs over a body.
    drawn = await DrawnBalls.of(['0,0,2,1,20']);
    scene = { ...drawn.scene, camera: fromFront(2) };
    const sent = await drawn.served.send<Enclosure>(
      'POST',
      '/api/enclosures?name=sheet.glb',
      await written(sheet()),
    );
    enclosed = sent.answer;
  });
  afterAll(() => drawn.close());

  const piece = (kind: Piece['kind'], more: Record<string, unknown>): Piece =>
    ({ ...plainPlaced, id: 'it', kind, visible: true, ...more }) as Piece;
  const ofFile = (more: Partial<FromFile & Piece>): Piece =>
    piece('file', { file: enclosed, unit: 'm', times: 1, up: 'y', inPlace: false, ...more });
  const draw = (more: Partial<Scene>): Promise<PNG> =>
    drawn.draw({ scene: { ...scene, ...more }, passes: 4, transparent: false, ...SIZE });
  const at = (png: PNG, x: number, y: number): number[] =>
    [...pixel(png, Math.round(x * SIZE.width), Math.round(y * SIZE.height))].slice(0, 3);

  it('shows the picture of a body the right way round, times the colour of its material', async () => {
    // One unit wide and high on a picture of two, in even light: colours are as the file has them.
    const png = await draw({ scenery: [ofFile({ place: [0, 0, -0.5] })] });
    const near = (found: number[], wanted: number[]): void => {
      for (const [k, v] of found.entries())
        expect(Math.abs(v - wanted[k]), `${found} for ${wanted}`).toBeLessThanOrEqual(4);
    };
    near(at(png, 0.375, 0.375), [188, 0, 0]);
    near(at(png, 0.625, 0.375), [0, 127, 0]);
    near(at(png, 0.375, 0.625), [0, 0, 0]);
    near(at(png, 0.625, 0.625), [188, 127, 0]);
    // A chosen colour takes the place of the picture.
    const painted = await draw({ scenery: [ofFile({ place: [0, 0, -0.5], colour: '#2040c0' })] });
    near(at(painted, 0.375, 0.375), [0x20, 0x40, 0xc0]);
    near(at(painted, 0.625, 0.625), [0x20, 0x40, 0xc0]);
  });
  it('stands where it is put, as large as its unit says, and is gone when hidden', async () => {
    const bare = await draw({ scenery: [] });
    const covered = (png: PNG): number => differing(png, bare);
    const whole = covered(await draw({ scenery: [ofFile({ place: [0, 0, -0.5] })] }));
    // A square of half the width and the height of the picture; its edges are smoothed.
    expect(Math.abs(whole - 0.25)).toBeLessThan(0.02);
    const half = covered(await draw({ scenery: [ofFile({ place: [0, 0, -0.5], times: 0.5 })] }));
    expect(Math.abs(half - 0.0625)).toBeLessThan(0.012);
    const aside = covered(await draw({ scenery: [ofFile({ place: [1, 0, -0.5] })] }));
    expect(Math.abs(aside - 0.125)).toBeLessThan(0.015);
    const turned = covered(await draw({ scenery: [ofFile({ place: [0, 0, -0.5], turn: 60 })] }));
    // Seen aslant it is half as wide, and its bend comes out.
    expect(Math.abs(turned - (0.5 + 0.1 * Math.sin(Math.PI / 3)) / 4)).toBeLessThan(0.012);
    expect(covered(await draw({ scenery: [ofFile({ visible: false })] }))).toBe(0);
  });
  it('takes the shadow of the model, and casts its own on it', async () => {
    const light: Scene['light'] = { ...scene.light, rig: 'product', contact: 0.9 };
    const top = fromFront(3, [0, 0, 1]);
    const table = piece('table', {
      length: 2,
      width: 2,
      height: 1.4,
      place: [0, 0, 0],
      colour: '#cccccc',
      finish: 'matte-paint',
    });
    const far = piece('table', { ...table, place: [0, 0, -40] });
    const dark = async (scenery: Piece[]): Promise<number> => {
      const png = await draw({ light, camera: { ...top, target: [0, 0, 0] }, scenery });
      // All over its top, beside the ball, which covers the middle from above.
      const ring = [0.2, 0.23, 0.26, 0.29].flatMap((radius) =>
        Array.from({ length: 24 }, (_, i) => (i * Math.PI) / 12).map((angle) =>
          at(png, 0.5 + radius * Math.cos(angle), 0.5 + radius * Math.sin(angle)),
        ),
      );
      return Math.min(...ring.map(([r]) => r)) / Math.max(...ring.map(([r]) => r));
    };
    // Close below the ball its shadow is on the table, far below it is spread to nothing.
    expect((await dark([far])) - (await dark([table]))).toBeGreaterThan(0.06);
    // Under a wide slab the ball is darker than under the open sky.
    const front = { ...fromFront(1.4), target: [0, 0, 2] as Scene['camera']['target'] };
    const slab = piece('tiles', {
      length: 6,
      height: 6,
      edge: 1,
      standing: false,
      joint: 0.04,
      place: [0, 0, 2.8],
    });
    const brow = async (scenery: Piece[]): Promise<number> =>
      at(await draw({ light, camera: front, scenery }), 0.5, 0.25)[0];
    expect(await brow([slab])).toBeLessThan(0.8 * (await brow([])));
  });
  it('of a file that is not there any more is named when a picture is given out', async () => {
    const gone: Enclosure = { name: 'hall.glb', bytes: { hash: 'e'.repeat(64), type: 'u8', length: 9 } };
    await expect(draw({ scenery: [ofFile({ file: gone })] })).rejects.toThrow(
      /"hall.glb" that goes with this scene is not there any more. Choose it again/,
    );
  });
});

describe('scenery on the desk', () => {
  const site = new Site();
  let page: Page;
  beforeAll(async () => {
    await site.start();
    page = await site.page();
    await importFiles(page, ovenFiles(2));
  });
  afterAll(() => site.stop());

  const saved = async (): Promise<Scene> => {
    await page.getByText('saved', { exact: true }).waitFor();
    return (await site.get<{ document: Scene }>(`/api/scenes/${page.url().split('/').pop()}`)).document;
  };
  const section = () => page.getByRole('region', { name: 'Scenery' });
  const card = () => page.getByRole('dialog');
  const add = async (name: RegExp): Promise<void> => {
    const button = section().getByRole('button', { name: 'Add scenery' });
    if (!(await button.isVisible()))
      await section()
        .getByRole('button', { name: /^Scenery/ })
        .click();
    await button.click();
    await card().getByRole('button', { name }).click();
  };

  it('a packed file is read, stood beside the model, and told when its unit cannot be right', async () => {
    const before = await pictureOnScreen(page);
    await add(/^Body from a file/);
    const choose = async (name: string, bytes: Uint8Array): Promise<void> =>
      card()
        .getByLabel('File', { exact: true })
        .setInputFiles({ name, mimeType: 'model/gltf-binary', buffer: Buffer.from(bytes) });
    await choose('broken.glb', Buffer.from('glTF and nothing else'));
    await expect
      .poll(() => card().getByRole('alert').textContent())
      .toMatch(/glTF file is damaged.*write it again/i);
    await choose('sheet.glb', await dracoPacked(sheet()));
    await card().getByText('sheet.glb').waitFor();
    const [piece] = (await saved()).scenery;
    expect(piece).toMatchObject({ unit: 'm', up: 'y', inPlace: false });
    await card().getByRole('button', { name: '1 mm', exact: true }).click();
    await expect.poll(() => card().textContent()).toMatch(/With 1 mm it is .* times smaller than the model/);
    await card().getByRole('button', { name: '1 m', exact: true }).click();
    await expect.poll(() => card().textContent()).not.toMatch(/times smaller/);
    await page.keyboard.press('Escape');
    await section().getByRole('button', { name: 'See it all' }).click();
    await settled(page);
    expect(differing(before, await pictureOnScreen(page))).toBeGreaterThan(0.05);
  });

  it('a piece is dragged over the floor, clicked to be changed, locked, grouped and brought back by undo', async () => {
    await add(/^Table/);
    await page.keyboard.press('Escape');
    await section().getByRole('button', { name: 'See it all' }).click();
    const handle = page.locator('[data-handle=scenery]');
    await handle.waitFor();
    const [, before] = (await saved()).scenery;
    const box = (await handle.boundingBox())!;
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width / 2 - 30, box.y + box.height / 2 + 12, { steps: 4 });
    await page.mouse.up();
    await expect.poll(async () => (await saved()).scenery[1].place).not.toEqual(before.place);
    const [, after] = (await saved()).scenery;
    expect(after.place[2]).toBeCloseTo(before.place[2], 3);

    await section()
      .getByRole('button', { name: /^Change Table/ })
      .click();
    await card().getByRole('button', { name: 'Lock', exact: true }).click();
    await page.keyboard.press('Escape');
    await expect.poll(() => handle.count()).toBe(0);
    expect((await saved()).scenery[1].locked).toBe(true);
    await section()
      .getByRole('button', { name: /^Unlock Table/ })
      .click();

    await section()
      .getByRole('button', { name: /^Change Table/ })
      .click();
    await card().getByLabel('Name of a new group').fill('bench');
    await card().getByRole('button', { name: 'Group', exact: true }).click();
    await page.keyboard.press('Escape');
    await section().getByRole('button', { name: 'Hide the group bench' }).click();
    await expect
      .poll(async () => (await saved()).scenery[1])
      .toMatchObject({ group: 'bench', visible: false });
    await page.getByRole('button', { name: 'Undo' }).click();
    await expect.poll(async () => (await saved()).scenery[1].visible).toBe(true);
    expect(await page.getByRole('button', { name: 'Undo' }).getAttribute('title')).toBe(
      'Undo: hide, lock or group scenery',
    );
  });

  it('a click on it in the picture opens its settings, and a value is not read through it', async () => {
    await section().getByRole('button', { name: 'See it all' }).click();
    await settled(page);
    const picture = (await page.getByTestId('picture').boundingBox())!;
    // Where its handle stands when it is open is its foot; its top is seen above that.
    await section()
      .getByRole('button', { name: /^Change Table/ })
      .click();
    const foot = (await page.locator('[data-handle=scenery]').boundingBox())!;
    await page.keyboard.press('Escape');
    const [x, y] = [foot.x + foot.width / 2, foot.y + foot.height / 2];
    // Beside everything: it is not chosen any more.
    await page.mouse.click(picture.x + 8, picture.y + 8);
    await expect.poll(() => page.locator('[data-handle=scenery]').count()).toBe(0);
    let opened = false;
    for (const rise of [0.03, 0.05, 0.08, 0.11, 0.15]) {
      await page.mouse.click(x, y - rise * picture.height);
      await page.waitForTimeout(400);
      opened = (await page.locator('[data-handle=scenery]').count()) === 1;
      if (opened) break;
      await page.keyboard.press('Escape');
    }
    expect(opened).toBe(true);
    await page.keyboard.press('Escape');
  });

  it('a file that is dropped on the picture stands beside the model', async () => {
    const there = (await saved()).scenery.length;
    const bytes = Buffer.from(await written(sheet())).toString('base64');
    await page.evaluate((content) => {
      const data = new DataTransfer();
      const raw = Uint8Array.from(atob(content), (c) => c.charCodeAt(0));
      data.items.add(new File([raw], 'dropped.glb'));
      document
        .querySelector('#picture')!
        .dispatchEvent(new DragEvent('drop', { dataTransfer: data, bubbles: true }));
    }, bytes);
    await expect.poll(async () => (await saved()).scenery.length).toBe(there + 1);
    expect((await saved()).scenery.at(-1)).toMatchObject({ kind: 'file', file: { name: 'dropped.glb' } });
  });
});
