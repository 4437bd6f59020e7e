import { add, cross, dot, lengthOf, subtract, times, unit, type Vector } from '#core/model/vectors.ts';
import { cameraAxes } from '#core/scene/camera.ts';
import type { Camera } from '#core/scene/document.ts';
import type { KeyLight } from '#core/scene/light-rigs/light-rig.ts';
import { discSample } from './samples.ts';

/**
 * Where the lamp of a rig shines from. It goes round with the camera, so that no view is a view from behind.
 *
 * @param worldUp up of the world the model stands in
 * @param pass which sample of the face of the lamp, of how many; null takes its middle
 */
export function keyDirection(
  { right: aside, up, towards: near, size }: KeyLight,
  camera: Camera,
  worldUp: Vector,
  pass: { n: number; of: number } | null,
): Vector {
  const { back, right } = cameraAxes(camera);
  const level = subtract(back, times(worldUp, dot(back, worldUp)));
  const towards = lengthOf(level) > 0.05 ? unit(level) : unit(cross(right, worldUp));
  const middle = unit(
    add(add(times(cross(worldUp, towards), aside), times(worldUp, up)), times(towards, near)),
  );
  if (pass === null) return middle;
  const [a, b] = discSample(pass.n, pass.of);
  const side = unit(cross(middle, worldUp));
  return unit(add(middle, add(times(side, a * size), times(cross(side, middle), b * size))));
}
