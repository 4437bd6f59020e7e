import type { Scene } from '#core/scene/document.ts';
import type { Frame } from '#engine/scene-source.ts';
import { PassSum } from './render-targets.ts';
import type { PictureSize, Stage } from './stage.ts';
import { paintWords, WORDS_FONT } from './words.ts';

export interface PictureOptions extends PictureSize {
  transparent: boolean;
  /** Passes averaged: light gets softer and edges smoother with more. */
  passes: number;
  progress?(done: number): void;
  signal?: AbortSignal;
}

/** Passes for a picture that leaves the house, and for one that is only looked at. */
export const FINAL_PASSES = 48;
export const PROOF_PASSES = 20;

const LARGEST_TILE = 2048;

/** Bodies in even light change nothing from pass to pass but their edges. */
export function usefulPasses(scene: Scene, passes: number): number {
  return scene.light.rig === 'even' ? Math.min(passes, 16) : passes;
}

/**
 * The picture of what the stage shows, at any size, words included. The same for a still, a frame of a film, a
 * batch image and a figure of a page.
 *
 * @param frame what the stage was given
 */
export async function renderPicture(
  stage: Stage,
  frame: Frame,
  scene: Scene,
  options: PictureOptions,
): Promise<HTMLCanvasElement> {
  const { width, height, transparent } = options;
  const passes = usefulPasses(scene, options.passes);
  const canvas = document.createElement('canvas');
  canvas.width = width;
  canvas.height = height;
  const painter = canvas.getContext('2d')!;
  const columns = Math.ceil(width / LARGEST_TILE);
  const rows = Math.ceil(height / LARGEST_TILE);
  let done = 0;
  for (let row = 0; row < rows; row++) {
    for (let column = 0; column < columns; column++) {
      const x = column * LARGEST_TILE;
      const y = row * LARGEST_TILE;
      const tile = {
        x,
        y,
        width: Math.min(LARGEST_TILE, width - x),
        height: Math.min(LARGEST_TILE, height - y),
      };
      const sum = new PassSum(tile.width, tile.height);
      try {
        for (let pass = 0; pass < passes; pass++) {
          stage.addPass(sum, { width, height }, tile, transparent);
          options.progress?.(++done / (passes * columns * rows));
          await breathe();
          options.signal?.throwIfAborted();
        }
        painter.putImageData(new ImageData(stage.developPixels(sum.mean), tile.width, tile.height), x, y);
      } finally {
        sum.dispose();
      }
    }
  }
  await document.fonts.load(`500 20px ${WORDS_FONT}`);
  paintWords(painter, scene, frame.run, frame.step, width, height);
  return canvas;
}

/** Lets the page handle what came in meanwhile: a cancel, a paint. */
const breathe = (): Promise<void> =>
  new Promise((resolve) => {
    const { port1, port2 } = new MessageChannel();
    port1.onmessage = () => resolve();
    port2.postMessage(null);
  });
