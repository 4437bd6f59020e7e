import { afterAll, beforeAll, expect, it } from 'vitest';
import { toLinear } from '#core/model/srgb.ts';
import type { Vector } from '#core/model/vectors.ts';
import { projectPoint } from '#core/scene/camera.ts';
import type { Scene } from '#core/scene/document.ts';
import { DrawnBalls, fromFront } from './drawn-balls.ts';

const SIZE = { width: 240, height: 240 };
/** Of the wall; and how far wall and ground reach to either side. */
const HIGH = 1;
const WIDE = 3;
/** What lies in the way counts so much at most (see 'MOST_CONTACT'). */
const CONTACT = 0.97;

const CORNER = `o ground
v 0 -3 0
v 3 -3 0
v 3 3 0
v 0 3 0
f 1 2 3 4
o wall
v 0 -3 0
v 0 3 0
v 0 3 1
v 0 -3 1
f 5 6 7 8
`;

/**
 * Share of all that a level element would get of an even sky that an upright rectangle takes away (configuration factor
 * of a plane element to a rectangle at a right angle to it; Siegel and Howell, "Thermal Radiation Heat Transfer", from memory).
 *
 * @param away of the element from the plane of the rectangle
 * @param wide of the rectangle to one side of the element
 */
function taken(away: number, high: number, wide: number): number {
  const slant = Math.hypot(away, high);
  return (Math.atan(wide / away) - (away / slant) * Math.atan(wide / slant)) / (2 * Math.PI);
}

let balls: DrawnBalls;
let corner: DrawnBalls;
beforeAll(async () => {
  balls = await DrawnBalls.of(['0,0,0,1,20']);
  corner = await balls.others({ 'corner.obj': Buffer.from(CORNER) });
});
afterAll(() => balls.close());

it('the ground before a wall gets of an even sky what the wall leaves of it', async () => {
  const { scene } = corner;
  const camera = { ...fromFront(5, [1, -0.3, 1.2]), target: [1.2, 0, 0] as Vector };
  const of = (parts: string[]): Scene => ({
    ...scene,
    camera,
    light: { ...scene.light, rig: 'tent', contact: 1 },
    layers: scene.layers.slice(0, 1).map((l) => ({
      ...l,
      parts,
      sides: 'both',
      colour: { kind: 'plain', colour: '#ffffff' },
      edges: { ...l.edges, shown: false },
    })),
  });
  const draw = (parts: string[], passes: number) =>
    corner.draw({ scene: of(parts), passes, transparent: false, ...SIZE });
  const free = await draw(['ground'], 8);
  const shaded = await draw(['ground', 'wall'], 128);
  for (const [x, y] of [
    [0.2, 0],
    [0.4, 0.5],
    [0.7, 0],
    [1, -1],
    [1.5, 0],
    [2.2, 1],
  ]) {
    const at = projectPoint(camera, [x, y, 0], 1);
    const pixel = 4 * (Math.floor(at.y * SIZE.height) * SIZE.width + Math.floor(at.x * SIZE.width));
    const [light, whole] = [shaded, free].map((png) => toLinear(png.data[pixel] / 255));
    const left = light / whole;
    const wanted = 1 - CONTACT * (taken(x, HIGH, WIDE - y) + taken(x, HIGH, WIDE + y));
    expect(Math.abs(left - wanted), `${x} ${y}: ${left} for ${wanted}`).toBeLessThan(0.025);
  }
});
