import { type Bounds, boundsCentre, boundsDiagonal } from '../model/mesh.ts';
import { add, cross, dot, lengthOf, subtract, times, unit, type Vector } from '../model/vectors.ts';
import type { Scale } from './document.ts';
import type { Camera } from './things/lens.ts';

/** Directions from which a model is looked at: where the camera stands, and what is up. */
export const viewDirections = {
  front: { from: [0, -1, 0], up: [0, 0, 1], name: 'from −y' },
  back: { from: [0, 1, 0], up: [0, 0, 1], name: 'from +y' },
  left: { from: [-1, 0, 0], up: [0, 0, 1], name: 'from −x' },
  right: { from: [1, 0, 0], up: [0, 0, 1], name: 'from +x' },
  above: { from: [0, 0, 1], up: [0, 1, 0], name: 'from +z' },
  below: { from: [0, 0, -1], up: [0, 1, 0], name: 'from −z' },
  oblique: { from: [0.62, -1, 0.5], up: [0, 0, 1], name: 'oblique' },
} as const satisfies Record<string, { from: Vector; up: Vector; name: string }>;

export type ViewName = keyof typeof viewDirections;

/** A lens that is neither rolled nor shifted. */
export const straight = { roll: 0, shiftAcross: 0, shiftRise: 0 } as const satisfies Partial<Camera>;

/** Height of the frame that focal lengths are told for, in millimetres: of small-format film, 36 × 24 (ISO 1007). */
const FRAME = 24;

/** Of a lens that opens by so many degrees vertically, in millimetres; and back. */
export const focalLength = (fieldOfView: number): number =>
  FRAME / (2 * Math.tan((fieldOfView * Math.PI) / 360));
export const openingOf = (focal: number): number => (360 / Math.PI) * Math.atan(FRAME / (2 * focal));

/** Half the height of the picture at a distance in front of the camera, in model units. */
export const halfHeight = (
  { projection, fieldOfView, height }: Pick<Camera, 'projection' | 'fieldOfView' | 'height'>,
  depth: number,
): number => (projection === 'perspective' ? depth * Math.tan((fieldOfView * Math.PI) / 360) : height / 2);

/** How far the middle of the picture lies from the axis of the lens, to the right and upwards, in heights of the picture. */
export const lensShift = ({
  projection,
  shiftAcross,
  shiftRise,
}: Pick<Camera, 'projection' | 'shiftAcross' | 'shiftRise'>): [number, number] =>
  projection === 'perspective' ? [shiftAcross / 100, shiftRise / 100] : [0, 0];

/** Right, up and backward unit vectors of a camera. */
export function cameraAxes(
  camera: Pick<Camera, 'position' | 'target' | 'up'> & Partial<Pick<Camera, 'roll'>>,
): {
  right: Vector;
  up: Vector;
  back: Vector;
} {
  const back = unit(subtract(camera.position, camera.target));
  let right = cross(camera.up, back);
  if (lengthOf(right) < 1e-9) right = cross(Math.abs(back[2]) < 0.9 ? [0, 0, 1] : [0, 1, 0], back);
  right = unit(right);
  const rise = cross(back, right);
  const roll = ((camera.roll ?? 0) * Math.PI) / 180;
  if (roll === 0) return { right, up: rise, back };
  const [c, s] = [Math.cos(roll), Math.sin(roll)];
  return {
    right: subtract(times(right, c), times(rise, s)),
    up: add(times(rise, c), times(right, s)),
    back,
  };
}

/** Room left around a box that a camera is fitted to. */
const MARGIN = 1.16;

/** The aspect that is left for the model beside upright legends, which stand at the sides of the picture. */
export const besideLegends = (aspect: number, scales: Pick<Scale, 'legend'>[]): number =>
  aspect * Math.min(1, MARGIN * (1 - 2 * legendShare(scales, aspect)));

/** How much of the free picture bodies fill. */
const FILLED = 0.78;
/** Width of an upright legend with what is kept free around it, in heights of the picture. */
const LEGEND_WIDTH = 0.22;

/** Share of the width of a picture that legends at one of its sides take. */
const legendShare = (scales: Pick<Scale, 'legend'>[], aspect: number): number =>
  scales.some((s) => s.legend.visible && s.legend.upright) ? LEGEND_WIDTH / aspect : 0;

/**
 * What is left of a picture for the bodies in its middle, as shares of its width and height.
 *
 * @param aspect width over height
 */
export function freeRoom(scales: Pick<Scale, 'legend'>[], aspect: number): { width: number; height: number } {
  const beside = legendShare(scales, aspect);
  return { width: Math.min(1 - 2 * beside, FILLED * (1 - beside)), height: FILLED };
}

/**
 * Places a camera so that a box just fits a picture of the given aspect, with a margin.
 *
 * @param bounds the box, in the coordinates of the files
 * @param aspect width over height of the picture
 */
export function fitCamera(
  bounds: Bounds,
  from: Vector,
  up: Vector,
  aspect: number,
  keep: Pick<Camera, 'projection' | 'fieldOfView'>,
  margin = MARGIN,
): Camera {
  const target = boundsCentre(bounds);
  const diagonal = boundsDiagonal(bounds) || 1;
  const { right, up: rise, back } = cameraAxes({ position: add(target, from), target, up });
  const tangent = Math.tan((keep.fieldOfView * Math.PI) / 360);
  let height = 0;
  let distance = 0;
  for (let i = 0; i < 8; i++) {
    const corner: Vector = [bounds[i & 1], bounds[2 + ((i >> 1) & 1)], bounds[4 + ((i >> 2) & 1)]];
    const d = subtract(corner, target);
    const across = Math.max(Math.abs(dot(d, right)) / aspect, Math.abs(dot(d, rise)));
    height = Math.max(height, 2 * across * margin);
    distance = Math.max(distance, (across * margin) / tangent + dot(d, back));
  }
  height = height || diagonal;
  distance = Math.max(distance, diagonal * 0.05);
  if (keep.projection === 'parallel') distance = diagonal * 2;
  return {
    position: add(target, times(back, distance)),
    target,
    up,
    projection: keep.projection,
    fieldOfView: keep.fieldOfView,
    height: keep.projection === 'parallel' ? height : 2 * distance * tangent,
    ...straight,
  };
}

/** Where a point appears on a picture. */
interface Projected {
  x: number;
  y: number;
  depth: number;
}

/**
 * Where a point appears on the picture: fractions from the top left, and how far in front of the camera it lies.
 *
 * @param aspect width over height of the picture
 */
export const projectPoint = (camera: Camera, point: Vector, aspect: number): Projected =>
  projector(camera, aspect)(point);

/** The same for many points of one picture. */
export function projector(camera: Camera, aspect: number): (point: Vector) => Projected {
  const { right, up, back } = cameraAxes(camera);
  const [across, rise] = lensShift(camera);
  return (point) => {
    const d = subtract(point, camera.position);
    const depth = -dot(d, back);
    const half = halfHeight(camera, depth);
    return {
      x: 0.5 + (dot(d, right) / (2 * half) - across) / aspect,
      y: 0.5 - (dot(d, up) / (2 * half) - rise),
      depth,
    };
  };
}

/**
 * From the axis of a camera to the middle of its picture, and from there to its right and its upper edge: at a distance of one
 * in perspective, in the model otherwise.
 *
 * @param aspect width over height of the picture
 * @param half half the height of the picture there
 */
export function pictureAxes(
  camera: Camera,
  aspect: number,
  half = halfHeight(camera, 1),
): { middle: Vector; right: Vector; up: Vector; back: Vector } {
  const { right, up, back } = cameraAxes(camera);
  const [across, rise] = lensShift(camera);
  return {
    middle: add(times(right, 2 * half * across), times(up, 2 * half * rise)),
    right: times(right, half * aspect),
    up: times(up, half),
    back,
  };
}

/** What runs through a place on the picture: from where, and in which direction (of length one). */
export function rayThrough(
  camera: Camera,
  x: number,
  y: number,
  aspect: number,
): { from: Vector; along: Vector } {
  const { middle, right, up, back } = pictureAxes(camera, aspect);
  const aside = add(middle, add(times(right, 2 * x - 1), times(up, 1 - 2 * y)));
  if (camera.projection === 'parallel') return { from: add(camera.position, aside), along: times(back, -1) };
  return { from: camera.position, along: unit(subtract(aside, back)) };
}
