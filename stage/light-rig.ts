import {
  add,
  cameraAxes,
  cross,
  dot,
  lengthOf,
  subtract,
  times,
  unit,
  type Vector,
} from '#core/scene/camera.ts';
import type { Camera } from '#core/scene/document.ts';
import { discSample } from './samples.ts';

/** Up of the world the model stands in. */
export const WORLD_UP: Vector = [0, 0, 1];

/** Sine of the angle the key light is wide, seen from the model: a large soft lamp. */
export const KEY_SIZE = 0.22;

/**
 * Where the key light shines from: high, to the left of whoever looks, as a photographer would set it. It goes
 * round with the camera, so that no view is a view from behind.
 *
 * @param pass which sample of the face of the lamp; null takes its middle
 */
export function keyDirection(camera: Camera, pass: number | null): Vector {
  const { back, right } = cameraAxes(camera);
  const level = subtract(back, times(WORLD_UP, dot(back, WORLD_UP)));
  const towards = lengthOf(level) > 0.05 ? unit(level) : unit(cross(right, WORLD_UP));
  const aside = cross(WORLD_UP, towards);
  const middle = unit(add(add(times(aside, -0.45), times(WORLD_UP, 0.95)), times(towards, 0.85)));
  if (pass === null) return middle;
  const [a, b] = discSample(pass);
  const side = unit(cross(middle, WORLD_UP));
  return unit(add(middle, add(times(side, a * KEY_SIZE), times(cross(side, middle), b * KEY_SIZE))));
}
