import { hexToRgb } from '#core/colour/cielab.ts';
import { type CompiledScale, cssColour } from '#core/colour/compiled-scale.ts';
import type { Backdrop } from '#core/scene/backdrops/backdrop.ts';
import type { Scale } from '#core/scene/document.ts';
import { type Behind, groundFor, paintGround } from './ground.ts';
import { type LegendFacts, type LegendLayout, layoutLegend } from './legend-layout.ts';
import { type Lettering, measured, SERIF_FONT, WORDS_FONT, type WordsPainter, write } from './lettering.ts';

/** What a legend needs to be laid out and painted. */
export interface LegendOf {
  scale: Scale;
  colours: CompiledScale;
  facts: LegendFacts;
}

interface Size {
  width: number;
  height: number;
}

const fontOf = ({ legend }: Scale): string => (legend.serif ? SERIF_FONT : WORDS_FONT);

/** Lays out a legend by the letters of a painter. */
export const laidOutLegend = (
  painter: WordsPainter,
  { scale, colours, facts }: LegendOf,
  size: Size,
): LegendLayout =>
  layoutLegend(scale, colours, facts, {
    ...size,
    measure: (text, letters, weight) => measured(painter, text, letters, weight, fontOf(scale)),
  });

/** Paints a legend; its colours come pixel row by pixel row from the same function as the model's. */
export function paintLegend(
  painter: WordsPainter,
  { scale, colours }: LegendOf,
  layout: LegendLayout,
  tone: Backdrop,
  behind: Behind | null,
  size: Size,
): void {
  const { legend } = scale;
  const look: Lettering = { font: fontOf(scale), ink: legend.ink ?? tone.ink, halo: tone.halo };
  const { plate } = tone;
  const ground = groundFor(legend.ground, look.ink, plate, behind, layout.box, size);
  paintGround(painter, ground, plate, layout.box, 0.014 * size.height * legend.size, behind, size);
  paintBar(painter, colours, layout);
  painter.strokeStyle = look.ink;
  painter.fillStyle = look.ink;
  painter.lineWidth = layout.line;
  painter.strokeRect(layout.bar.x, layout.bar.y, layout.bar.width, layout.bar.height);
  for (const { corners, value } of layout.ends) {
    polygon(painter, corners);
    painter.fillStyle = cssColour(colours.colour(value));
    painter.fill();
    painter.stroke();
  }
  painter.fillStyle = look.ink;
  for (const [[x0, y0], [x1, y1]] of layout.ticks)
    painter.fillRect(
      Math.min(x0, x1) - (layout.upright ? 0 : layout.line / 2),
      Math.min(y0, y1) - (layout.upright ? layout.line / 2 : 0),
      Math.abs(x1 - x0) || layout.line,
      Math.abs(y1 - y0) || layout.line,
    );
  painter.globalAlpha = 0.38;
  for (const { x, y, width, height } of layout.columns) painter.fillRect(x, y, width, height);
  painter.globalAlpha = 1;
  for (const { corners, filled } of layout.marks) {
    polygon(painter, corners);
    if (filled) painter.fill();
    else painter.stroke();
  }
  if (layout.missing) {
    const { box, colour } = layout.missing;
    painter.fillStyle = cssColour(hexToRgb(colour));
    painter.fillRect(box.x, box.y, box.width, box.height);
    painter.strokeRect(box.x, box.y, box.width, box.height);
  }
  for (const text of layout.texts) write(painter, text, look);
}

function polygon(painter: WordsPainter, corners: readonly (readonly [number, number])[]): void {
  painter.beginPath();
  for (const [i, [x, y]] of corners.entries()) {
    if (i === 0) painter.moveTo(x, y);
    else painter.lineTo(x, y);
  }
  painter.closePath();
}

/** What is hidden on the model leaves the bar open; what is seen through is as much so in it. */
function paintBar(painter: WordsPainter, colours: CompiledScale, { bar, upright }: LegendLayout): void {
  const x0 = Math.round(bar.x);
  const y0 = Math.round(bar.y);
  const n = Math.max(2, Math.round(upright ? bar.height : bar.width));
  for (let i = 0; i < n; i++) {
    const value = colours.value((i + 0.5) / n);
    if (colours.hides(value)) continue;
    painter.globalAlpha = colours.opacityOf(value);
    painter.fillStyle = cssColour(colours.colour(value));
    if (upright) painter.fillRect(x0, y0 + n - 1 - i, Math.round(bar.width), 1);
    else painter.fillRect(x0 + i, y0, 1, Math.round(bar.height));
  }
  painter.globalAlpha = 1;
}
