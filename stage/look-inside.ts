import { type Bounds, boundsCentre, boundsDiagonal } from '#core/model/mesh.ts';
import { partBounds, type RunDescription } from '#core/model/run.ts';
import { dot, subtract } from '#core/model/vectors.ts';
import { cameraAxes } from '#core/scene/camera.ts';
import type { Scene } from '#core/scene/document.ts';

/** A part is in the way when its middle is nearer than the middle of all by this share of half the diagonal. */
const NEARER = 0.12;

/**
 * Names of the parts that stand between the camera and the middle. Parts that reach all around others are not among
 * them; for those a line is shown from its inside only.
 */
export function partsInFront(scene: Scene, run: RunDescription, bounds: Bounds): Set<string> {
  if (scene.lookInside.front === 'off') return new Set();
  const { back } = cameraAxes(scene.camera);
  const middle = boundsCentre(bounds);
  const least = (NEARER * boundsDiagonal(bounds)) / 2;
  const nearer = run.parts.filter((p) => dot(subtract(boundsCentre(partBounds(p)), middle), back) > least);
  return new Set(nearer.map((p) => p.name));
}
