import type { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { toLinear } from '#core/model/srgb.ts';
import type { Scene } from '#core/scene/document.ts';
import { even } from '#core/scene/reel/ease.ts';
import { DrawnBalls, fromFront } from './drawn-balls.ts';

const SIZE = { width: 160, height: 40 };
/** Units of the model from the top to the foot of the picture; its pixels are square. */
const HEIGHT = 1;
const PIXELS_A_UNIT = SIZE.height / HEIGHT;
/** Of the film, pictures a second; and how fast the camera goes to the right, in units a second. */
const RATE = 10;
const SPEED = 12;

/** All that lies to the left of the middle. */
const WALL = 'o wall\nv -9 0 -9\nv 0 0 -9\nv 0 0 9\nv -9 0 9\nf 1 2 3 4\n';

describe('a shutter', () => {
  let wall: DrawnBalls;
  beforeAll(async () => {
    const balls = await DrawnBalls.of(['0,0,0,1,20']);
    wall = await balls.others({ 'wall.obj': Buffer.from(WALL) });
  });
  afterAll(() => wall.close());

  /** The wall in white before black, as the camera goes past it evenly; in the middle of the film it looks at its edge. */
  function film(shutter: number): Scene {
    const camera = fromFront(HEIGHT);
    const key = (at: number) => {
      const aside = SPEED * (at - 1);
      const moved = ([x, y, z]: Scene['camera']['target']): Scene['camera']['target'] => [x + aside, y, z];
      const value = { ...camera, target: moved(camera.target), position: moved(camera.position) };
      return { at, value, ease: even };
    };
    return {
      ...wall.scene,
      backdrop: { ...wall.scene.backdrop, kind: 'own', top: '#000000', foot: '#000000' },
      layers: wall.scene.layers.map((l) => ({
        ...l,
        colour: { kind: 'plain', colour: '#ffffff' },
        sides: 'both',
        edges: { ...l.edges, shown: false },
      })),
      reel: { ...wall.scene.reel, seconds: 2, rate: RATE, shutter },
      lanes: [
        { id: 'camera', of: ['camera'], off: false, smooth: false, steady: false, keys: [key(0), key(2)] },
      ],
    };
  }

  const drawn = (scene: Scene, passes: number): Promise<PNG> =>
    wall.draw({ scene, film: 1, passes, transparent: false, ...SIZE });

  /** Light along a row, 0..1. */
  const row = ({ data, width }: PNG): number[] =>
    Array.from({ length: width }, (_, x) => toLinear(data[4 * (20 * width + x)] / 255));

  it('lets as much light through at each place as what moves past it evenly leaves in its time', async () => {
    for (const shutter of [90, 180, 360]) {
      const light = row(await drawn(film(shutter), 32));
      // While the camera goes to the right, the edge goes to the left, from the middle on.
      const way = (SPEED * PIXELS_A_UNIT * shutter) / 360 / RATE;
      for (const [x, found] of light.entries()) {
        const wanted = Math.min(1, Math.max(0, (SIZE.width / 2 - (x + 0.5)) / way));
        // One of sixteen moments, and the edge of a pixel on either side.
        expect(Math.abs(found - wanted)).toBeLessThan(1 / 16 + 1.2 / way);
      }
      // Both together: so much of the wall is seen as it covers in the mean of the time.
      const all = light.reduce((sum, l) => sum + l, 0);
      expect(Math.abs(all - (SIZE.width / 2 - way / 2))).toBeLessThan(1);
    }
  });

  it('aside, soft light does not flicker: what stands still is the same to the level from picture to picture', async () => {
    const { scene } = wall;
    const soft: Scene = {
      ...scene,
      light: { ...scene.light, rig: 'overcast' },
      floor: { ...scene.floor, kind: 'shadow' },
      reel: { ...scene.reel, seconds: 2, rate: RATE },
      // Something has to move; it is seen nowhere.
      lanes: [
        {
          id: 'x',
          of: ['stamp', 'x'],
          off: false,
          smooth: false,
          steady: false,
          keys: [0, 2].map((at) => ({ at, value: at / 2, ease: even })),
        },
      ],
    };
    const picture = async (film: number): Promise<PNG> =>
      wall.draw({ scene: soft, film, passes: 6, transparent: false, ...SIZE });
    const [one, next] = [await picture(0.5), await picture(0.6)];
    expect(next.data.equals(one.data)).toBe(true);
    // The light is drawn by chance: with other passes it is not the same.
    const other = await wall.draw({ scene: soft, film: 0.5, passes: 7, transparent: false, ...SIZE });
    expect(other.data.equals(one.data)).toBe(false);
  });

  it('that is not open leaves the edge as it is at the time of the picture', async () => {
    const light = row(await drawn(film(0), 16));
    for (const [x, found] of light.entries())
      if (Math.abs(x + 0.5 - SIZE.width / 2) > 1.5) expect(found).toBe(x < SIZE.width / 2 ? 1 : 0);
  });
});
