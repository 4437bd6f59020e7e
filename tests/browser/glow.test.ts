import type { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { finishById } from '#core/light/finishes/registry.ts';
import { ownLike } from '#core/light/own-finish.ts';
import { toLinear } from '#core/model/srgb.ts';
import type { Scene } from '#core/scene/document.ts';
import { DrawnBalls, fromFront } from './drawn-balls.ts';

const SIZE = { width: 200, height: 200 };
const RADIUS = 0.2;
/** Light of the ball, in whites. */
const SHINES = 3;

describe('a body brighter than white', () => {
  let balls: DrawnBalls;
  let scene: Scene;

  beforeAll(async () => {
    balls = await DrawnBalls.of([`0,0,0,${2 * RADIUS},20`]);
    const shining = {
      ...ownLike(finishById('matte-paint')!, 'shining'),
      colour: '#ffffff',
      roughness: 1,
      glow: SHINES,
    };
    scene = {
      ...balls.scene,
      // Nothing shines but the ball.
      light: { ...balls.scene.light, rig: 'placed', lights: [], fill: 0, strength: 0, contact: 0 },
      backdrop: { ...balls.scene.backdrop, kind: 'own', top: '#000000', foot: '#000000' },
      layers: balls.scene.layers.map((l) => ({
        ...l,
        colour: { kind: 'plain', colour: '#ffffff' } as const,
        finish: shining,
      })),
      camera: fromFront(2),
    };
  });
  afterAll(() => balls.close());

  const draw = (glow: Partial<Scene['glow']>, more: object = {}): Promise<PNG> =>
    balls.draw({
      scene: { ...scene, glow: { ...scene.glow, ...glow } },
      passes: 8,
      transparent: false,
      ...SIZE,
      ...more,
    });
  const light = ({ data, width }: PNG, x: number, y = 0): number =>
    toLinear(data[4 * (Math.round(100 - 100 * y) * width + Math.round(100 + 100 * x))] / 255);

  /** A disc of light above white, spread by a Gaussian, at a distance from its middle. */
  function spread(distance: number, deviation: number): number {
    let sum = 0;
    const step = RADIUS / 100;
    for (let x = -RADIUS; x <= RADIUS; x += step)
      for (let y = -RADIUS; y <= RADIUS; y += step)
        if (x * x + y * y <= RADIUS * RADIUS)
          sum += Math.exp(-((x - distance) ** 2 + y * y) / (2 * deviation * deviation));
    return ((SHINES - 1) * sum * step * step) / (2 * Math.PI * deviation * deviation);
  }

  it('is dark around without glow, and with it as bright as its light spread by a Gaussian', async () => {
    expect(light(await draw({}), 0.3)).toBe(0);
    for (const reach of [4, 8]) {
      const png = await draw({ strength: 0.8, reach });
      for (const x of [0.26, 0.32, 0.4]) {
        // The picture is two units high.
        const expected = 1 - Math.exp(-0.8 * spread(x, 0.02 * reach));
        const found = light(png, x);
        expect(Math.abs(found - expected), `${reach} ${x}: ${found} ${expected}`).toBeLessThan(
          0.01 + 0.06 * expected,
        );
        // Alike to all sides.
        expect(Math.abs(light(png, 0, x) - found)).toBeLessThan(0.03 + 0.05 * found);
      }
    }
  });
  it('glows in tiles as it does in one piece', async () => {
    const [whole, tiled] = [
      await draw({ strength: 1, reach: 6 }),
      await draw({ strength: 1, reach: 6 }, { tile: 64 }),
    ];
    let most = 0;
    for (let i = 0; i < whole.data.length; i++)
      most = Math.max(most, Math.abs(whole.data[i] - tiled.data[i]));
    expect(most).toBeLessThanOrEqual(1);
  });
  it('that shows values does not glow, and a glow spares them', async () => {
    const values = { ...scene, layers: balls.scene.layers, glow: { ...scene.glow, strength: 2, reach: 6 } };
    const png = await balls.draw({ scene: values, passes: 4, transparent: false, ...SIZE });
    expect(light(png, 0.3)).toBe(0);
  });
});
