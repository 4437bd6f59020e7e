import { Matrix4, OrthographicCamera, Plane, Vector3, Vector4 } from 'three';
import { dot, lengthOf, subtract, times, unit, type Vector } from '#core/model/vectors.ts';
import type { ThreeCamera } from './three-camera.ts';

/** A level plane: places of which the dot product with what is up is `height`; relative to the origin of the run. */
export interface Level {
  up: Vector;
  height: number;
}

/** The flattest look at a rough mirror of which the streaks are worked out, as the tangent of its angle to the upright. */
const FLATTEST = 3;

/**
 * Where a place in the world is seen in a level mirror: as far below it as it stands above. A facet tilted by slopes turns
 * what it mirrors by twice its angle; to the first order that moves a mirrored place aside in proportion to its height, by
 * the slope across the look, and by (1 + t^2) times the slope along it, where t is the tangent of the angle between the
 * look and the upright: the streaks of a wet road. What touches the mirror stays where it is.
 *
 * @param slopes of the facet along the level part of `look` and across it
 * @param look from the mirror towards the eye, of length one
 */
export function mirroring({ up, height }: Level, look: Vector, slopes: readonly [number, number]): Matrix4 {
  const level = subtract(look, times(up, dot(look, up)));
  const flat = Math.min(FLATTEST, lengthOf(level) / Math.max(dot(look, up), 1e-6));
  const helper: Vector = Math.abs(up[0]) < 0.9 ? [1, 0, 0] : [0, 1, 0];
  const along = new Vector3(
    ...(lengthOf(level) > 1e-6 ? unit(level) : unit(subtract(helper, times(up, dot(helper, up))))),
  );
  const n = new Vector3(...up);
  const across = new Vector3().crossVectors(n, along);
  const moved = n
    .clone()
    .multiplyScalar(-2)
    .addScaledVector(along, 2 * slopes[0] * (1 + flat * flat))
    .addScaledVector(across, 2 * slopes[1]);
  // x + moved (n . x - height)
  const { x, y, z } = moved;
  return new Matrix4().set(
    1 + x * n.x,
    x * n.y,
    x * n.z,
    -height * x,
    y * n.x,
    1 + y * n.y,
    y * n.z,
    -height * y,
    z * n.x,
    z * n.y,
    1 + z * n.z,
    -height * z,
    0,
    0,
    0,
    1,
  );
}

/**
 * A camera that sees the mirrored world, each place of it where the given one sees the mirror.
 *
 * @param cut whether something reaches below the mirror, which is not seen in it
 */
export function mirroredCamera(
  camera: ThreeCamera,
  level: Level,
  mirror: Matrix4,
  cut: boolean,
): ThreeCamera {
  const made = camera.clone();
  made.matrixAutoUpdate = false;
  made.matrixWorldAutoUpdate = false;
  made.matrixWorldInverse.multiplyMatrices(camera.matrixWorldInverse, mirror);
  made.matrixWorld.copy(made.matrixWorldInverse).invert();
  made.projectionMatrix.copy(camera.projectionMatrix);
  if (cut) cutBelow(made, level);
  made.projectionMatrixInverse.copy(made.projectionMatrix).invert();
  return made;
}

/** Moves the near plane of a camera into a plane (Lengyel, "Oblique view frustum depth projection and clipping", 2005). */
function cutBelow(camera: ThreeCamera, { up, height }: Level): void {
  // What is above stays; the mirrored camera looks from below.
  const plane = new Plane(new Vector3(...up), -height).applyMatrix4(camera.matrixWorldInverse);
  const inCamera = new Vector4(plane.normal.x, plane.normal.y, plane.normal.z, plane.constant);
  const p = camera.projectionMatrix;
  const corner = new Vector4(Math.sign(inCamera.x), Math.sign(inCamera.y), 1, 1).applyMatrix4(
    p.clone().invert(),
  );
  const e = p.elements;
  const row = new Vector4(e[3], e[7], e[11], e[15]);
  const scale = (2 * row.dot(corner)) / inCamera.dot(corner);
  const near = inCamera.multiplyScalar(scale).sub(row);
  [e[2], e[6], e[10], e[14]] = [near.x, near.y, near.z, near.w];
}

/** Whether a camera is above a level and sees it. */
export function seesLevel(camera: ThreeCamera, { up, height }: Level): boolean {
  const at = (column: number): Vector => {
    const v = new Vector3().setFromMatrixColumn(camera.matrixWorld, column);
    return [v.x, v.y, v.z];
  };
  if (camera instanceof OrthographicCamera) return dot(at(2), up) > 0.02;
  return dot(at(3), up) > height;
}
