import { dot, subtract, type Vector } from '../model/vectors.ts';
import { cameraAxes, halfHeight } from './camera.ts';
import type { Focus } from './things/focus.ts';
import type { Camera } from './things/lens.ts';

/** A lens that is open so wide, and shows sharply what lies at one distance in front of it. */
export interface ThinLens {
  /** Of what is sharp, along the axis, in the unit of the model. */
  distance: number;
  /** Of the opening, in the unit of the model. */
  radius: number;
}

/** Where what is sharp lies, at the least: as share of the way to the target. */
const NEAREST = 0.01;

/**
 * The lens of a scene; null where all is sharp. What is told is how widely a point very far away is spread, in percent of the
 * height of the picture: that holds for a crystal as it does for a hall, where the opening of a real lens would blur all or
 * nothing.
 */
export function thinLens(camera: Camera, focus: Focus): ThinLens | null {
  if (focus.blur <= 0 || camera.projection !== 'perspective') return null;
  const { back } = cameraAxes(camera);
  const along = (place: Vector): number => dot(subtract(camera.position, place), back);
  const usual = along(camera.target);
  const wanted = focus.at === 'place' ? along(focus.place) : usual;
  const distance = Math.max(NEAREST * usual, wanted);
  return { distance, radius: (focus.blur / 100) * halfHeight(camera, distance) };
}

/**
 * How widely a point at a distance along the axis is spread, as share of the height of the picture: the diameter of its circle
 * of confusion (thin lens; Hecht, Optics, section 5.2, from memory).
 */
export const spreadAt = (camera: Camera, { distance, radius }: ThinLens, depth: number): number =>
  ((radius / halfHeight(camera, distance)) * Math.abs(depth - distance)) / depth;
