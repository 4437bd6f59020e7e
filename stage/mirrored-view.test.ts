import { Matrix4, type PerspectiveCamera, Vector3, Vector4 } from 'three';
import { describe, expect, it } from 'vitest';
import { unit, type Vector } from '#core/model/vectors.ts';
import { mirroredCamera, mirroring, seesLevel } from './mirrored-view.ts';
import { threeCamera } from './three-camera.ts';

const level = { up: unit([0.2, -0.1, 1]), height: 0.4 };
const n = new Vector3(...level.up);
/** A point of the mirror. */
const touching = (a: number, b: number): Vector3 => {
  const side = new Vector3(1, 0, 0).projectOnPlane(n).normalize();
  return n
    .clone()
    .multiplyScalar(level.height)
    .addScaledVector(side, a)
    .addScaledVector(new Vector3().crossVectors(n, side), b);
};
const camera = () =>
  threeCamera(
    {
      position: [3, -4, 2.5],
      target: [0, 0, 0.4],
      up: [0, 0, 1],
      projection: 'perspective',
      fieldOfView: 30,
      height: 2,
      roll: 0,
      shiftAcross: 0,
      shiftRise: 0,
    },
    [0, 0, 0],
    1.5,
    new Vector3().toArray() as Vector,
    6,
  );

describe('a level mirror', () => {
  it('shows a place as far below as it stands above', () => {
    const matrix = mirroring(level, unit([1, -1, 1]), [0, 0]);
    const place = new Vector3(0.3, -0.7, 2);
    const seen = place.clone().applyMatrix4(matrix);
    expect(seen.dot(n) + place.dot(n)).toBeCloseTo(2 * level.height, 12);
    expect(seen.clone().sub(place).cross(n).length()).toBeCloseTo(0, 12);
  });
  it('leaves where it is what touches it, however rough', () => {
    const matrix = mirroring(level, unit([1, -1, 0.4]), [0.2, -0.1]);
    for (const [a, b] of [
      [0, 0],
      [3, -2],
      [-1, 5],
    ]) {
      const place = touching(a, b);
      expect(place.clone().applyMatrix4(matrix).distanceTo(place)).toBeLessThan(1e-12);
    }
  });
  // By the law of reflection, exactly: the look -d about the normal of the facet.
  it.each([
    ['along the look', [0.002, 0]],
    ['across it', [0, 0.002]],
  ] as const)('tilted a little %s turns what it mirrors as the law of reflection says', (_, [p, q]) => {
    const up = new Vector3(0, 0, 1);
    const look = new Vector3(1, 0, 0.8).normalize();
    const matrix = mirroring({ up: [0, 0, 1], height: 0 }, look.toArray() as Vector, [p, q]);
    const facet = up
      .clone()
      .add(new Vector3(-p, -q, 0))
      .normalize();
    const out = look.clone().negate().reflect(facet);
    // A place that the tilted facet at the origin mirrors towards the eye is seen there, straight on.
    const place = out.multiplyScalar(1 / out.z);
    const seen = place.clone().applyMatrix4(matrix);
    const missed = seen.clone().addScaledVector(look, -seen.dot(look)).length();
    const unmoved = place.clone().applyMatrix4(mirroring({ up: [0, 0, 1], height: 0 }, [1, 0, 0], [0, 0]));
    expect(missed).toBeLessThan(0.02 * unmoved.addScaledVector(look, -unmoved.dot(look)).length());
  });
});

describe('the camera that sees the mirrored world', () => {
  const clip = (made: PerspectiveCamera, place: Vector3): Vector4 =>
    new Vector4(...place.toArray(), 1).applyMatrix4(
      new Matrix4().multiplyMatrices(made.projectionMatrix, made.matrixWorldInverse),
    );
  const matrix = mirroring(level, unit([1, -1, 1]), [0.05, 0.02]);
  it('sees what touches the mirror where the other one sees it, also with its near plane moved', () => {
    for (const cut of [false, true]) {
      const [plain, made] = [camera(), mirroredCamera(camera(), level, matrix, cut)] as PerspectiveCamera[];
      const place = touching(0.4, -0.3);
      const [a, b] = [clip(plain, place), clip(made, place)];
      expect(b.x / b.w).toBeCloseTo(a.x / a.w, 9);
      expect(b.y / b.w).toBeCloseTo(a.y / a.w, 9);
    }
  });
  it('cuts away what is below the mirror, and keeps the order of what is above', () => {
    const made = mirroredCamera(camera(), level, matrix, true) as PerspectiveCamera;
    const depth = (along: number): number => {
      const c = clip(made, touching(0.4, -0.3).addScaledVector(n, along));
      return c.z / c.w;
    };
    expect(depth(-0.01)).toBeLessThan(-1);
    expect(depth(0)).toBeCloseTo(-1, 6);
    expect(depth(0.2)).toBeGreaterThan(-1);
    expect(depth(0.5)).toBeGreaterThan(depth(0.2));
  });
  it('is asked for only where the mirror is seen from above', () => {
    expect(seesLevel(camera(), level)).toBe(true);
    expect(seesLevel(camera(), { ...level, height: 3.5 })).toBe(false);
  });
});
