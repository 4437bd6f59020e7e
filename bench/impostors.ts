import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type Page } from 'playwright-core';
import type { SpheresOptions } from '#core/ops/spheres.ts';
import type { Scene } from '#core/scene/document.ts';
import { lineWidth } from '#stage/stage.ts';
import { chromiumFlags, chromiumPath } from '#web/server/chromium.ts';
import { Served } from '../tests/attack/served.ts';
import { RenderPage } from '../tests/browser/render-page.ts';
import { compare, middle } from './measure.ts';
import { plainPoints } from './plain-points.ts';

const MANY = 100_000;
const SIZE = { width: 640, height: 400 };
/** Of the grains on the picture, in its pixels: as large as dots are drawn. */
const PIXELS = 3 * lineWidth(SIZE);
const PASSES = [4, 12];
/** All kinds of picture are drawn in turn, so often: what else the machine does meets all of them. */
const ROUNDS = 3;

/** Places in a box as wide as the picture: a lattice by the golden ratio, the same ones every time. */
function grains(count: number): number[][] {
  return Array.from({ length: count }, (_, i) => [
    1.6 * ((i * 0.7548776662) % 1) - 0.8,
    ((i * 0.569840291) % 1) - 0.5,
    ((i * 0.438579021) % 1) - 0.5,
  ]);
}

/** A run of so many grains, and its scene as spheres of a size on the picture, evenly lit: without shadows. */
async function imported(served: Served, folder: string, count: number) {
  const file = join(folder, `grains-${count}.csv`);
  const rows = grains(count).map((place, i) => [...place, i / count].join());
  writeFileSync(file, ['x,y,z,age', ...rows].join('\n'));
  const made = await served.importPaths([file]);
  if (!made) throw new Error('The grains of the bench were not read.');
  const { answer } = await served.send<{ document: Scene }>('GET', `/api/scenes/${made.scene}`);
  const { document } = answer;
  const scene: Scene = {
    ...document,
    light: { ...document.light, rig: 'even' },
    floor: { ...document.floor, kind: 'none' },
    camera: {
      ...document.camera,
      position: [0, 0, 3],
      target: [0, 0, 0],
      up: [0, 1, 0],
      projection: 'parallel',
      height: 1,
    },
  };
  return { run: made.run, scene };
}

/** With other operations: spheres of the size, or none. */
const withSpheres = (scene: Scene, shown: boolean): Scene => ({
  ...scene,
  layers: scene.layers.map((layer) => ({
    ...layer,
    chain: layer.chain.flatMap((s) => {
      if (s.op !== 'spheres') return [s];
      const options = { ...(s.options as SpheresOptions), measured: 'model', field: '' };
      return shown ? [{ ...s, options: { ...options, radius: PIXELS / 2 / SIZE.height } }] : [];
    }),
  })),
});

/** Milliseconds of a pass. */
async function timeOfPass(page: RenderPage, order: { run: string; scene: Scene }): Promise<number> {
  const times: number[] = [];
  for (const passes of PASSES) {
    const began = performance.now();
    await page.draw({ ...order, ...SIZE, passes });
    times.push(performance.now() - began);
  }
  return (times[1] - times[0]) / (PASSES[1] - PASSES[0]);
}

/** Spheres of the stage against dots of the stage as large, and against bare points without a stage. */
export async function benchImpostors(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'dresser-bench-'));
  const served = await new Served().start([folder]);
  const browser = await chromium.launch({ executablePath: chromiumPath(), args: chromiumFlags });
  try {
    const page = await RenderPage.open(await browser.newPage(), served.address);
    const bare = await browser.newPage();
    const [many, few] = [await imported(served, folder, MANY), await imported(served, folder, 2)];
    const orders = [
      { run: many.run, scene: withSpheres(many.scene, true) },
      { run: many.run, scene: withSpheres(many.scene, false) },
      { run: few.run, scene: withSpheres(few.scene, true) },
    ];
    const times: number[][] = [[], [], [], []];
    for (let round = -1; round < ROUNDS; round++)
      for (const [k, list] of times.entries()) {
        const took = k < 3 ? await timeOfPass(page, orders[k]) : await timeOfPoints(bare);
        // The first round makes what is drawn.
        if (round >= 0) list.push(took);
      }
    const [spheres, dots, rest, points] = times.map(middle);
    const of = `${MANY.toLocaleString('en')} spheres of ${PIXELS} pixels`;
    compare(`a pass of ${of}, against dots`, spheres, dots, 'at most 2');
    compare(`${of} alone, against bare points`, spheres - rest, points, 'points take no depth of their own');
    console.log(`  (the rest of a pass: ${rest.toFixed(0)} ms)`);
  } finally {
    await browser.close();
    await served.remove();
    rmSync(folder, { recursive: true, force: true });
  }
}

const timeOfPoints = async (page: Page): Promise<number> =>
  middle(await page.evaluate(plainPoints, { places: grains(MANY).flat(), pixels: PIXELS, ...SIZE }));
