import type { Rgb } from '#core/colour/cielab.ts';
import type { Writing } from '#core/scene/annotations/drawing.ts';
import type { WordsRect } from '#core/scene/snap-words.ts';

export type { Writing };

export const WORDS_FONT = "'Inter Variable', system-ui, sans-serif";
export const SERIF_FONT = "'Newsreader Variable', Georgia, serif";

export type WordsPainter = CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D;

/** A rectangle on a picture, in its pixels from the top left. */
export type Box = WordsRect;

/** How words look: their letters, their colour and that of the thin halo that keeps them legible. */
export interface Lettering {
  font: string;
  ink: string;
  halo: string;
}

export const fontOf = (size: number, weight: number, font: string): string => `${weight} ${size}px ${font}`;

/** Width of a text in pixels. */
export function measured(
  painter: WordsPainter,
  text: string,
  size: number,
  weight: number,
  font: string,
): number {
  painter.font = fontOf(size, weight, font);
  return painter.measureText(text).width;
}

/** Words in ink with a thin halo, legible on most of what lies beneath. */
export function write(
  painter: WordsPainter,
  { text, x, y, size, weight, align }: Writing,
  look: Lettering,
): void {
  painter.font = fontOf(size, weight, look.font);
  painter.textBaseline = 'middle';
  painter.textAlign = align;
  painter.lineJoin = 'round';
  painter.strokeStyle = look.halo;
  painter.lineWidth = 0.2 * size;
  painter.strokeText(text, x, y);
  painter.fillStyle = look.ink;
  painter.fillText(text, x, y);
}

export const clampTo = (v: number, low: number, high: number): number =>
  Math.max(low, Math.min(v, Math.max(low, high)));

export const rgbCss = ([r, g, b]: Rgb, alpha: number): string =>
  `rgb(${[r, g, b].map((v) => Math.round(255 * v)).join(' ')} / ${alpha})`;
