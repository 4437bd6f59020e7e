import { OrthographicCamera, PerspectiveCamera, Vector3 } from 'three';
import { lengthOf, subtract, type Vector } from '#core/model/vectors.ts';
import { cameraAxes } from '#core/scene/camera.ts';
import type { ThinLens } from '#core/scene/depth-of-field.ts';
import type { Camera } from '#core/scene/document.ts';
import { lensSample } from './samples.ts';
import type { Pass } from './scene-lights.ts';
import type { StageUniforms } from './stage-uniforms.ts';

export type ThreeCamera = PerspectiveCamera | OrthographicCamera;

/**
 * The camera of the scene as three.js wants it, relative to the origin of the run.
 *
 * @param aspect width over height of the whole picture
 * @param reach radius around `centre` (relative) that must not be clipped
 * @param free how far away bodies are at least: inside of them little is cut off before the eye
 */
export function threeCamera(
  camera: Camera,
  origin: Vector,
  aspect: number,
  centre: Vector,
  reach: number,
  free = Infinity,
): ThreeCamera {
  const position = subtract(camera.position, origin);
  const target = subtract(camera.target, origin);
  const { back, up } = cameraAxes(camera);
  const depth =
    (position[0] - centre[0]) * back[0] +
    (position[1] - centre[1]) * back[1] +
    (position[2] - centre[2]) * back[2];
  const far = Math.max(depth + reach, reach * 0.01);
  let made: ThreeCamera;
  if (camera.projection === 'perspective') {
    const nearest = Math.min(lengthOf(subtract(position, target)) * 0.004, 0.5 * free);
    const near = Math.max(depth - reach, nearest, far * 1e-4);
    made = new PerspectiveCamera(camera.fieldOfView, aspect, near, far);
  } else {
    const h = camera.height / 2;
    made = new OrthographicCamera(-h * aspect, h * aspect, h, -h, depth - reach, far);
  }
  made.position.set(...position);
  made.up.set(...up);
  made.lookAt(new Vector3(...target));
  made.updateMatrixWorld(true);
  made.updateProjectionMatrix();
  return made;
}

/** Where on the opening of a lens a picture is taken through, beside its middle; and what it shows sharply. */
export interface ThroughLens {
  /** To the right and upwards, in the unit of the model. */
  across: number;
  rise: number;
  /** Of what stays where it is on the picture, along the axis. */
  distance: number;
}

/** Moves a camera aside, and the picture back so that what lies at the distance in focus stays where it is. */
export function takeThrough(camera: ThreeCamera, { across, rise, distance }: ThroughLens): void {
  camera.translateX(across);
  camera.translateY(rise);
  camera.updateMatrixWorld(true);
  const { elements } = camera.projectionMatrix;
  elements[8] -= (elements[0] * across) / distance;
  elements[9] -= (elements[5] * rise) / distance;
  camera.projectionMatrixInverse.copy(camera.projectionMatrix).invert();
}

/** Tells the shaders who looks, mirrored or not, and through which lens. */
export function lookFrom(
  { uEye, uTowards, uDeep, uParallel, uRight, uRise, uLens, uDepths }: StageUniforms,
  camera: ThreeCamera,
): void {
  const { elements } = camera.matrixWorldInverse;
  uEye.value.setFromMatrixPosition(camera.matrixWorld);
  uRight.value.setFromMatrixColumn(camera.matrixWorld, 0);
  uRise.value.setFromMatrixColumn(camera.matrixWorld, 1);
  uTowards.value.setFromMatrixColumn(camera.matrixWorld, 2);
  uDeep.value.set(elements[2], elements[6], elements[10]);
  uParallel.value = camera instanceof OrthographicCamera;
  uLens.value.set(...lensOf(camera.projectionMatrix.elements));
  uDepths.value.set(camera.near, camera.far - camera.near);
}

/** The place on its opening that a pass looks through. */
export function onLens({ distance, radius }: ThinLens, { n, of }: Pass): ThroughLens {
  const [across, rise] = lensSample(n, of);
  return { across: radius * across, rise: radius * rise, distance };
}

/**
 * How a place -1..1 on the picture becomes a place beside the axis of the camera: what is added to it across and
 * upwards, and what it is multiplied by then; in perspective that times the distance.
 *
 * @param p a projection matrix by columns, of either kind, off its axis too
 */
export function lensOf(p: readonly number[]): [number, number, number, number] {
  const perspective = p[15] === 0;
  return [perspective ? p[8] : -p[12], perspective ? p[9] : -p[13], 1 / p[0], 1 / p[5]];
}
