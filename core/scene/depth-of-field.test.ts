import { describe, expect, it } from 'vitest';
import { focalLength, straight } from './camera.ts';
import { spreadAt, thinLens } from './depth-of-field.ts';
import type { Focus } from './things/focus.ts';
import type { Camera } from './things/lens.ts';

const camera: Camera = {
  position: [0, -4000, 0],
  target: [0, 0, 0],
  up: [0, 0, 1],
  projection: 'perspective',
  fieldOfView: 27,
  height: 3,
  ...straight,
};
const focus: Focus = { blur: 5, at: 'target', place: [0, -1000, 300] };

describe('what a lens shows sharply', () => {
  it('is nothing else where it is not open, or sees all alike', () => {
    expect(thinLens(camera, { ...focus, blur: 0 })).toBeNull();
    expect(thinLens({ ...camera, projection: 'parallel' }, focus)).toBeNull();
  });
  it('lies at the target, or at the distance of a place along the axis', () => {
    expect(thinLens(camera, focus)!.distance).toBeCloseTo(4000, 9);
    expect(thinLens(camera, { ...focus, at: 'place' })!.distance).toBeCloseTo(3000, 9);
    // A place behind the camera cannot be sharp.
    expect(thinLens(camera, { ...focus, at: 'place', place: [0, -9000, 0] })!.distance).toBeGreaterThan(0);
  });
  it('is spread nowhere there, and as told very far away', () => {
    const lens = thinLens(camera, focus)!;
    expect(spreadAt(camera, lens, 4000)).toBe(0);
    expect(spreadAt(camera, lens, 4e12)).toBeCloseTo(0.05, 9);
    expect(spreadAt(camera, lens, 2000)).toBeCloseTo(0.05, 9);
  });
  // Gauss's equation of the thin lens, 1/f = 1/s + 1/s', and similar triangles behind the lens (any textbook of optics).
  it.each([900, 2500, 3999, 6000, 50_000])(
    'spreads a point %d mm away as the equation of lenses says',
    (depth) => {
      const lens = thinLens(camera, focus)!;
      // The lens that opens by this angle when it is focused at that distance, in millimetres.
      const image = focalLength(camera.fieldOfView);
      const f = 1 / (1 / image + 1 / lens.distance);
      const sharp = 1 / (1 / f - 1 / lens.distance);
      const own = 1 / (1 / f - 1 / depth);
      const circle = (2 * lens.radius * Math.abs(own - sharp)) / own;
      expect(sharp).toBeCloseTo(image, 6);
      expect(spreadAt(camera, lens, depth)).toBeCloseTo(circle / 24, 9);
    },
  );
});
