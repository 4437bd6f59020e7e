import { type Bounds, boundsCentre, boundsDiagonal, distanceToBounds } from '#core/model/mesh.ts';
import { subtract, type Vector } from '#core/model/vectors.ts';
import { halfHeight, lensShift } from '#core/scene/camera.ts';
import type { Camera, Scene } from '#core/scene/document.ts';
import { reachOf } from './room.ts';
import { type ThreeCamera, threeCamera } from './three-camera.ts';

/** A rectangle of a picture, in its pixels from the top left. */
export interface Tile {
  x: number;
  y: number;
  width: number;
  height: number;
}

export interface PictureSize {
  width: number;
  height: number;
}

/** What is to be seen on a tile of a picture. */
export interface PictureView {
  scene: Scene;
  /** Of the run, which lies at zero on the stage. */
  origin: Vector;
  /** What the camera must reach, in the coordinates of the files. */
  around: Bounds;
  size: PictureSize;
  tile: Tile;
}

/** The camera that sees it, moved aside by a part of a pixel. */
export function pictureCamera(
  { scene, origin, around, size, tile }: PictureView,
  jitter: readonly [number, number] = [0, 0],
): ThreeCamera {
  const centre = subtract(boundsCentre(around), origin);
  const reach = (boundsDiagonal(around) || 1) * Math.max(0.75, 0.52 * reachOf(scene));
  const free = distanceToBounds(around, scene.camera.position);
  const camera = threeCamera(scene.camera, origin, size.width / size.height, centre, reach, free);
  const [across, rise] = lensShift(scene.camera);
  camera.setViewOffset(
    size.width,
    size.height,
    tile.x + jitter[0] + across * size.height,
    tile.y + jitter[1] - rise * size.height,
    tile.width,
    tile.height,
  );
  camera.updateProjectionMatrix();
  return camera;
}

/** Change of depth that is one pixel wide; see `PassSum`. */
export function depthUnit(view: PictureView): [number, number] {
  const { elements } = pictureCamera(view).projectionMatrix;
  const pixel = elements[5] * view.tile.height;
  if (view.scene.camera.projection === 'parallel') return [0, Math.abs(elements[10]) / pixel];
  return [2 / pixel, (elements[10] - 1) / pixel];
}

/** How much of the model a pixel is: everywhere, and for each unit of distance. */
export function pixelSpan(camera: Camera, { height }: PictureSize): [number, number] {
  const pixel = (2 * halfHeight(camera, 1)) / height;
  return camera.projection === 'parallel' ? [pixel, 0] : [0, pixel];
}

/** Where a tile begins in its picture, from the lower left, and its share of it across and upwards. */
export const shareOfTile = (
  size: PictureSize,
  { x, y, width, height }: Tile,
): [number, number, number, number] => [
  x / size.width,
  1 - (y + height) / size.height,
  width / size.width,
  height / size.height,
];
