import { drawnScenes } from '#core/beside/drawn-scenes.ts';
import { type Pane, pairOf, type ScenePane, type SideBySide, scenePanes } from '#core/beside/side-by-side.ts';
import { type Box, DIFFERENCE, sideLayout } from '#core/beside/side-layout.ts';
import { sayNumber, sayQuantity } from '#core/language/sentence.ts';
import { sayStep } from '#core/motion/step-text.ts';
import type { Scene } from '#core/scene/document.ts';
import type { SceneSource } from '#engine/scene-source.ts';
import { loadChartLibrary, paintChart } from '#stage/charts/paint-chart.ts';
import { developed } from '#stage/pictures/develop.ts';
import type { PictureSize, Stage } from '#stage/stage.ts';
import { WORDS_FONT } from '#stage/words/lettering.ts';
import { developScene } from '#web/desks/give-out/darkroom.ts';
import { INK, PAPER, SOFT } from '#web/desks/shared/on-paper.ts';
import { paintTable } from '#web/desks/shared/paint-table.ts';
import { onShowOf } from '#web/desks/stage/scene-feed.ts';
import { differenceIn, type PaneOnShow, scaledPanes, titleOf, useBeside } from './beside-store.ts';
import { curvesOfPanes } from './CurvesPane.tsx';
import { largestDifferences } from './largest-differences.ts';
import { usualTitle } from './PaneHead.tsx';
import { paintSharedLegends } from './paint-side.ts';
import { readingsTable } from './readings-table.ts';
import type { SideController } from './side-controller.ts';

interface SideOptions {
  passes: number;
  signal: AbortSignal;
  /** Told how much of the picture is done, from 0 to 1. */
  progress(done: number): void;
}

/** Of the picture, the height of the letters of titles: they stand to it as on a screen of 700 pixels. */
const LETTERS = 0.02;
/** More of the largest differences than this are not listed. */
const LISTED = 6;

/** What is seen of panes, in one picture as it stands on the screen: scenes with their shared scales, titles, legend, curves and tables. */
export async function developSide(
  controller: SideController,
  stage: Stage,
  given: SideBySide,
  size: PictureSize,
  { passes, signal, progress }: SideOptions,
): Promise<HTMLCanvasElement> {
  const { runs } = useBeside.getState();
  // What blinks cannot do so in a picture: both stand beside each other.
  const pair = given.show.as === 'blink' ? pairOf(given) : null;
  const side: SideBySide = pair
    ? { ...given, panes: pair, show: { ...given.show, as: 'panes', across: null } }
    : given;
  const there = scenePanes(side).filter((p) => runs.has(p.run));
  const onShow: Record<string, PaneOnShow> = {};
  for (const pane of there) {
    const frame = await controller.sourceOf(pane.run).frame(pane.scene, pane.scene.step, `given ${pane.id}`);
    signal.throwIfAborted();
    onShow[pane.id] = { ...onShowOf(frame), run: frame.run };
  }
  const drawn = drawnScenes(scaledPanes(side, runs, onShow), side.show.legend);
  const letters = Math.max(9, LETTERS * size.height);
  const layout = sideLayout(side, size, letters, drawn.legends.length > 0);
  const canvas = document.createElement('canvas');
  Object.assign(canvas, size);
  const painter = canvas.getContext('2d', { willReadFrequently: true })!;
  painter.fillStyle = PAPER;
  painter.fillRect(0, 0, size.width, size.height);
  await document.fonts.load(`500 20px ${WORDS_FONT}`);
  const two = pairOf(side);
  const upon = two && ['wipe', 'blend'].includes(side.show.as) ? two : null;
  const picture = async (
    source: SceneSource,
    scene: Scene,
    box: Box,
    n: number,
  ): Promise<HTMLCanvasElement> =>
    developed(
      await developScene(stage, source, scene, scene.step, {
        width: Math.max(8, Math.round(box.width)),
        height: Math.max(8, Math.round(box.height)),
        transparent: false,
        passes,
        signal,
        progress: (done) => progress((n + done) / layout.panes.length),
      }),
    );
  for (const [n, { id, title, picture: box }] of layout.panes.entries()) {
    const pane = side.panes.find((p) => p.id === id);
    if (id === DIFFERENCE && two) await paintDifference(n, title, box, two);
    else if (pane) await paintPane(n, pane, title, box);
  }
  if (layout.legend) paintSharedLegends(painter, drawn, onShow, layout.legend);
  return canvas;

  async function paintPane(n: number, pane: Pane, title: Box, box: Box): Promise<void> {
    const name = pane.title ?? usualTitle(pane, side.panes, runs);
    paintTitle(painter, name, pane.kind === 'scene' ? timeOf(pane) : '', title, letters);
    if (pane.kind === 'curves') {
      const curves = await curvesOfPanes(there, pane.chart, controller);
      await loadChartLibrary();
      if (curves)
        paintChart(
          painter,
          { kind: 'chart', drawn: curves, box, title: null, letters, ink: INK },
          INK,
          WORDS_FONT,
        );
      return;
    }
    if (pane.kind === 'readings') {
      const { titles, rows } = await readingsTable(there, controller);
      const table = [['', ...titles], ...rows.map((r) => [r.name, ...r.cells.map((c) => c ?? '–')])];
      paintTable(painter, table, box, letters, true);
      return;
    }
    if (!runs.has(pane.run)) {
      paintText(painter, 'The run is no longer there.', box.x + letters, box.y + 2 * letters, letters, SOFT);
      return;
    }
    const scene = drawn.scenes.get(pane.id) ?? pane.scene;
    const made = await picture(controller.sourceOf(pane.run), scene, box, n);
    painter.save();
    if (upon?.[0].id === pane.id) {
      if (side.show.as === 'blend') painter.globalAlpha = side.show.share;
      else {
        painter.beginPath();
        painter.rect(box.x, box.y, side.show.share * box.width, box.height);
        painter.clip();
      }
    }
    painter.drawImage(made, box.x, box.y, box.width, box.height);
    painter.restore();
    if (upon?.[0].id === pane.id && side.show.as === 'wipe') {
      painter.fillStyle = INK;
      const thick = Math.max(1, letters / 9);
      painter.fillRect(box.x + side.show.share * box.width - thick / 2, box.y, thick, box.height);
    }
  }

  async function paintDifference(
    n: number,
    title: Box,
    box: Box,
    both: [ScenePane, ScenePane],
  ): Promise<void> {
    const [first, second] = both;
    const found = differenceIn(side, runs, drawn.scenes);
    paintTitle(painter, `${titleOf(first, runs)} less ${titleOf(second, runs)}`, '', title, letters);
    if (typeof found === 'string') {
      paintText(painter, found, box.x + letters, box.y + 2 * letters, letters, SOFT);
      return;
    }
    const source = controller.differenceSource;
    painter.drawImage(await picture(source, found.scene, box, n), box.x, box.y, box.width, box.height);
    const largest = await largestDifferences(source, found.scene, found.name);
    const rows = largest
      .slice(0, LISTED)
      .map(({ part, value, unit, place }) => [
        part,
        `${value > 0 ? '+' : ''}${sayQuantity(value, unit, 4)}`,
        place ? `(${place.map((v) => sayNumber(v, 3)).join(', ')})` : '',
      ]);
    const small = 0.85 * letters;
    const list = {
      x: box.x + small,
      y: box.y + small,
      width: 26 * small,
      height: (rows.length + 0.6) * 1.6 * small,
    };
    if (rows.length === 0) return;
    painter.fillStyle = 'rgb(255 255 255 / 0.85)';
    painter.fillRect(list.x - small / 2, list.y - small / 2, list.width + small, list.height);
    paintTable(painter, rows, list, small);
  }

  function timeOf({ run: id, scene }: ScenePane): string {
    const run = runs.get(id);
    if (!run || run.steps.length < 2) return '';
    return sayStep(run.steps[Math.min(scene.step, run.steps.length - 1)], run.timeUnit, scene.stamp);
  }
}

type Painter = CanvasRenderingContext2D;

function paintText(painter: Painter, text: string, x: number, y: number, letters: number, ink: string): void {
  painter.font = `400 ${letters}px ${WORDS_FONT}`;
  painter.textAlign = 'left';
  painter.textBaseline = 'middle';
  painter.fillStyle = ink;
  painter.fillText(text, x, y);
}

function paintTitle(painter: Painter, name: string, time: string, box: Box, letters: number): void {
  const middle = box.y + box.height / 2;
  painter.textBaseline = 'middle';
  painter.textAlign = 'left';
  painter.font = `600 ${letters}px ${WORDS_FONT}`;
  painter.fillStyle = INK;
  painter.fillText(name, box.x + letters / 2, middle, box.width * (time ? 0.66 : 0.96));
  if (!time) return;
  painter.font = `400 ${letters}px ${WORDS_FONT}`;
  painter.fillStyle = SOFT;
  painter.textAlign = 'right';
  painter.fillText(time, box.x + box.width - letters / 2, middle, box.width * 0.3);
}
