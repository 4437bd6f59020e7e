import type { RunDescription } from '#core/model/run.ts';
import type { KnownOfScene } from '#core/preflight/checked-scene.ts';
import { thinLens } from '#core/scene/depth-of-field.ts';
import type { Scene } from '#core/scene/document.ts';
import { isEven } from '#core/scene/light-rigs/light-rig.ts';
import { lightRigById } from '#core/scene/light-rigs/registry.ts';
import { isMirroring } from '#core/scene/things/floor.ts';
import type { Frame } from '#engine/scene-source.ts';
import { CLEAN_REACH } from '../clean-light.ts';
import { PassSum } from '../render-targets.ts';
import type { Drawing } from '../slices.ts';
import type { PictureSize, Stage, Tile } from '../stage.ts';
import type { Behind } from '../words/ground.ts';
import { SERIF_FONT, WORDS_FONT } from '../words/lettering.ts';
import { paintWords } from '../words/paint-words.ts';
import { pictureSeen } from '../words/picture-seen.ts';
import { SmallCopy } from './behind.ts';
import { NoiseGauge } from './noise.ts';
import type { Picture } from './picture.ts';
import { packed } from './picture-rows.ts';
import { type Words, WordsOver } from './words-over.ts';

export interface PictureOptions extends PictureSize {
  transparent: boolean;
  /** Passes averaged: light gets softer and edges smoother with more. */
  passes: number;
  /** Fewer are enough once the picture wavers less than that, as `NoiseGauge` tells it. */
  noise?: number;
  /** Asked after each pass: whether what is there is to be kept, without the passes that are left. */
  isEnough?(): boolean;
  /** Shown what there is of the picture, small and without words, whenever its passes have doubled; with its noise, once known. */
  preview?(seen: Behind, noise: number | null): void;
  /** Takes what the picture is made of, beside what is seen. */
  apart?: Apart;
  /** Largest side of the pieces it is drawn in, in pixels; what is shown does not depend on it. */
  tile?: number;
  /** Moments that the picture is made of, in the place of the one that the stage shows; its words stay those of that. */
  exposure?: Exposure;
  /** Told what is known of the picture for its preflight. */
  seen?(known: KnownOfScene & { run: RunDescription }): void;
  progress?(done: number): void;
  signal?: AbortSignal;
}

/** Moments over which a picture is exposed, each with its share of the passes. */
export interface Exposure {
  count: number;
  /** Puts one of them on the stage. */
  show(moment: number): Promise<void>;
}

/** What lies in the middle of each pixel, as `outputs` tells; and the share of light that arrives, as grey. */
export interface Apart {
  surfaces: { tile: Tile; pixels: Float32Array }[];
  shadow: { tile: Tile; pixels: Float32Array }[];
}

/** Passes for a picture that leaves the house, for one that is only looked at, and for one that shows whether all is in it. */
export const FINAL_PASSES = 48;
export const PROOF_PASSES = 20;
export const DRAFT_PASSES = 6;
/** Most passes that are worth waiting for. */
export const MOST_PASSES = 512;

const LARGEST_TILE = 1536;

/** Pictures of more pixels are held in 16 bits a channel: as floats they would not be had. */
const MOST_AS_LIGHT = 40_000_000;

/** Bodies in even light change nothing from pass to pass but their edges, unless a lens or a rough mirror blurs them. */
export function usefulPasses(scene: Scene, passes: number): number {
  const blurred =
    thinLens(scene.camera, scene.focus) || (isMirroring(scene.floor) && scene.floor.roughness > 0);
  const still = isEven(lightRigById(scene.light.rig)) && !blurred;
  return still ? Math.min(passes, 16) : passes;
}

/**
 * The picture of what the stage shows, at any size, words included. The same for a still, a frame of a film, a
 * batch image and a figure of a page.
 *
 * @param frame what the stage was given
 * @throws what the signal was aborted with
 */
export async function renderPicture(
  stage: Stage,
  frame: Frame,
  scene: Scene,
  options: PictureOptions,
): Promise<Picture> {
  const { width, height, signal } = options;
  const { exposure } = options;
  const passes = exposure ? options.passes : usefulPasses(scene, options.passes);
  const moments = Math.min(passes, exposure?.count ?? 1);
  const size = { width, height };
  const tiles: Picture['tiles'] = [];
  const isLarge = width * height > MOST_AS_LIGHT;
  const behind = new SmallCopy(size);
  const seen = new SmallCopy(size, PREVIEW_WIDTH);
  const all = tilesOf(size, options.tile);
  const missing = await stage.prepare();
  if (missing.length > 0) throw new Error(missing.join(' '));
  try {
    await stage.slices.run(stage.readyGlow(size), () => signal?.aborted ?? false);
    signal?.throwIfAborted();
    for (const [n, tile] of all.entries()) {
      const wide = withRim(tile, size);
      const sum = new PassSum(wide.width, wide.height, passes);
      try {
        // Noise falls with the root of the number of passes.
        let expected = passes;
        const show = (pixels: Float32Array, noise: number | null): void => {
          if (options.noise && noise !== null)
            expected = Math.min(passes, Math.max(sum.count, sum.count * (noise / options.noise) ** 2));
          options.preview?.(seen.and(wide, pixels).shown, noise);
        };
        const begun = (): void => {
          options.apart?.surfaces.push({ tile, pixels: inner(stage.surfacePixels(sum), wide, tile) });
        };
        const isStopped = (): boolean => {
          options.progress?.((n + Math.min(1, sum.count / expected)) / all.length);
          return signal?.aborted ?? false;
        };
        const gauge = new NoiseGauge();
        for (let m = 0; m < moments; m++) {
          await exposure?.show(m);
          const until = Math.round((passes * (m + 1)) / moments);
          const drawing = passesOf(stage, sum, until, size, wide, options, { show, begun, gauge });
          await stage.slices.run(drawing, isStopped);
          signal?.throwIfAborted();
        }
        if (sum.cleaned !== sum.count) await stage.slices.run(stage.clean(sum), isStopped);
        signal?.throwIfAborted();
        const pixels = inner(stage.linearPixels(sum.clean), wide, tile);
        behind.add(tile, pixels);
        if (options.preview) seen.add(tile, pixels);
        tiles.push({ tile, pixels: isLarge ? packed(pixels) : pixels });
        if (options.apart) {
          await stage.slices.run(stage.shadow(sum));
          const shadow = stage.linearPixels(sum.shadow);
          options.apart.shadow.push({ tile, pixels: inner(shadow, wide, tile) });
        }
        options.progress?.((n + 1) / all.length);
      } finally {
        sum.dispose();
      }
    }
  } finally {
    stage.forgetGlow();
  }
  if (options.seen) {
    const { run, parts: spreads, readings, curves } = frame;
    const known = pictureSeen(frame, scene, options.transparent ? null : behind.shown, size);
    options.seen({ run, spreads, readings, curves, picture: known });
  }
  const words = await wordsOn(scene, frame, size, options.transparent ? null : behind.shown);
  return { ...size, tiles, words };
}

/** Width of what is shown while a picture is made. */
const PREVIEW_WIDTH = 320;

/**
 * Adds passes, up to so many of all.
 *
 * @param show called with what there is to be seen of the tile whenever its passes have doubled
 * @param begun called after the first pass, which is drawn through the middles of the pixels
 */
function* passesOf(
  stage: Stage,
  sum: PassSum,
  until: number,
  size: PictureSize,
  tile: Tile,
  { transparent, noise, isEnough, preview }: PictureOptions,
  {
    show,
    begun,
    gauge,
  }: { show(pixels: Float32Array, noise: number | null): void; begun(): void; gauge: NoiseGauge },
): Drawing {
  while (sum.count < until) {
    yield* stage.addPass(sum, size, tile, transparent);
    if (sum.count === 1) begun();
    if (isEnough?.()) break;
    if ((!preview && noise === undefined) || !NoiseGauge.isDue(sum.count)) continue;
    yield* stage.clean(sum);
    const pixels = stage.linearPixels(sum.clean);
    const found = gauge.of(pixels);
    show(pixels, found);
    if (noise !== undefined && found !== null && found < noise) return;
  }
}

/** A tile with what smoothing looks at around it. */
function withRim({ x, y, width, height }: Tile, size: PictureSize): Tile {
  const [left, top] = [Math.max(0, x - CLEAN_REACH), Math.max(0, y - CLEAN_REACH)];
  const right = Math.min(size.width, x + width + CLEAN_REACH);
  const bottom = Math.min(size.height, y + height + CLEAN_REACH);
  return { x: left, y: top, width: right - left, height: bottom - top };
}

/** The pixels of a tile without its rim. */
function inner(pixels: Float32Array, wide: Tile, tile: Tile): Float32Array {
  if (wide.width === tile.width && wide.height === tile.height) return pixels;
  const out = new Float32Array(tile.width * tile.height * 4);
  for (let row = 0; row < tile.height; row++) {
    const from = 4 * ((tile.y - wide.y + row) * wide.width + tile.x - wide.x);
    out.set(pixels.subarray(from, from + 4 * tile.width), 4 * row * tile.width);
  }
  return out;
}

/** The tiles a picture is drawn in, from the top left. */
export function tilesOf({ width, height }: PictureSize, largest = LARGEST_TILE): Tile[] {
  const tiles: Tile[] = [];
  for (let y = 0; y < height; y += largest)
    for (let x = 0; x < width; x += largest)
      tiles.push({
        x,
        y,
        width: Math.min(largest, width - x),
        height: Math.min(largest, height - y),
      });
  return tiles;
}

async function wordsOn(
  scene: Scene,
  { run, step, parts, bounds, attached, readings, curves }: Frame,
  size: PictureSize,
  behind: Behind | null,
): Promise<Words> {
  for (const font of [WORDS_FONT, SERIF_FONT]) await document.fonts.load(`500 20px ${font}`);
  const worded = { scene, run, step, spreads: parts, behind, bounds, attached, readings, curves };
  return new WordsOver(size, (painter) => void paintWords(painter, worded, size));
}
