import type { PNG } from 'pngjs';
import { afterAll, beforeAll, expect, it } from 'vitest';
import type { Scene } from '#core/scene/document.ts';
import { DrawnBalls, fromFront } from './drawn-balls.ts';

const SIZE = { width: 160, height: 120 };
/** How far from the edge, in pixels, light that few passes left grainy is smoothed from the other side. */
const REACH = 17;

let balls: DrawnBalls;
let scene: Scene;
beforeAll(async () => {
  balls = await DrawnBalls.of(['-0.4,0,0.5,0.9,20', '0.4,0,0.5,0.9,25', '0,0,1.2,0.5,30']);
  const [line] = balls.scene.layers;
  const smaller = line.chain.map((s) => ({ ...s, options: { ...(s.options as object), factor: 0.6 } }));
  scene = {
    ...balls.scene,
    light: { ...balls.scene.light, rig: 'studio' },
    floor: { ...balls.scene.floor, kind: 'mirror' },
    ink: { ...balls.scene.ink, shown: true },
    camera: { ...fromFront(2.6, [0.3, -1, 0.35]), target: [0, 0, 0.5] },
    wipe: { ...balls.scene.wipe, edge: false },
    layers: [
      { ...line, id: 'before', wipe: 'before', colour: { kind: 'plain', colour: '#b5432a' } },
      { ...line, id: 'after', wipe: 'after', chain: smaller, colour: { kind: 'plain', colour: '#2a6fb5' } },
    ],
  };
});
afterAll(() => balls.close());

const draw = (of: Scene, more: { tile?: number; passes?: number } = {}): Promise<PNG> =>
  balls.draw({ scene: of, passes: 8, transparent: false, ...SIZE, ...more });

/** The scene as if one side of its wipe were all of it. */
const only = (side: 'before' | 'after', of: Scene): Scene => ({
  ...of,
  layers: of.layers.filter((l) => l.wipe === side).map((l) => ({ ...l, wipe: 'both' })),
});

/** Greatest difference of two pictures where a place is wanted, in levels of 255. */
function difference(a: PNG, b: PNG, wanted: (x: number, y: number) => boolean): number {
  let most = 0;
  for (let i = 0; i < a.data.length; i++) {
    const pixel = i >> 2;
    if (wanted(pixel % a.width, Math.floor(pixel / a.width)))
      most = Math.max(most, Math.abs(a.data[i] - b.data[i]));
  }
  return most;
}

it('each side of a wipe is the picture of its own lines: light, shadow, mirror and ink too', async () => {
  const [before, after] = [await draw(only('before', scene)), await draw(only('after', scene))];
  expect(difference(before, after, () => true)).toBeGreaterThan(60);
  for (const way of ['across', 'upwards'] as const) {
    const wiped = await draw({ ...scene, wipe: { ...scene.wipe, place: 0.45, way } });
    const beyond = (x: number, y: number): number =>
      way === 'across' ? x + 0.5 - 0.45 * SIZE.width : SIZE.height - y - 0.5 - 0.45 * SIZE.height;
    expect(difference(wiped, before, (x, y) => beyond(x, y) < -REACH)).toBeLessThanOrEqual(1);
    expect(difference(wiped, after, (x, y) => beyond(x, y) > REACH)).toBeLessThanOrEqual(1);
    // Up to the edge itself but for that smoothing.
    expect(difference(wiped, before, (x, y) => beyond(x, y) < 0)).toBeLessThan(40);
    expect(difference(wiped, after, (x, y) => beyond(x, y) > 0)).toBeLessThan(40);
  }
});

it('the first and the last of a wipe are the pictures of its sides', async () => {
  for (const [side, place] of [
    ['before', 1],
    ['after', 0],
  ] as const) {
    const wiped = await draw({ ...scene, wipe: { ...scene.wipe, place } }, { passes: 2 });
    expect(difference(wiped, await draw(only(side, scene), { passes: 2 }), () => true)).toBeLessThanOrEqual(
      1,
    );
  }
});

it('is the same drawn in tiles, and with what is seen through', async () => {
  const glass: Scene = {
    ...scene,
    ink: { ...scene.ink, shown: false },
    layers: scene.layers.map((l) => ({ ...l, opacity: 0.5 })),
  };
  const wiped = { ...glass, wipe: { ...glass.wipe, place: 0.45 } };
  const whole = await draw(wiped);
  expect(difference(whole, await draw(wiped, { tile: 64 }), () => true)).toBeLessThanOrEqual(2);
  const before = await draw(only('before', glass));
  expect(difference(whole, before, (x) => x < 0.45 * SIZE.width - REACH)).toBeLessThanOrEqual(1);
});

it('has an edge of its colour', async () => {
  const wipe = { ...scene.wipe, edge: true, colour: '#40ff00', place: 0.5 };
  const { data } = await draw({ ...scene, wipe }, { passes: 1 });
  for (const y of [2, 60, 117]) {
    const row = data.subarray(4 * 160 * y, 4 * 160 * (y + 1));
    expect([...row.subarray(4 * 79, 4 * 79 + 3)]).toEqual([0x40, 0xff, 0]);
  }
});
