import { type Bounds, boundsCentre } from '../../model/mesh.ts';
import { add, dot, times, type Vector } from '../../model/vectors.ts';
import type { OperationSetting } from '../../ops/chain/operation.ts';
import { planeRange } from '../../ops/kernels/planes.ts';
import { cameraAxes, projectPoint } from '../camera.ts';
import type { Camera, Scene } from '../document.ts';
import { levelAxes, upOf } from '../things/upright.ts';

/** Room between what stands side by side, as a share of the larger. */
const GAP = 0.15;

/**
 * A place on the floor beside the model where nothing stands: to the right of it as it is seen, to the left, behind it, or
 * farther out; of these the first that is in the picture.
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
  const places: Vector[] = [];
  for (let ring = 0; ring <= taken.length; ring++)
    for (const way of ways) {
      const [, far] = planeRange(bounds, way);
      const out = far - dot(foot, way) + (1 + 2 * GAP + 2 * ring) * reach;
      const place = add(foot, times(way, out)).map((v) => Number(v.toPrecision(6))) as Vector;
      if (taken.every((t) => Math.hypot(...t.map((v, k) => v - place[k])) >= reach)) places.push(place);
    }
  // Where it is seen at once, if it is seen anywhere.
  return places.find((place) => isSeen(scene.camera, place)) ?? places[0];
}

/** Whether a place lies well within the picture, of a usual shape. */
function isSeen(camera: Camera, place: Vector): boolean {
  const { x, y, depth } = projectPoint(camera, place, 1.4);
  return (depth > 0 || camera.projection === 'parallel') && x > 0.05 && x < 0.95 && y > 0.05 && y < 0.95;
}

/** By how much a piece is turned so that its front looks to whoever looks, to a quarter turn; in degrees. */
export function turnToViewer({ camera, upright }: Pick<Scene, 'camera' | 'upright'>): number {
  const [a, b] = levelAxes(upOf(upright));
  const { back } = cameraAxes(camera);
  const angle = (Math.atan2(dot(back, a), -dot(back, b)) * 180) / Math.PI;
  // No quarter turn less than none.
  return 90 * Math.round(angle / 90) || 0;
}

/** The middle of the lowest side of a box. */
export function footOf(bounds: Bounds, up: Vector): Vector {
  const centre = boundsCentre(bounds);
  return add(centre, times(up, planeRange(bounds, up)[0] - dot(centre, up)));
}
