import type { Mark, MarkKind } from '#core/model/mark.ts';
import { arrowPainter } from './arrow.ts';
import { dotPainter } from './dot.ts';
import { linePainter } from './line.ts';
import type { PartLook } from './look.ts';
import type { Uniforms } from './material.ts';
import type { PaintedMark, Painter } from './painter.ts';
import { spherePainter } from './sphere.ts';
import { surfacePainter } from './surface.ts';
import { textPainter } from './text.ts';
import { volumePainter } from './volume.ts';

/** One painter for each kind of mark. A new kind is a file beside these and a line here. */
const painters: { [K in MarkKind]: Painter<K> } = {
  surface: surfacePainter,
  line: linePainter,
  dot: dotPainter,
  sphere: spherePainter,
  arrow: arrowPainter,
  text: textPainter,
  volume: volumePainter,
};

/** A mark made ready to be drawn. */
export const paintMark = (mark: Mark, look: PartLook, shared: Uniforms): PaintedMark =>
  (painters[mark.kind] as Painter).paint(mark, look, shared);
