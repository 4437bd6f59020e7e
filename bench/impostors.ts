import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium, type Page } from 'playwright-core';
import type { SpheresOptions } from '#core/ops/spheres.ts';
import type { Scene } from '#core/scene/document.ts';
import { chromiumFlags, chromiumPath } from '#web/server/chromium.ts';
import { Served } from '../tests/attack/served.ts';
import { RenderPage } from '../tests/browser/render-page.ts';
import { compare } from './measure.ts';
import { plainPoints } from './plain-points.ts';

const MANY = 100_000;
const SIZE = { width: 640, height: 400 };
/** Of the grains on the picture, in its pixels. */
const PIXELS = 4;
const PASSES = [4, 16];

/** Places in a box as wide as the picture: a lattice by the golden ratio, the same ones every time. */
function grains(count: number): number[][] {
  return Array.from({ length: count }, (_, i) => [
    1.6 * ((i * 0.7548776662) % 1) - 0.8,
    ((i * 0.569840291) % 1) - 0.5,
    ((i * 0.438579021) % 1) - 0.5,
  ]);
}

/** Milliseconds of a pass over one grain after the other, evenly lit and without shadows. */
async function ofGrains(served: Served, page: RenderPage, folder: string, count: number): Promise<number> {
  const file = join(folder, `grains-${count}.csv`);
  const rows = grains(count).map((place, i) => [...place, i / count].join());
  writeFileSync(file, ['x,y,z,age', ...rows].join('\n'));
  const made = await served.importPaths([file]);
  if (!made) throw new Error('The grains of the bench were not read.');
  const { answer } = await served.send<{ document: Scene }>('GET', `/api/scenes/${made.scene}`);
  const opened = answer.document;
  const radius = (PIXELS / 2 / SIZE.height) * 1;
  const scene = {
    ...opened,
    light: { ...opened.light, rig: 'even', floor: false },
    camera: {
      ...opened.camera,
      position: [0, 0, 3],
      target: [0, 0, 0],
      up: [0, 1, 0],
      projection: 'parallel',
      height: 1,
    },
    layers: opened.layers.map((layer) => ({
      ...layer,
      chain: layer.chain.map((s) =>
        s.op === 'spheres'
          ? { ...s, options: { ...(s.options as SpheresOptions), measured: 'model', field: '', radius } }
          : s,
      ),
    })),
  };
  const times: number[] = [];
  for (const passes of [PASSES[0], ...PASSES]) {
    const began = performance.now();
    await page.draw({ run: made.run, scene, ...SIZE, passes });
    times.push(performance.now() - began);
  }
  return (times[2] - times[1]) / (PASSES[1] - PASSES[0]);
}

/** Spheres of the stage against bare points of as many pixels, and the rest of a pass left out. */
export async function benchImpostors(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'dresser-bench-'));
  const served = await new Served().start([folder]);
  const browser = await chromium.launch({ executablePath: chromiumPath(), args: chromiumFlags });
  try {
    const page = await RenderPage.open(await browser.newPage(), served.address);
    const [all, hardlyAny] = [
      await ofGrains(served, page, folder, MANY),
      await ofGrains(served, page, folder, 2),
    ];
    const plain = await timeOfPoints(await browser.newPage());
    compare(
      `a pass of ${MANY.toLocaleString('en')} spheres of ${PIXELS} pixels, against points`,
      all - hardlyAny,
      plain,
      'at most 2',
    );
    console.log(`  (the rest of the pass takes ${hardlyAny.toFixed(0)} ms)`);
  } finally {
    await browser.close();
    await served.remove();
    rmSync(folder, { recursive: true, force: true });
  }
}

const timeOfPoints = (page: Page): Promise<number> =>
  page.evaluate(plainPoints, { places: grains(MANY).flat(), pixels: PIXELS, ...SIZE });
