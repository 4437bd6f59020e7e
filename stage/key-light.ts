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
import type { KeyLight } from '#core/scene/light-rigs/light-rig.ts';
import { discSample } from './samples.ts';

/** Up of the world the model stands in. */
export const WORLD_UP: Vector = [0, 0, 1];

/**
 * Where the lamp of a rig shines from. It goes round with the camera, so that no view is a view from behind.
 *
 * @param pass which sample of the face of the lamp, of how many; null takes its middle
 */
export function keyDirection(
  { right: aside, up, towards: near, size }: KeyLight,
  camera: Camera,
  pass: { n: number; of: number } | null,
): Vector {
  const { back, right } = cameraAxes(camera);
  const level = subtract(back, times(WORLD_UP, dot(back, WORLD_UP)));
  const towards = lengthOf(level) > 0.05 ? unit(level) : unit(cross(right, WORLD_UP));
  const middle = unit(
    add(add(times(cross(WORLD_UP, towards), aside), times(WORLD_UP, up)), times(towards, near)),
  );
  if (pass === null) return middle;
  const [a, b] = discSample(pass.n, pass.of);
  const side = unit(cross(middle, WORLD_UP));
  return unit(add(middle, add(times(side, a * size), times(cross(side, middle), b * size))));
}
