import { describe, expect, it } from 'vitest';
import { dot, lengthOf, subtract, type Vector } from '../model/vectors.ts';
import { cameraAxes, focalLength, openingOf, projectPoint, rayThrough, straight } from './camera.ts';
import { cameraBetween, lookAround, orbit, walk, zoomAt } from './camera-moves.ts';
import type { Camera } from './things/lens.ts';

/** Level, looking along +y. */
const level: Camera = {
  position: [0, -5, 1],
  target: [0, 0, 1],
  up: [0, 0, 1],
  projection: 'perspective',
  fieldOfView: 40,
  height: 3,
  ...straight,
};
const ASPECT = 1.6;

describe('a lens', () => {
  // Vertical angles of view of lenses for frames of 36 × 24 mm, as tables of photography have them (from memory).
  it.each([
    [24, 53.1],
    [35, 37.8],
    [50, 27],
    [85, 16.1],
    [135, 10.2],
    [200, 6.87],
  ])('of %d mm opens by %d°', (focal, angle) => {
    expect(openingOf(focal)).toBeCloseTo(angle, 1);
    expect(focalLength(openingOf(focal))).toBeCloseTo(focal, 9);
  });

  it('that is shifted shows another piece of the same larger picture', () => {
    const shifted = { ...level, shiftAcross: 20, shiftRise: 30 };
    for (const place of [
      [0.4, 2, 1.7],
      [-1, -1, 0.2],
      [0, 9, 1],
    ] as Vector[]) {
      const [a, b] = [projectPoint(level, place, ASPECT), projectPoint(shifted, place, ASPECT)];
      expect(b.x).toBeCloseTo(a.x - 0.2 / ASPECT, 12);
      expect(b.y).toBeCloseTo(a.y + 0.3, 12);
      expect(b.depth).toBe(a.depth);
    }
  });
  it('shifted upwards keeps upright edges upright, which a camera that looks up does not', () => {
    const foot: Vector = [1, 0, 0];
    const top: Vector = [1, 0, 3];
    const lean = (camera: Camera): number =>
      projectPoint(camera, top, ASPECT).x - projectPoint(camera, foot, ASPECT).x;
    expect(lean({ ...level, shiftRise: 40 })).toBeCloseTo(0, 12);
    expect(Math.abs(lean({ ...level, target: [0, 0, 2] }))).toBeGreaterThan(0.01);
  });
  it('in parallel projection has no shift', () => {
    const parallel: Camera = { ...level, projection: 'parallel', shiftAcross: 20 };
    expect(projectPoint(parallel, [0, 0, 1], ASPECT).x).toBe(0.5);
  });

  it('rolled clockwise turns the picture the other way, and looks where it looked', () => {
    const rolled = { ...level, roll: 90 };
    const right = projectPoint(level, [1, 0, 1], ASPECT);
    const seen = projectPoint(rolled, [1, 0, 1], ASPECT);
    // What was to the right is now above.
    expect(seen.x).toBeCloseTo(0.5, 12);
    expect(0.5 - seen.y).toBeCloseTo((right.x - 0.5) * ASPECT, 12);
    expect(cameraAxes(rolled).back).toEqual(cameraAxes(level).back);
    const { right: r, up, back } = cameraAxes({ ...level, roll: 33 });
    for (const [a, b] of [
      [r, up],
      [up, back],
      [back, r],
    ])
      expect(dot(a, b)).toBeCloseTo(0, 12);
    expect(lengthOf(r)).toBeCloseTo(1, 12);
  });

  const bent: Camera = { ...level, roll: -40, shiftAcross: -15, shiftRise: 25 };
  it.each([
    ['plain', level],
    ['rolled and shifted', bent],
    ['parallel and rolled', { ...bent, projection: 'parallel' as const }],
  ])('%s: a ray through a place on the picture meets what is seen there', (_, camera) => {
    for (const place of [
      [0.4, 2, 1.7],
      [-1, -1, 0.2],
    ] as Vector[]) {
      const { x, y } = projectPoint(camera, place, ASPECT);
      const { from, along } = rayThrough(camera, x, y, ASPECT);
      const away = subtract(place, from);
      const beside = subtract(away, along.map((v) => v * dot(away, along)) as Vector);
      expect(lengthOf(beside)).toBeLessThan(1e-9);
    }
  });
  it('comes nearer to what is under the cursor, also rolled and shifted', () => {
    for (const camera of [level, bent]) {
      // At the distance of the target.
      const { from, along } = rayThrough(camera, 0.7, 0.2, ASPECT);
      const place = from.map((v, k) => v + (5 / along[1]) * along[k]) as Vector;
      const near = zoomAt(camera, 0.5, 0.2 * ASPECT, 0.3);
      const { x, y } = projectPoint(near, place, ASPECT);
      expect([x, y].map((v) => v.toFixed(9))).toEqual(['0.700000000', '0.200000000']);
    }
  });
  it('stays where it is while it looks around, and shows what was in the middle further right when dragged there', () => {
    const pole: Vector = [0, 0, 1];
    const turned = lookAround(level, 0.2, 0.1, pole);
    expect(turned.position).toEqual(level.position);
    expect(lengthOf(subtract(turned.target, turned.position))).toBeCloseTo(5, 12);
    const { x, y } = projectPoint(turned, level.target, ASPECT);
    expect(x).toBeGreaterThan(0.55);
    expect(y).toBeGreaterThan(0.55);
    // All the way round, and never past what is up.
    const back = lookAround(lookAround(level, Math.PI, 0, pole), Math.PI, 0, pole);
    back.target.forEach((v, k) => void expect(v).toBeCloseTo(level.target[k], 9));
    const high = lookAround(level, 0, 9, pole);
    expect(cameraAxes(high).up[2]).toBeGreaterThan(0);
  });
  it('goes on to where it looks, to its right and up, with what it looks at', () => {
    const gone = walk(level, { ahead: 2, aside: 0.5, rise: 0.25 }, [0, 0, 1]);
    expect(gone.position).toEqual([0.5, -3, 1.25]);
    expect(gone.target).toEqual([0.5, 2, 1.25]);
    expect(walk(level, {}, [0, 0, 1]).position).toEqual(level.position);
  });
  it('keeps roll and shift while it goes round, and blends them on its way', () => {
    const round = orbit(bent, 0.4, 0.2, [0, 0, 1]);
    expect(round).toMatchObject({ roll: -40, shiftAcross: -15, shiftRise: 25 });
    expect(round.position).toEqual(orbit(level, 0.4, 0.2, [0, 0, 1]).position);
    expect(cameraBetween(level, bent, 0.5)).toMatchObject({ roll: -20, shiftAcross: -7.5, shiftRise: 12.5 });
  });
});
