import type { PNG } from 'pngjs';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { unit, type Vector } from '#core/model/vectors.ts';
import type { Scene } from '#core/scene/document.ts';
import { firstLamp, lampForHighlight } from '#core/scene/light-rigs/placed.ts';
import { DrawnBalls, fromFront } from './drawn-balls.ts';

const SIZE = { width: 120, height: 120 };

let balls: DrawnBalls;
let scene: Scene;
beforeAll(async () => {
  balls = await DrawnBalls.of(['0,0,0,1.6,20']);
  scene = {
    ...balls.scene,
    layers: balls.scene.layers.map((l) => ({
      ...l,
      colour: { kind: 'plain', colour: '#404040' } as const,
      finish: 'gloss-paint',
    })),
    camera: fromFront(2),
  };
});
afterAll(() => balls.close());

/** The middle of what is brightest, from the middle of the picture, in units of the model. */
function highlight({ data, width, height }: PNG): [number, number] {
  let [sum, x, y] = [0, 0, 0];
  let most = 0;
  for (let i = 0; i < data.length; i += 4) most = Math.max(most, data[i]);
  for (let i = 0; i < width * height; i++) {
    const above = Math.max(0, data[4 * i] - 0.8 * most);
    sum += above;
    x += above * ((i % width) + 0.5);
    y += above * (Math.floor(i / width) + 0.5);
  }
  return [(2 * (x / sum)) / width - 1, 1 - (2 * (y / sum)) / height];
}

it('lights throw their highlights where they were placed', async () => {
  for (const [x, z] of [
    [-0.3, 0.3],
    [0.2, 0.4],
    [0.35, -0.1],
  ]) {
    const place: Vector = [x, -Math.sqrt(0.64 - x * x - z * z), z];
    const lamp = { ...firstLamp, wide: 6, ...lampForHighlight(unit(place), [0, -1, 0], [0, 0, 1]) };
    const light = { ...scene.light, rig: 'placed', lights: [lamp], shadow: false };
    const png = await balls.draw({ scene: { ...scene, light }, passes: 16, transparent: true, ...SIZE });
    const [found, rise] = highlight(png);
    expect(Math.hypot(found - x, rise - z), `${x} ${z}: ${found} ${rise}`).toBeLessThan(0.03);
  }
});

it('more lights than drafts know of are drawn, and the picture at rest shares its light among all', async () => {
  const lights = Array.from({ length: 8 }, (_, i) => ({ ...firstLamp, turn: 45 * i - 180, rise: 60 }));
  const at = async (some: typeof lights): Promise<number> => {
    const light = { ...scene.light, rig: 'placed', lights: some, shadow: false };
    const layers = scene.layers.map((l) => ({ ...l, finish: null }));
    const png = await balls.draw({
      scene: { ...scene, light, layers },
      passes: 32,
      transparent: true,
      ...SIZE,
    });
    // As much of its top faces the one at the side as it faces all of them in the mean.
    return png.data[4 * (60 + 120 * 14)];
  };
  const [one, all] = [await at([lights[4]]), await at(lights)];
  expect(Math.abs(one - all)).toBeLessThan(10);
});
