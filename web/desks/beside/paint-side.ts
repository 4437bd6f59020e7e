import type { DrawnScenes } from '#core/beside/drawn-scenes.ts';
import type { Box } from '#core/beside/side-layout.ts';
import { white } from '#core/scene/backdrops/white.ts';
import type { LegendOf } from '#stage/words/legend.ts';
import { paintLegendStrip } from '#stage/words/legend-strip.ts';
import type { WordsPainter } from '#stage/words/lettering.ts';
import { legendOf } from '#stage/words/paint-words.ts';
import type { PaneOnShow } from './beside-store.ts';

/** The legends that all panes share, beside each other on white. */
export function paintSharedLegends(
  painter: WordsPainter,
  { scenes, legends }: DrawnScenes,
  onShow: Readonly<Record<string, PaneOnShow>>,
  box: Box,
): void {
  painter.fillStyle = white.top;
  painter.fillRect(box.x, box.y, box.width, box.height);
  const shown = legends.flatMap(({ pane, scale: id }): LegendOf[] => {
    const [scene, known] = [scenes.get(pane), onShow[pane]];
    const scale = scene?.scales.find((s) => s.id === id);
    if (!scene || !known || !scale) return [];
    return [legendOf(scale, { scene, run: known.run, step: scene.step, spreads: known.spreads })];
  });
  paintLegendStrip(painter, shown, box, white);
}
