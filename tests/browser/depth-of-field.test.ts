import type { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { straight } from '#core/scene/camera.ts';
import { spreadAt, thinLens } from '#core/scene/depth-of-field.ts';
import type { Scene } from '#core/scene/document.ts';
import { DrawnBalls } from './drawn-balls.ts';

const SIZE = 160;

/** All that covers the picture: how much, and how far around its middle along both ways (variances, in pixels²). */
function covered({ data, width, height }: PNG) {
  let [all, x1, y1, x2, y2] = [0, 0, 0, 0, 0];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const a = data[4 * (y * width + x) + 3] / 255;
      all += a;
      x1 += a * x;
      y1 += a * y;
      x2 += a * x * x;
      y2 += a * y * y;
    }
  return {
    all,
    middle: [x1 / all, y1 / all],
    spread: [x2 / all - (x1 / all) ** 2, y2 / all - (y1 / all) ** 2],
  };
}

describe('a small ball before and behind what is sharp', () => {
  let drawn: DrawnBalls;
  let scene: Scene;

  beforeAll(async () => {
    drawn = await DrawnBalls.of(['0,0,0,0.06,20']);
    scene = {
      ...drawn.scene,
      camera: {
        ...drawn.scene.camera,
        position: [0, -4, 0],
        target: [0, 0, 0],
        up: [0, 0, 1],
        projection: 'perspective',
        fieldOfView: 20,
        ...straight,
      },
    };
  });
  afterAll(() => drawn.close());
  const draw = (focus: Partial<Scene['focus']>): Promise<PNG> =>
    drawn.draw({
      scene: { ...scene, focus: { ...scene.focus, ...focus } },
      width: SIZE,
      height: SIZE,
      passes: 128,
      transparent: true,
    });

  // The variance of a disc of one brightness is a quarter of the square of its radius, and variances of what is spread by
  // one another add up (any textbook of statistics).
  it.each([
    ['before it', -2.5],
    ['behind it', 3],
  ])('%s is spread as the thin lens says, evenly, and covers no more in all', async (_, distance) => {
    // With a lens that is hardly open, so that as many passes are drawn.
    const sharp = covered(await draw({ blur: 1e-6 }));
    const focus = { blur: 12, at: 'place' as const, place: [0, distance, 0] as [number, number, number] };
    const blurred = covered(await draw(focus));
    const lens = thinLens(scene.camera, { ...scene.focus, ...focus })!;
    const radius = (spreadAt(scene.camera, lens, 4) / 2) * SIZE;
    expect(radius).toBeGreaterThan(5);
    for (const k of [0, 1]) {
      const more = blurred.spread[k] - sharp.spread[k];
      expect(Math.abs(more / (radius ** 2 / 4) - 1)).toBeLessThan(0.04);
      expect(Math.abs(blurred.middle[k] - sharp.middle[k])).toBeLessThan(0.15);
    }
    expect(Math.abs(blurred.all / sharp.all - 1)).toBeLessThan(0.02);
  });
  it('at the distance in focus is as sharp as without a lens', async () => {
    const [sharp, focused] = [covered(await draw({ blur: 1e-6 })), covered(await draw({ blur: 12 }))];
    for (const k of [0, 1]) expect(Math.abs(focused.spread[k] / sharp.spread[k] - 1)).toBeLessThan(0.01);
    expect(Math.abs(focused.all / sharp.all - 1)).toBeLessThan(0.01);
  });
});
