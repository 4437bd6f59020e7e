import type { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { randomNumbers } from '#core/model/random-numbers.ts';
import { rayThrough } from '#core/scene/camera.ts';
import type { Camera, Scene } from '#core/scene/document.ts';
import { DrawnBalls } from './drawn-balls.ts';

interface Ball {
  centre: number[];
  radius: number;
  value: number;
}

/** Balls that run into each other, of two values. */
function balls(): Ball[] {
  const random = randomNumbers(11);
  return Array.from({ length: 40 }, (_, i) => ({
    centre: [random() - 0.5, random() - 0.5, 0.6 * (random() - 0.5)].map((v) => Number(v.toFixed(4))),
    radius: Number((0.03 + 0.15 * random()).toFixed(4)),
    value: i % 2,
  }));
}

/** The value of the ball that a ray meets first by the square equation; null where it meets none. */
function firstMet(all: readonly Ball[], { from, along }: ReturnType<typeof rayThrough>): number | null {
  let nearest = Infinity;
  let value: number | null = null;
  for (const ball of all) {
    const to = ball.centre.map((c, k) => c - from[k]);
    const way = to.reduce((sum, v, k) => sum + v * along[k], 0);
    const inside = ball.radius ** 2 - (to.reduce((sum, v) => sum + v * v, 0) - way * way);
    const depth = way - Math.sqrt(inside);
    if (!(depth > 0 && depth < nearest)) continue;
    nearest = depth;
    value = ball.value;
  }
  return value;
}

/** What a pixel shows: one of the two ends of a map from dark to light, or nothing. */
function shownAt({ data, width }: PNG, x: number, y: number): number | null {
  const i = 4 * (y * width + x);
  if (data[i + 3] < 128) return null;
  return data[i] < 150 ? 0 : 1;
}

/** Places in a pixel and a little around it: where all of them meet the same, its picture is certain. */
const AROUND = [-0.25, 0.125, 0.5, 0.875, 1.25].flatMap((dx, _, all) => all.map((dy) => [dx, dy]));

describe('spheres on the picture', () => {
  let drawn: DrawnBalls;
  let scene: Scene;
  const all = balls();

  beforeAll(async () => {
    const rows = all.map(({ centre, radius, value }) => [...centre, 2 * radius, value].join());
    drawn = await DrawnBalls.of(rows);
    scene = drawn.scene;
    expect(scene.layers[0].colour).toMatchObject({ field: 'point:temperature' });
  });
  afterAll(() => drawn.close());

  const cameraAt = (more: Partial<Camera>): Camera => ({
    ...scene.camera,
    position: [0.35, -0.5, 1.1],
    target: [0, 0, 0],
    up: [0, 1, 0],
    ...more,
  });
  it.each([
    ['in perspective, some of them near', { projection: 'perspective', fieldOfView: 55 }, 4096],
    [
      'in perspective, from far away',
      { projection: 'perspective', fieldOfView: 4, position: [5, -7, 16] },
      4096,
    ],
    [
      'rolled and shifted',
      { projection: 'perspective', fieldOfView: 40, roll: 25, shiftAcross: 12, shiftRise: -8 },
      4096,
    ],
    ['in tiles, shifted', { projection: 'perspective', fieldOfView: 45, shiftRise: 15 }, 48],
    ['in parallel projection', { projection: 'parallel', height: 1.1 }, 4096],
    ['in tiles that cut them', { projection: 'perspective', fieldOfView: 45 }, 48],
  ] as const)('have the outline and the depth of spheres %s', async (_, view, tile) => {
    const [width, height] = [180, 130];
    const camera = cameraAt(view as Partial<Camera>);
    const picture = await drawn.draw({
      scene: { ...scene, camera },
      width,
      height,
      passes: 4,
      transparent: true,
      tile,
    });
    let judged = 0;
    const wrong: string[] = [];
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const met = AROUND.map(([dx, dy]) =>
          firstMet(all, rayThrough(camera, (x + dx) / width, (y + dy) / height, width / height)),
        );
        if (new Set(met).size > 1) continue;
        judged++;
        if (shownAt(picture, x, y) !== met[0]) wrong.push(`${x},${y}`);
      }
    expect(wrong).toEqual([]);
    expect(judged / (width * height)).toBeGreaterThan(0.6);
  });
});
