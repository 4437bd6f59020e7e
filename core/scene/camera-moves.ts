import { add, cross, dot, lengthOf, subtract, times, unit, type Vector } from '../model/vectors.ts';
import { cameraAxes, halfHeight, lensShift } from './camera.ts';
import type { Camera } from './things/lens.ts';

/** A vector turned around a unit axis by an angle in radians (Rodrigues' formula). */
export function rotate(v: Vector, axis: Vector, angle: number): Vector {
  const c = Math.cos(angle);
  const s = Math.sin(angle);
  return add(add(times(v, c), times(cross(axis, v), s)), times(axis, dot(axis, v) * (1 - c)));
}

/**
 * Turns the camera around its target: sideways about `pole`, up and down about its own right, stopping short of
 * the poles.
 *
 * @param across, down angles in radians
 */
export function orbit(camera: Camera, across: number, down: number, pole: Vector): Camera {
  const arm = subtract(camera.position, camera.target);
  const turned = rotate(arm, pole, -across);
  const { right } = cameraAxes({
    ...camera,
    position: add(camera.target, turned),
    up: rotate(camera.up, pole, -across),
    roll: 0,
  });
  const height = Math.asin(Math.max(-1, Math.min(1, dot(unit(turned), pole))));
  const limit = Math.PI / 2 - 0.01;
  const tilt = Math.max(-limit, Math.min(limit, height + down)) - height;
  const raised = rotate(turned, right, -tilt);
  return { ...camera, position: add(camera.target, raised), up: pole };
}

/**
 * Turns the view about the eye, as a head turns: what is dragged to the right comes to the right.
 *
 * @param across, down angles in radians
 */
export function lookAround(camera: Camera, across: number, down: number, pole: Vector): Camera {
  const round = orbit(camera, -across, -down, pole);
  const arm = subtract(round.position, round.target);
  return { ...round, position: camera.position, target: subtract(camera.position, arm) };
}

/** Goes on by lengths in the unit of the model: where one looks to, to the right, and up along `pole`. */
export function walk(
  camera: Camera,
  { ahead = 0, aside = 0, rise = 0 }: { ahead?: number; aside?: number; rise?: number },
  pole: Vector,
): Camera {
  const { back, right } = cameraAxes(camera);
  const way = add(add(times(back, -ahead), times(right, aside)), times(pole, rise));
  return { ...camera, position: add(camera.position, way), target: add(camera.target, way) };
}

/** Height of the picture in model units at the depth of the target. */
export function heightAtTarget(camera: Camera): number {
  return 2 * halfHeight(camera, lengthOf(subtract(camera.position, camera.target)));
}

/** Moves camera and target along the picture; `across` and `down` are fractions of the picture's height. */
export function pan(camera: Camera, across: number, down: number): Camera {
  const { right, up } = cameraAxes(camera);
  const h = heightAtTarget(camera);
  const shift = add(times(right, -across * h), times(up, down * h));
  return { ...camera, position: add(camera.position, shift), target: add(camera.target, shift) };
}

/**
 * How far a place moves that is dragged over the picture, in the plane of the picture.
 *
 * @param depth of the place before the camera
 * @param across, rise of the drag to the right and upwards, in fractions of the picture's height
 */
export function movedInPicture(camera: Camera, depth: number, across: number, rise: number): Vector {
  const { right, up } = cameraAxes(camera);
  const height = 2 * halfHeight(camera, depth);
  return add(times(right, across * height), times(up, rise * height));
}

/**
 * Comes nearer (factor below 1) or goes away, keeping what lies under the cursor in place.
 *
 * @param across, rise place of the cursor from the middle, in fractions of the picture's height, right and up
 */
export function zoomAt(camera: Camera, factor: number, across: number, rise: number): Camera {
  const { right, up } = cameraAxes(camera);
  const h = heightAtTarget(camera) * (1 - factor);
  const [aside, above] = lensShift(camera);
  const shift = add(times(right, (across + aside) * h), times(up, (rise + above) * h));
  const target = add(camera.target, shift);
  const arm = times(
    subtract(camera.position, camera.target),
    camera.projection === 'perspective' ? factor : 1,
  );
  return { ...camera, target, position: add(target, arm), height: camera.height * factor };
}

/** The same view in the other projection: what lies at the target keeps its size. */
export function withProjection(camera: Camera, projection: Camera['projection']): Camera {
  const height = heightAtTarget(camera);
  if (projection === 'parallel') return { ...camera, projection, height };
  const distance = height / (2 * halfHeight({ ...camera, projection }, 1));
  const { back } = cameraAxes(camera);
  return { ...camera, projection, height, position: add(camera.target, times(back, distance)) };
}

/**
 * A camera on its way from one to another: it travels around what it looks at as on a turntable, rising evenly, and comes
 * nearer at an even rate, so that half the way is half as near again. Other directions turn along the shortest arc
 * (Shoemake, "Animating rotation with quaternion curves", 1985; from memory).
 *
 * @param share 0 at `a`, 1 at `b`
 */
export function cameraBetween(a: Camera, b: Camera, share: number): Camera {
  if (share <= 0) return a;
  if (share >= 1) return b;
  const mix = (x: number, y: number): number => x + share * (y - x);
  const ratio = (x: number, y: number): number => (x > 0 && y > 0 ? x * (y / x) ** share : mix(x, y));
  const target = a.target.map((v, k) => mix(v, b.target[k])) as Vector;
  const [from, to] = [subtract(a.position, a.target), subtract(b.position, b.target)];
  const distance = ratio(lengthOf(from), lengthOf(to));
  return {
    ...(share < 0.5 ? a : b),
    target,
    position: add(target, times(turnedLevel(unit(from), unit(to), unit(a.up), unit(b.up), share), distance)),
    up: turned(unit(a.up), unit(b.up), share),
    fieldOfView: mix(a.fieldOfView, b.fieldOfView),
    height: ratio(a.height, b.height),
    roll: angleBetween(a.roll, b.roll, share),
    shiftAcross: mix(a.shiftAcross, b.shiftAcross),
    shiftRise: mix(a.shiftRise, b.shiftRise),
  };
}

/** An angle on the short way from one to another, in degrees; between -180 and 180. */
export function angleBetween(a: number, b: number, share: number): number {
  const round = (angle: number): number => angle - 360 * Math.round(angle / 360);
  return round(a + share * round(b - a));
}

/** What is nearer than this to straight up or down, as a cosine, has no side it stands on. */
const UPRIGHT = 0.9999;

/**
 * A direction that goes round what is up, and rises, both evenly: seen from there the horizon stays level, and four
 * quarters of a turn make a circle. Where up changes, or where it looks straight along it, it takes the shortest arc.
 */
function turnedLevel(a: Vector, b: Vector, up: Vector, upThen: Vector, share: number): Vector {
  const [low, high] = [dot(a, up), dot(b, up)];
  if (dot(up, upThen) < 1 - 1e-9 || Math.abs(low) > UPRIGHT || Math.abs(high) > UPRIGHT)
    return turned(a, b, share);
  const level = (v: Vector, rise: number): Vector => unit(subtract(v, times(up, rise)));
  const round = turned(level(a, low), level(b, high), share, up);
  const height = Math.asin(low) + share * (Math.asin(high) - Math.asin(low));
  return add(times(round, Math.cos(height)), times(up, Math.sin(height)));
}

/** A unit vector on the shortest arc from one to another; straight back it goes about `axis`. */
export function turned(a: Vector, b: Vector, share: number, about?: Vector): Vector {
  let axis = cross(a, b);
  const angle = Math.atan2(lengthOf(axis), dot(a, b));
  if (angle < 1e-12) return a;
  // Straight back: any way round is as short; without an axis the one about that furthest from it is taken.
  if (lengthOf(axis) < 1e-9) axis = about ?? cross(a, Math.abs(a[2]) < 0.9 ? [0, 0, 1] : [1, 0, 0]);
  return rotate(a, unit(axis), share * angle);
}
