import type { WordsRect } from '../snap-words.ts';
import type { MoveSetting } from './annotation.ts';

/** A rectangle moved so that all of it is within a picture, with a margin. */
export function keptInside(
  box: WordsRect,
  { width, height }: { width: number; height: number },
  margin: number,
): WordsRect {
  const within = (at: number, size: number, whole: number): number =>
    Math.max(margin, Math.min(at, Math.max(margin, whole - margin - size)));
  return { ...box, x: within(box.x, box.width, width), y: within(box.y, box.height, height) };
}

/** Share of a box that lies before the place it is set by: at its left, in its middle, at its right. */
export const shareBefore = { left: 0, center: 0.5, right: 1 } as const;

/** The place, as a fraction of the picture, of a box that was moved; it is set by its middle unless stated. */
export function placeAfterMove(
  { x: dx, y: dy }: { x: number; y: number },
  { box, width, height }: MoveSetting,
  align: keyof typeof shareBefore = 'center',
): { x: number; y: number } {
  const within = (v: number): number => Math.min(1, Math.max(0, v));
  return {
    x: within((box.x + dx + shareBefore[align] * box.width) / width),
    y: within((box.y + dy + box.height / 2) / height),
  };
}
