import type { Scene } from '#core/scene/document.ts';
import { isWiped } from '#core/scene/things/wipe.ts';
import type { WordsPainter } from './lettering.ts';

/** Width of the edge, in hundredths of the height of the picture. */
const WIDTH = 0.3;

/** Draws the edge of the wipe where it crosses the picture, with a shade at both sides: it is seen on whatever lies behind. */
export function paintWipeEdge(
  painter: WordsPainter,
  scene: Pick<Scene, 'layers' | 'wipe'>,
  { width, height }: { width: number; height: number },
): void {
  const { place, way, edge, colour } = scene.wipe;
  if (!edge || place <= 0 || place >= 1 || !isWiped(scene)) return;
  const thick = Math.max(1, Math.round((WIDTH * height) / 100));
  // Where the picture is divided, to the pixel.
  const middle = way === 'across' ? Math.round(place * width) : Math.round((1 - place) * height);
  const line = (extra: number): void => {
    // On whole pixels, so that it is as sharp as the division.
    const [at, wide] = [Math.floor(middle - thick / 2) - extra, thick + 2 * extra];
    if (way === 'across') painter.fillRect(at, 0, wide, height);
    else painter.fillRect(0, at, width, wide);
  };
  painter.fillStyle = 'rgb(0 0 0 / 0.3)';
  line(Math.max(1, Math.round(thick / 3)));
  painter.fillStyle = colour;
  line(0);
}
