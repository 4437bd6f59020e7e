import { type Browser, chromium } from 'playwright-core';
import type { PNG } from 'pngjs';
import type { Vector } from '#core/model/vectors.ts';
import type { SpheresOptions } from '#core/ops/spheres.ts';
import { fitCamera } from '#core/scene/camera.ts';
import type { Scene } from '#core/scene/document.ts';
import { chromiumFlags, chromiumPath } from '#web/server/chromium.ts';
import { Served } from '../attack/served.ts';
import { RenderPage } from './render-page.ts';

/** Straight on, without perspective, at what lies around zero. */
export const fromFront = (height: number, from: Vector = [0, -1, 0]): Scene['camera'] => ({
  ...fitCamera([-1, 1, -1, 1, -1, 1], from, [0, 0, 1], 1, { projection: 'parallel', fieldOfView: 24 }),
  target: [0, 0, 0],
  height,
});

/**
 * How much of what keeps light from a place a floor shows. Far from the model it becomes the backdrop; an eighth of it
 * never darkens (see 'floorShare').
 *
 * @param radius of the ball around the model, whose middle is zero
 */
export function floorDarkens([x, y]: Vector, radius: number): number {
  const t = (Math.hypot(x, y) / (8 * radius) - 0.22) / 0.4;
  const fade = t <= 0 ? 0 : t * t * (3 - 2 * t);
  return 0.88 * (1 - fade);
}

/** Balls of a table on the picture, as large as it says, with nothing else in it: no words, no floor, in even light. */
export class DrawnBalls {
  private constructor(
    readonly served: Served,
    readonly browser: Browser,
    readonly page: RenderPage,
    private readonly run: string,
    readonly scene: Scene,
  ) {}

  /** @param rows `x,y,z,diameter,temperature` of each */
  static async of(rows: readonly string[]): Promise<DrawnBalls> {
    const served = await new Served().start();
    const browser = await chromium.launch({ executablePath: chromiumPath(), args: chromiumFlags });
    const page = await RenderPage.open(await browser.newPage(), served.address);
    const table = ['x,y,z,diameter,temperature', ...rows].join('\n');
    return DrawnBalls.imported({ served, browser, page }, { 'balls.csv': Buffer.from(table) });
  }

  /** The same of other files, on the stage that draws these. */
  others(files: Record<string, Uint8Array>): Promise<DrawnBalls> {
    return DrawnBalls.imported(this, files);
  }

  private static async imported(
    { served, browser, page }: Pick<DrawnBalls, 'served' | 'browser' | 'page'>,
    files: Record<string, Uint8Array>,
  ): Promise<DrawnBalls> {
    const { run, scene } = await served.imported(files);
    const { document } = (await served.send<{ document: Scene }>('GET', `/api/scenes/${scene}`)).answer;
    return new DrawnBalls(served, browser, page, run, {
      ...document,
      annotations: [],
      light: { ...document.light, rig: 'even' },
      floor: { ...document.floor, kind: 'none' },
      stamp: { ...document.stamp, visible: false },
      scales: document.scales.map((s) => ({ ...s, legend: { ...s.legend, visible: false } })),
      layers: document.layers.map((layer) => ({
        ...layer,
        chain: layer.chain.map((s) =>
          s.op === 'spheres'
            ? { ...s, options: { ...(s.options as SpheresOptions), scale: 'factor', factor: 1 } }
            : s,
        ),
      })),
    });
  }

  /** @param order as `RenderOrder` */
  draw(order: {
    scene: Scene;
    width: number;
    height: number;
    passes: number;
    transparent: boolean;
    tile?: number;
    film?: number;
  }): Promise<PNG> {
    return this.page.draw({ run: this.run, ...order });
  }

  async close(): Promise<void> {
    await this.browser.close();
    await this.served.remove();
  }
}
