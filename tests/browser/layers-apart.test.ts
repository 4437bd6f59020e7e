import { unzipSync } from 'fflate';
import type { Page } from 'playwright-core';
import { PNG } from 'pngjs';
import { FloatType } from 'three';
import { EXRLoader } from 'three/examples/jsm/loaders/EXRLoader.js';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { dot, subtract, type Vector } from '#core/model/vectors.ts';
import { cameraAxes, rayThrough } from '#core/scene/camera.ts';
import type { Scene } from '#core/scene/document.ts';
import { downloaded, importFiles, Site, settled, upload } from './site.ts';

const SIZE = { width: 240, height: 160 };

/** From -1 to 1, every face looking outward. */
const CUBE = `o tin
${[0, 1, 2, 3, 4, 5, 6, 7].map((n) => `v ${[n & 1, (n >> 1) & 1, n >> 2].map((b) => 2 * b - 1).join(' ')}`).join('\n')}
f 1 3 4 2
f 5 6 8 7
f 1 2 6 5
f 3 7 8 4
f 1 5 7 3
f 2 4 8 6
`;

const site = new Site();
let page: Page;
let scene: Scene;
beforeAll(async () => {
  await site.start();
  page = await site.page();
  await importFiles(page, [upload('tin.obj', Buffer.from(CUBE))]);
  await settled(page);
  await page.getByRole('button', { name: 'Give out' }).click();
  await page.getByLabel('Width in pixels').fill(String(SIZE.width));
  await page.getByLabel('Width in pixels').press('Enter');
  await page.getByLabel('Height in pixels').fill(String(SIZE.height));
  await page.getByLabel('Height in pixels').press('Enter');
  await page.getByRole('button', { name: 'Draft', exact: true }).click();
  await page.getByText('saved', { exact: true }).waitFor();
  const id = page.url().split('/').pop();
  scene = (await site.get<{ document: Scene }>(`/api/scenes/${id}`)).document;
});
afterAll(() => site.stop());

async function saved(make: string, save: string): Promise<Buffer> {
  await page.getByRole('button', { name: make, exact: true }).click();
  return (await downloaded(page, save)).bytes;
}

/** Where a line of sight first meets the cube: how far away along the axis, and on which face; nothing where it goes past. */
function met(x: number, y: number): { distance: number; normal: Vector } | null {
  const { from, along } = rayThrough(scene.camera, x, y, SIZE.width / SIZE.height);
  let [enter, leave] = [-Infinity, Infinity];
  let normal: Vector = [0, 0, 0];
  for (const k of [0, 1, 2]) {
    const [low, high] = [-1, 1].map((side) => (side - from[k]) / along[k]).sort((a, b) => a - b);
    if (low > enter) {
      enter = low;
      normal = [0, 1, 2].map((axis) => (axis === k ? -Math.sign(along[k]) : 0)) as Vector;
    }
    leave = Math.min(leave, high);
  }
  if (enter >= leave) return null;
  const place = from.map((f, k) => f + enter * along[k]) as Vector;
  return { distance: dot(subtract(scene.camera.position, place), cameraAxes(scene.camera).back), normal };
}

it('a picture is given out in its layers, which say of each pixel what lies there', async () => {
  const whole = PNG.sync.read(await saved('Make the picture', 'Save PNG'));
  await page.getByLabel('In layers, to be put together').check();
  const files = unzipSync(new Uint8Array(await saved('Make the layers', 'Save zip')));
  const named = (id: string): Buffer => {
    const name = Object.keys(files).find((n) => n.includes(id));
    if (!name) throw new Error(`${id} is not among ${Object.keys(files).join(', ')}`);
    return Buffer.from(files[name]);
  };
  const numbers = (id: string): ArrayLike<number> => {
    const bytes = new Uint8Array(named(`-${id}.exr`));
    const read = new EXRLoader().setDataType(FloatType).parse(bytes.buffer);
    expect([read.width, read.height]).toEqual([SIZE.width, SIZE.height]);
    return read.data as Float32Array;
  };
  const [depth, normals, bodies] = [numbers('depth'), numbers('normals'), numbers('bodies')];
  let [hits, misses] = [0, 0];
  for (let y = 3; y < SIZE.height; y += 7)
    for (let x = 3; x < SIZE.width; x += 7) {
      const around = [-0.6, 0, 0.6].flatMap((a) =>
        [-0.6, 0, 0.6].map((b) => met((x + 0.5 + a) / SIZE.width, (y + 0.5 + b) / SIZE.height)),
      );
      const wanted = around[4];
      // Its edges are not looked at.
      if (around.some((one) => String(one?.normal) !== String(wanted?.normal))) continue;
      // These files begin with their lowest row, as this reader gives them.
      const at = 4 * ((SIZE.height - 1 - y) * SIZE.width + x);
      expect(bodies[at]).toBe(wanted ? 1 : 0);
      if (wanted) {
        hits++;
        // Corners may be moved by a sixteenth of a pixel (SUBPIXEL_BITS of OpenGL ES 3.0).
        const near = [-1, 1].flatMap((a) =>
          [-1, 1].map(
            (b) => met((x + 0.5 + a / 16) / SIZE.width, (y + 0.5 + b / 16) / SIZE.height)!.distance,
          ),
        );
        expect(depth[at]).toBeGreaterThan(Math.min(...near));
        expect(depth[at]).toBeLessThan(Math.max(...near));
        for (const k of [0, 1, 2]) expect(normals[at + k]).toBeCloseTo(wanted.normal[k], 3);
      } else misses++;
    }
  expect(hits).toBeGreaterThan(60);
  expect(misses).toBeGreaterThan(60);

  const layer = (id: string): PNG => PNG.sync.read(named(`-${id}.png`));
  const beauty = layer('beauty');
  const words = layer('words');
  // The picture is the first of its layers, with its words over it.
  let clear = 0;
  for (let i = 0; i < whole.data.length; i += 4) {
    if (words.data[i + 3] > 0) continue;
    clear++;
    for (const k of [0, 1, 2])
      expect(Math.abs(whole.data[i + k] - beauty.data[i + k])).toBeLessThanOrEqual(1);
  }
  expect(clear).toBeGreaterThan(0.7 * SIZE.width * SIZE.height);
  const colours = layer('colours');
  const shadow = layer('shadow');
  const middle = 4 * ((SIZE.height / 2) * SIZE.width + SIZE.width / 2);
  expect(colours.data[middle + 3]).toBe(255);
  expect(colours.data[3]).toBe(0);
  const { colour } = scene.layers[0];
  if (colour.kind !== 'plain') throw new Error('a surface without values has one colour');
  const levels = [1, 3, 5].map((i) => Number.parseInt(colour.colour.slice(i, i + 2), 16));
  for (const k of [0, 1, 2]) expect(Math.abs(colours.data[middle + k] - levels[k])).toBeLessThanOrEqual(1);
  // Beside the tin its shadow lies on the floor, far from it there is none.
  const greys = shadow.data.filter((_, i) => i % 4 === 0);
  expect(greys[0]).toBeGreaterThan(250);
  expect(greys.filter((g) => g < 240).length).toBeGreaterThan(300);

  expect(named('bodies.csv').toString()).toMatch(/^number,body\n1,.*tin\n/);
  expect(named('layers.csv').toString().split('\n')).toHaveLength(9);
});
