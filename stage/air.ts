import { linearOf } from '#core/model/srgb.ts';
import { dot, subtract, type Vector } from '#core/model/vectors.ts';
import { cameraAxes } from '#core/scene/camera.ts';
import type { Scene } from '#core/scene/document.ts';
import { hazeRate } from '#core/scene/things/haze.ts';
import type { LitBall } from './scene-lights.ts';
import type { StageUniforms } from './stage-uniforms.ts';

/** Tells the shaders of the haze between whoever looks and a ball around the model, and of the tint of edges. */
export function setAir(
  { uHaze, uHazeSparesValues, uEdgeTint }: StageUniforms,
  { camera, haze, ink }: Scene,
  origin: Vector,
  { centre, radius }: Pick<LitBall, 'centre' | 'radius'>,
): void {
  const eye = subtract(camera.position, origin);
  const along = dot(subtract(eye, centre), cameraAxes(camera).back);
  const { from, rate } = hazeRate(haze, along - radius, along + radius);
  uHaze.value.set(from, rate);
  uHazeSparesValues.value = haze.sparesValues;
  uEdgeTint.value.set(...linearOf(ink.tintColour), ink.tint);
}
