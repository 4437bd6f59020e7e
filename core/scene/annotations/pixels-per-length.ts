import { boundsSize } from '../../model/mesh.ts';
import { add, times } from '../../model/vectors.ts';
import { cameraAxes } from '../camera.ts';
import type { AnnotationSetting } from './annotation.ts';

/** How many pixels a unit of length is, across the picture where the camera looks at; null where that is behind it. */
export function pixelsPerLength({
  scene: { camera },
  bounds,
  project,
}: Pick<AnnotationSetting, 'scene' | 'bounds' | 'project'>): number | null {
  const { right } = cameraAxes(camera);
  const part = 1e-3 * (Math.max(...boundsSize(bounds)) || 1);
  // Both from the target, so that half of it lies on each side of the middle.
  const [one, other] = [0.5, -0.5].map((t) => project(add(camera.target, times(right, t * part))));
  return one && other ? Math.hypot(one.x - other.x, one.y - other.y) / part : null;
}
