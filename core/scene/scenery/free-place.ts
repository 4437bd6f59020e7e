import { type Bounds, boundsCentre } from '../../model/mesh.ts';
import { add, dot, times, type Vector } from '../../model/vectors.ts';
import type { OperationSetting } from '../../ops/chain/operation.ts';
import { planeRange } from '../../ops/kernels/planes.ts';
import { cameraAxes } from '../camera.ts';
import type { Scene } from '../document.ts';
import { levelAxes, upOf } from '../things/upright.ts';

/** Room between what stands side by side, as a share of the larger. */
const GAP = 0.15;

/**
 * A place on the floor beside the model: to the right of it as it is seen, then to the left, then behind it, and farther
 * out where something stands there.
 *
 * @param reach half the size of what is to stand there
 */
export function freePlace(
  { bounds }: Pick<OperationSetting, 'bounds'>,
  scene: Pick<Scene, 'camera' | 'upright' | 'scenery' | 'floor'>,
  reach: number,
): Vector {
  const up = upOf(scene.upright);
  const { right, back } = cameraAxes(scene.camera);
  const axes = levelAxes(up).flatMap((a) => [a, times(a, -1)]);
  const nearest = (to: Vector): Vector => axes.reduce((best, a) => (dot(a, to) > dot(best, to) ? a : best));
  const first = nearest(right);
  const ways = [first, times(first, -1), nearest(times(back, -1))];
  const foot = footOf(bounds, up);
  const taken = scene.scenery.map((s) => s.place as Vector);
  for (let ring = 0; ; ring++)
    for (const way of ways) {
      const [, far] = planeRange(bounds, way);
      const out = far - dot(foot, way) + (1 + 2 * GAP + 2 * ring) * reach;
      const place = add(foot, times(way, out)).map((v) => Number(v.toPrecision(6))) as Vector;
      const near = taken.some((t) => Math.hypot(...t.map((v, k) => v - place[k])) < reach);
      if (!near || ring > taken.length) return place;
    }
}

/** The middle of the lowest side of a box. */
export function footOf(bounds: Bounds, up: Vector): Vector {
  const centre = boundsCentre(bounds);
  return add(centre, times(up, planeRange(bounds, up)[0] - dot(centre, up)));
}
