import type { Backdrop } from '#core/scene/backdrops/backdrop.ts';
import { type LegendOf, laidOutLegend, paintLegend } from './legend.ts';
import type { Box, WordsPainter } from './lettering.ts';

/** How much of the height of the strip its legends fill. */
const FILLED = 0.94;
/** Width of a bar to its height, at most: longer ones are no easier to read. */
const LONGEST = 9;

/** Paints legends lying beside each other, as large as a strip allows: for several pictures that share their scales. */
export function paintLegendStrip(
  painter: WordsPainter,
  legends: readonly LegendOf[],
  strip: Box,
  tone: Backdrop,
): void {
  const each = strip.width / Math.max(1, legends.length);
  for (const [i, given] of legends.entries()) {
    const { scale } = given;
    const legend = { ...scale.legend, upright: false, size: 1, compact: false, x: 0.5, y: 0.5 };
    const lying: LegendOf = { ...given, scale: { ...scale, legend: { ...legend, ground: 'none' } } };
    const width = Math.min(each, LONGEST * strip.height);
    // All of a legend grows with the height of its picture: one as high as it must be for the strip.
    const trial = laidOutLegend(painter, lying, { width, height: 1000 });
    const height = (1000 * FILLED * strip.height) / Math.max(1, trial.box.height);
    const size = { width, height };
    const layout = laidOutLegend(painter, lying, size);
    const across = strip.x + i * each + (each - width) / 2;
    const down = strip.y + strip.height / 2 - (layout.box.y + layout.box.height / 2);
    painter.save();
    painter.translate(across, down);
    paintLegend(painter, lying, layout, tone, null, size);
    painter.restore();
  }
}
