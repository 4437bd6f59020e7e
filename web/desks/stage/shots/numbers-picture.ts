import { chartDrawn } from '#core/scene/charts/chart-drawn.ts';
import type { Scene } from '#core/scene/document.ts';
import { gaugeLabel, givesCurve } from '#core/scene/gauge-label.ts';
import { isReading } from '#core/scene/reading.ts';
import { sayValueRead } from '#core/scene/say-reading.ts';
import type { SceneSource } from '#engine/scene-source.ts';
import { loadChartLibrary, paintChart } from '#stage/charts/paint-chart.ts';
import { WORDS_FONT } from '#stage/words/lettering.ts';
import { INK, PAPER } from '#web/desks/shared/on-paper.ts';
import { paintTable } from '#web/desks/shared/paint-table.ts';
import { asThumbnail, THUMBNAIL_WIDTH } from '#web/desks/shared/thumbnails.ts';

/** Height of letters, as a share of that of the picture. */
const LETTERS = 0.024;

/** What the desk of gauges says of a scene at its step, on paper: the readings in a table, and its charts below each other. */
export async function numbersPicture(
  source: SceneSource,
  scene: Scene,
  { width, height }: { width: number; height: number },
): Promise<HTMLCanvasElement> {
  const run = await source.withRanges(scene);
  const gauges = scene.gauges.filter((g) => !givesCurve(g));
  const readings = await source.gauges.readings(gauges, scene, scene.step, 'numbers');
  const curves = await source.curves.of(scene.charts, scene, run, scene.step);
  await loadChartLibrary();
  await document.fonts.load(`500 20px ${WORDS_FONT}`);
  const canvas = document.createElement('canvas');
  Object.assign(canvas, { width, height });
  const painter = canvas.getContext('2d', { willReadFrequently: true })!;
  painter.fillStyle = PAPER;
  painter.fillRect(0, 0, width, height);
  const letters = Math.max(7, Math.round(LETTERS * height));
  const margin = Math.round(0.03 * width);
  const rows = gauges.map((gauge) => {
    const found = readings[gauge.id];
    return [gaugeLabel(gauge, scene, run), isReading(found) ? sayValueRead(found) : '–'];
  });
  const room = height - 2 * margin;
  const wanted = (rows.length + 0.5) * 1.6 * letters;
  // Charts have half of the height at least.
  const table = rows.length === 0 ? 0 : scene.charts.length > 0 ? Math.min(wanted, room / 2) : room;
  paintTable(painter, rows, { x: margin, y: margin, width: width - 2 * margin, height: table }, letters);
  const each = (room - table) / Math.max(1, scene.charts.length);
  for (const [i, chart] of scene.charts.entries()) {
    const drawn = chartDrawn(chart, curves, scene, run, scene.step);
    const box = { x: margin, y: margin + table + i * each, width: width - 2 * margin, height: each };
    const shape = { kind: 'chart' as const, drawn, box, title: chart.title, letters, ink: INK };
    paintChart(painter, shape, INK, WORDS_FONT);
  }
  return canvas;
}

/** The same, small, as it is kept beside a shot. */
export const numbersThumbnail = async (source: SceneSource, scene: Scene): Promise<string> =>
  asThumbnail(
    await numbersPicture(source, scene, {
      width: THUMBNAIL_WIDTH,
      height: Math.round(THUMBNAIL_WIDTH / 1.5),
    }),
  );
