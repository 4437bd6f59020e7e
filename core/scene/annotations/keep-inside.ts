import type { WordsRect } from '../snap-words.ts';
import type { AnnotationSetting, MoveSetting } from './annotation.ts';

/** A rectangle moved so that all of it is within what is left of a picture, with a margin. */
export function keptInside(
  box: WordsRect,
  { room }: Pick<AnnotationSetting, 'room'>,
  margin: number,
): WordsRect {
  const within = (at: number, size: number, from: number, whole: number): number =>
    Math.max(from + margin, Math.min(at, Math.max(from + margin, from + whole - margin - size)));
  return {
    ...box,
    x: within(box.x, box.width, room.x, room.width),
    y: within(box.y, box.height, room.y, room.height),
  };
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
