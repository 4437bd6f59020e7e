import type { BodyPicture } from '#core/model/body.ts';
import { boundsCentre } from '#core/model/mesh.ts';
import { add, dot, subtract, times, type Vector } from '#core/model/vectors.ts';
import { cameraAxes, rayThrough } from '#core/scene/camera.ts';
import type { Scene } from '#core/scene/document.ts';
import type { Frame } from '#engine/scene-source.ts';
import { SERIF_FONT, WORDS_FONT } from '../words/lettering.ts';
import { paintWords } from '../words/paint-words.ts';
import { pngOfCanvas } from './png-of.ts';

/** Height of the picture its legends are painted for, in pixels. */
const HEIGHT = 1400;

/** Legends as a picture on a plane, with its corners from the lower left around, relative to the origin of the run. */
export interface LegendPlane {
  picture: BodyPicture;
  corners: [Vector, Vector, Vector, Vector];
}

/**
 * The legends of a scene on a plane through the model, where the camera sees them as it does on the picture; null where there
 * are none.
 */
export async function legendPlane(scene: Scene, frame: Frame, aspect: number): Promise<LegendPlane | null> {
  for (const font of [WORDS_FONT, SERIF_FONT]) await document.fonts.load(`500 20px ${font}`);
  const size = { width: Math.round(HEIGHT * aspect), height: HEIGHT };
  const canvas = new OffscreenCanvas(size.width, size.height);
  // On whatever lies behind it elsewhere, a legend must be read.
  const scales = scene.scales.map((s) => ({ ...s, legend: { ...s.legend, ground: 'plate' as const } }));
  const bare = { ...scene, scales, annotations: [], stamp: { ...scene.stamp, visible: false } };
  const { run, step, parts: spreads, bounds, attached, readings, curves } = frame;
  const boxes = paintWords(
    canvas.getContext('2d', { willReadFrequently: true }) as unknown as CanvasRenderingContext2D,
    { scene: bare, run, step, spreads, behind: null, bounds, attached, readings, curves },
    size,
  ).filter((box) => box.kind === 'legend');
  if (boxes.length === 0) return null;
  const margin = 0.02 * HEIGHT;
  const left = Math.max(0, Math.floor(Math.min(...boxes.map((b) => b.x)) - margin));
  const top = Math.max(0, Math.floor(Math.min(...boxes.map((b) => b.y)) - margin));
  const right = Math.min(size.width, Math.ceil(Math.max(...boxes.map((b) => b.x + b.width)) + margin));
  const bottom = Math.min(size.height, Math.ceil(Math.max(...boxes.map((b) => b.y + b.height)) + margin));
  const cut = new OffscreenCanvas(right - left, bottom - top);
  cut.getContext('2d')!.drawImage(canvas, -left, -top);
  const { back } = cameraAxes(scene.camera);
  const centre = boundsCentre(bounds);
  const at = (x: number, y: number): Vector => {
    const { from, along } = rayThrough(scene.camera, x / size.width, y / size.height, aspect);
    const way = dot(subtract(centre, from), back) / dot(along, back);
    return subtract(add(from, times(along, way)), run.origin);
  };
  return {
    picture: await pngOfCanvas(cut),
    corners: [at(left, bottom), at(right, bottom), at(right, top), at(left, top)],
  };
}
