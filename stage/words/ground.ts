import { hexToRgb, luminance, type Rgb, rgbToHex } from '#core/colour/cielab.ts';
import { contrastOfLuminances, LEGIBLE } from '#core/colour/contrast.ts';
import { fromLinear, toLinear } from '#core/model/srgb.ts';
import type { Backdrop } from '#core/scene/backdrops/backdrop.ts';
import { ownBackdrop } from '#core/scene/backdrops/own.ts';
import { backdropOf, shownBackdrops } from '#core/scene/backdrops/registry.ts';
import type { Scene } from '#core/scene/document.ts';
import type { LegendGround } from '#core/scene/things/legend.ts';
import { type Box, rgbCss, type WordsPainter } from './lettering.ts';

/** A small copy of a picture without its words: what lies behind them. */
export interface Behind {
  width: number;
  height: number;
  /** Red, green, blue and opacity as screens have them, top row first. */
  pixels: Uint8ClampedArray<ArrayBuffer>;
}

/** Width of that copy: fine enough to tell what lies behind a legend, coarse enough to be a blur of it. */
export const BEHIND_WIDTH = 96;

/** Share of the pixels behind that may be less legible than asked. */
const SLACK = 0.04;

/** Luminances of what lies behind a box, lowest first; empty where it is not known. */
function luminancesIn(behind: Behind | null, box: Box, size: { width: number; height: number }): number[] {
  if (!behind) return [];
  const sx = behind.width / size.width;
  const sy = behind.height / size.height;
  const [left, top] = [Math.max(0, Math.floor(box.x * sx)), Math.max(0, Math.floor(box.y * sy))];
  const right = Math.min(behind.width, Math.ceil((box.x + box.width) * sx));
  const bottom = Math.min(behind.height, Math.ceil((box.y + box.height) * sy));
  const out: number[] = [];
  for (let y = top; y < bottom; y++)
    for (let x = left; x < right; x++) {
      const at = 4 * (y * behind.width + x);
      const [r, g, b] = behind.pixels.subarray(at, at + 3);
      out.push(luminance([r / 255, g / 255, b / 255]));
    }
  return out.sort((a, b) => a - b);
}

/** The lowest and highest luminance behind, but for a few pixels. */
const extremesOf = (sorted: number[]): [number, number] => {
  const skip = Math.floor(SLACK * sorted.length);
  return [sorted[skip], sorted[sorted.length - 1 - skip]];
};

/**
 * How words are on a backdrop. Where that shows a picture, they are dark or bright by what lies behind: by the middle of its
 * luminances, once that is known.
 */
export function toneOf(backdrop: Scene['backdrop'], behind: Behind | null): Backdrop {
  const tone = backdropOf(backdrop);
  if (!behind || !shownBackdrops.some(({ id }) => id === backdrop.kind)) return tone;
  const whole = { x: 0, y: 0, width: 1, height: 1 };
  const sorted = luminancesIn(behind, whole, whole);
  const grey = fromLinear(sorted[sorted.length >> 1]);
  const middle = rgbToHex([grey, grey, grey]);
  return { ...ownBackdrop(middle, middle), id: tone.id, name: tone.name };
}

/** What is painted behind words. */
export interface Ground {
  kind: 'none' | 'plate' | 'blur';
  /** How opaque the plate is. */
  opacity: number;
}

/** A plate that was asked for is there to be seen. */
const LEAST_PLATE = 0.6;

/**
 * What has to lie behind words so that they are legible (WCAG 2.2): nothing where the picture has the contrast by
 * itself, else a plate just as opaque as needed.
 *
 * @param ink `#rrggbb` of the words
 * @param plate of the plate
 */
export function groundFor(
  asked: LegendGround,
  ink: string,
  plate: string,
  behind: Behind | null,
  box: Box,
  size: { width: number; height: number },
): Ground {
  if (asked === 'none') return { kind: 'none', opacity: 0 };
  const sorted = luminancesIn(behind, box, size);
  const words = luminance(hexToRgb(ink));
  if (sorted.length === 0)
    return asked === 'as needed' ? { kind: 'none', opacity: 0 } : { kind: asked, opacity: 0.88 };
  const own = luminance(hexToRgb(plate));
  const [darkest, lightest] = extremesOf(sorted);
  const legible = (opacity: number): boolean => {
    const [low, high] = [darkest, lightest].map((l) => mixedLuminance(l, own, opacity));
    // Between what is darker and what is lighter than the words there is a place where they vanish.
    if (words > low && words < high) return false;
    return Math.min(contrastOfLuminances(words, low), contrastOfLuminances(words, high)) >= LEGIBLE;
  };
  // As much as is needed and no more, so that from frame to frame of a film nothing jumps.
  let [from, to] = [0, 1];
  if (legible(0)) to = 0;
  for (let i = 0; i < 10 && to > 0; i++) {
    const half = (from + to) / 2;
    if (legible(half)) to = half;
    else from = half;
  }
  if (asked === 'as needed') return to === 0 ? { kind: 'none', opacity: 0 } : { kind: 'plate', opacity: to };
  return { kind: asked, opacity: Math.max(to, LEAST_PLATE) };
}

/**
 * The least contrast of words with what lies behind them (WCAG 2.2), a few pixels left out.
 *
 * @param words their luminance
 * @param plate what was painted between; null for nothing
 * @returns null where it is not known what lies behind
 */
export function leastContrast(
  words: number,
  plate: { luminance: number; opacity: number } | null,
  behind: Behind | null,
  box: Box,
  size: { width: number; height: number },
): number | null {
  const sorted = luminancesIn(behind, box, size);
  if (plate?.opacity === 1) return contrastOfLuminances(words, plate.luminance);
  if (sorted.length === 0) return null;
  const [low, high] = extremesOf(sorted).map((l) =>
    plate ? mixedLuminance(l, plate.luminance, plate.opacity) : l,
  );
  if (words > low && words < high) return 1;
  return Math.min(contrastOfLuminances(words, low), contrastOfLuminances(words, high));
}

/** Near enough: screens mix coloured light by its square root, greys are taken for it. */
function mixedLuminance(behind: number, plate: number, opacity: number): number {
  const grey = (l: number): number => (l <= 0.0031308 ? 12.92 * l : 1.055 * l ** (1 / 2.4) - 0.055);
  return toLinear(grey(behind) + opacity * (grey(plate) - grey(behind)));
}

/** Paints a ground around a box. */
export function paintGround(
  painter: WordsPainter,
  ground: Ground,
  plate: string,
  box: Box,
  pad: number,
  behind: Behind | null,
  size: { width: number; height: number },
): void {
  if (ground.kind === 'none') return;
  const wide = { x: box.x - pad, y: box.y - pad, width: box.width + 2 * pad, height: box.height + 2 * pad };
  painter.save();
  painter.beginPath();
  painter.roundRect(wide.x, wide.y, wide.width, wide.height, pad);
  painter.clip();
  if (ground.kind === 'blur' && behind) blurInto(painter, behind, size);
  painter.fillStyle = rgbCss(hexToRgb(plate) as Rgb, ground.opacity);
  painter.fillRect(wide.x, wide.y, wide.width, wide.height);
  painter.restore();
}

/** The small copy as large as the picture: stretched, it is a blur. */
function blurInto(painter: WordsPainter, behind: Behind, size: { width: number; height: number }): void {
  const small = new OffscreenCanvas(behind.width, behind.height);
  small.getContext('2d')!.putImageData(new ImageData(behind.pixels, behind.width, behind.height), 0, 0);
  painter.imageSmoothingEnabled = true;
  painter.imageSmoothingQuality = 'high';
  painter.drawImage(small, 0, 0, size.width, size.height);
}
