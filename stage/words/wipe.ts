import { stepOfMoment } from '#core/model/moment.ts';
import type { RunDescription } from '#core/model/run.ts';
import { sayStep } from '#core/motion/step-text.ts';
import type { Scene } from '#core/scene/document.ts';
import { momentOnShow } from '#core/scene/moment-on-show.ts';
import { isWiped, type WipeSide } from '#core/scene/things/wipe.ts';
import { type Lettering, measured, WORDS_FONT, type WordsPainter, write } from './lettering.ts';

/** Width of the edge, in hundredths of the height of the picture. */
const WIDTH = 0.3;

/**
 * Draws the edge of the wipe where it crosses the picture, with a shade at both sides, so that it is seen on whatever lies
 * behind; and beside it what its sides show.
 */
export function paintWipe(
  painter: WordsPainter,
  scene: Scene,
  run: RunDescription,
  look: Pick<Lettering, 'ink' | 'halo'>,
  { width, height }: { width: number; height: number },
): void {
  const { place, way, edge, colour, said } = scene.wipe;
  if (place <= 0 || place >= 1 || !isWiped(scene)) return;
  const across = way === 'across';
  // Where the picture is divided, to the pixel.
  const middle = across ? Math.round(place * width) : Math.round((1 - place) * height);
  const thick = Math.max(1, Math.round((WIDTH * height) / 100));
  const line = (extra: number): void => {
    // On whole pixels, so that it is as sharp as the division.
    const [at, wide] = [Math.floor(middle - thick / 2) - extra, thick + 2 * extra];
    if (across) painter.fillRect(at, 0, wide, height);
    else painter.fillRect(0, at, width, wide);
  };
  if (edge) {
    painter.fillStyle = 'rgb(0 0 0 / 0.3)';
    line(Math.max(1, Math.round(thick / 3)));
    painter.fillStyle = colour;
    line(0);
  }
  if (!said) return;
  const u = height / 100;
  for (const side of ['before', 'after'] as const) {
    const text = sayOfSide(scene, run, side);
    if (text === null) continue;
    const isBefore = side === 'before';
    // Where a side has no room for its words yet, they wait.
    const room = across ? (isBefore ? middle : width - middle) : isBefore ? height - middle : middle;
    const needed = across ? measured(painter, text, 3 * u, 500, WORDS_FONT) + 4 * u : 7 * u;
    if (room < needed) continue;
    const [x, y] = across
      ? [middle + (isBefore ? -2 * u : 2 * u), 6 * u]
      : [3 * u, middle + (isBefore ? 3.5 * u : -3.5 * u)];
    const align = across && isBefore ? 'right' : 'left';
    write(painter, { text, x, y, size: 3 * u, weight: 500, align }, { ...look, font: WORDS_FONT });
  }
}

/** What a side shows that the other does not: the line with a name, or the step that all of its lines show; null for neither. */
function sayOfSide(scene: Scene, run: RunDescription, side: WipeSide): string | null {
  const layers = scene.layers.filter((l) => l.visible && l.wipe === side);
  if (layers.length === 0) return null;
  if (layers.length === 1 && layers[0].name) return layers[0].name;
  if (!layers.every((l) => l.time.kind === 'fixed')) return null;
  const moment = momentOnShow({ ...scene, layers });
  return moment && sayStep(stepOfMoment(run, moment), run.timeUnit, scene.stamp);
}
