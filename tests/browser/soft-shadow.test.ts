import type { PNG } from 'pngjs';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { toLinear } from '#core/model/srgb.ts';
import { add, cross, dot, subtract, times, unit, type Vector } from '#core/model/vectors.ts';
import { projectPoint } from '#core/scene/camera.ts';
import type { Scene } from '#core/scene/document.ts';
import { firstLamp } from '#core/scene/light-rigs/placed.ts';
import { DrawnBalls, floorDarkens, fromFront } from './drawn-balls.ts';

const SIZE = { width: 240, height: 240 };
const RADIUS = 0.2;
/** Of the middle of the ball above the floor. */
const HIGH = 0.7;
const GREY = '#808080';

describe('the shadow of a ball under a light of some width', () => {
  let balls: DrawnBalls;
  let scene: Scene;

  beforeAll(async () => {
    balls = await DrawnBalls.of([`0,0,0,${2 * RADIUS},20`]);
    scene = {
      ...balls.scene,
      backdrop: { ...balls.scene.backdrop, kind: 'own', top: GREY, foot: GREY },
      floor: { ...balls.scene.floor, kind: 'plain', colour: GREY, height: RADIUS - HIGH },
      camera: { ...fromFront(2.4, [0, -1, 1]), target: [0, -0.3, -HIGH] },
    };
  });
  afterAll(() => balls.close());

  /** Share of a round light that is seen past the ball from a place (each place on its face: whether a ray meets a ball, exactly). */
  function seen(place: Vector, towards: Vector, wide: number): number {
    const side = unit(cross(towards, [0, 0, 1]));
    const rise = cross(side, towards);
    const size = Math.sin((wide * Math.PI) / 360);
    let [free, all] = [0, 0];
    for (let i = 0; i < 60; i++)
      for (let k = 0; k < 90; k++) {
        const r = Math.sqrt((i + 0.5) / 60) * size;
        const turn = (2 * Math.PI * k) / 90;
        const ray = unit(add(towards, add(times(side, r * Math.cos(turn)), times(rise, r * Math.sin(turn)))));
        const along = -dot(place, ray);
        const nearest = add(place, times(ray, along));
        all++;
        if (along < 0 || dot(nearest, nearest) > RADIUS * RADIUS) free++;
      }
    return free / all;
  }

  const lightAt = ({ data, width }: PNG, place: Vector): number => {
    const { x, y } = projectPoint(scene.camera, place, 1);
    const i = 4 * (Math.floor(y * SIZE.height) * width + Math.floor(x * SIZE.width));
    return toLinear(data[i] / 255) / toLinear(0x80 / 255);
  };

  it('is as dark at each place as the share of the light that the ball hides from it', async () => {
    for (const wide of [10, 24]) {
      const lamp = { ...firstLamp, turn: 90, rise: 55, wide };
      const light = { ...scene.light, rig: 'placed', lights: [lamp], fill: 0, contact: 0, shadow: true };
      const png = await balls.draw({ scene: { ...scene, light }, passes: 96, transparent: false, ...SIZE });
      const angle = (55 * Math.PI) / 180;
      const towards: Vector = [0, Math.cos(angle), Math.sin(angle)];
      const middle = subtract([0, 0, 0], times(towards, HIGH / towards[2]));
      let worst = 0;
      for (const [x, y] of [
        [0, 0],
        [0.08, 0],
        [0.16, 0],
        [0.2, 0],
        [0.24, 0],
        [0.3, 0],
        [-0.2, 0.05],
        [0, -0.2],
        [0, -0.3],
        [0.12, -0.12],
        [0.6, -0.1],
      ]) {
        const place: Vector = [middle[0] + x, middle[1] + y, -HIGH];
        const darkens = floorDarkens(place, Math.sqrt(3) * RADIUS);
        const expected = 1 - (1 - seen(place, towards, wide)) * darkens;
        worst = Math.max(worst, Math.abs(lightAt(png, place) - expected));
      }
      expect(worst, `${wide}`).toBeLessThan(0.05);
    }
  });
});
