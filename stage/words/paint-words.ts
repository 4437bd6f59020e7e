import { stepOfMoment } from '#core/model/moment.ts';
import { parseQuantity, quantityName, quantityStatistics } from '#core/model/quantity.ts';
import { fieldByKey, type RunDescription } from '#core/model/run.ts';
import { sayStep } from '#core/motion/step-text.ts';
import type { Scale } from '#core/scene/document.ts';
import { isUnmoved } from '#core/scene/legend-places.ts';
import { momentOnShow } from '#core/scene/moment-on-show.ts';
import { saidInPicture } from '#core/scene/said-in-picture.ts';
import { settleScale, unitsOfScale } from '#core/scene/settle-scale.ts';
import { shownScales } from '#core/scene/shown-scales.ts';
import { type ShownSpread, spreadOfScale } from '#core/scene/spread-of-scale.ts';
import { partsInFront } from '../look-inside.ts';
import { type Annotated, paintAnnotations, roomOf } from './annotations.ts';
import { asideBy } from './free-place.ts';
import { type Behind, toneOf } from './ground.ts';
import { type LegendOf, laidOutLegend, paintLegend } from './legend.ts';
import type { LegendFacts, LegendLayout } from './legend-layout.ts';
import { type Box, clampTo, measured, WORDS_FONT, type WordsPainter, write } from './lettering.ts';
import { paintWipe } from './wipe.ts';

/** Where something lies on the picture, in its pixels, and what it is: for handling it on the stage. */
export interface WordsBox extends Box {
  kind: 'legend' | 'stamp' | 'annotation';
  /** Id of the scale, for a legend; of an annotation its own. */
  id: string;
  /** Of a legend, where its bar lies and where its title is written. */
  bar: Box | null;
  title: Box | null;
  /** Of words that hang, where. */
  anchor: { x: number; y: number } | null;
  /** What of the scene it was painted from: while the scene says something else, it is out of date. */
  of: object;
}

/** What words on a picture are about. */
export interface Worded extends Annotated {
  /** How values are spread over what is shown. */
  spreads: readonly ShownSpread[];
  /** What lies behind the words; null where it is not known yet. */
  behind: Behind | null;
}

/** A word begins with a capital letter; a symbol, as `p` or `k x`, stays what it is. */
const asTitle = (said: string): string =>
  /^\p{L}{3,}/u.test(said) ? said.charAt(0).toUpperCase() + said.slice(1) : said;

/** Title of a legend, its own or the quantity, with the unit its numbers are shown in. */
export function legendTitle(scale: Scale, run: RunDescription): { title: string; unit: string | null } {
  const { field: key, component } = parseQuantity(scale.quantity);
  const field = fieldByKey(run, key);
  const title = scale.legend.title ?? (field ? quantityName(field, component) : scale.name);
  return { title: asTitle(title), unit: unitsOfScale(scale, run).shown };
}

/** What is known of a scene on show, for its legends. */
type Legended = Pick<Worded, 'scene' | 'run' | 'step' | 'spreads'>;

/** A legend of a scene, ready to be laid out. */
export const legendOf = (scale: Scale, shown: Legended): LegendOf => ({
  scale,
  colours: settleScale(scale, shown.run, shown.step, spreadOfScale(scale, shown.scene, shown.spreads)),
  facts: factsOf(scale, shown),
});

function factsOf(scale: Scale, { scene, run, step, spreads }: Legended): LegendFacts {
  const { field: key, component } = parseQuantity(scale.quantity);
  const field = fieldByKey(run, key);
  const ends = (at: number | null): [number, number] | null => {
    const stats = field && quantityStatistics(field, component, at);
    return stats && Number.isFinite(stats.min) ? [stats.min, stats.max] : null;
  };
  return {
    ...legendTitle(scale, run),
    spread: spreadOfScale(scale, scene, spreads),
    ofStep: ends(step),
    ofAll: run.steps.length > 1 ? ends(null) : null,
  };
}

/**
 * Paints legends and the time on a picture of `width` by `height`. Sizes go with the height of the picture, so that
 * every size shows the same composition.
 */
export function paintWords(
  painter: WordsPainter,
  worded: Worded,
  size: { width: number; height: number },
): WordsBox[] {
  const { scene, run, behind } = worded;
  const tone = toneOf(scene.backdrop, behind);
  const boxes: WordsBox[] = [];
  paintWipe(painter, scene, run, tone, size);
  for (const scale of scene.legends.shown ? shownScales(scene) : []) {
    // Colours that nothing has need no legend.
    if (!scale.legend.visible || !fieldByKey(run, parseQuantity(scale.quantity).field)) continue;
    const own = legendOf(scale, worded);
    let layout = laidOutLegend(painter, own, size);
    // Legends that nobody moved stand beside the others, however wide these are.
    const aside = isUnmoved(scale) ? asideBy(layout.box, boxes, size.width, 0.02 * size.height) : 0;
    if (aside !== 0) {
      const x = (layout.box.x + aside + layout.box.width / 2) / size.width;
      layout = laidOutLegend(painter, { ...own, scale: { ...scale, legend: { ...scale.legend, x } } }, size);
    }
    paintLegend(painter, own, layout, tone, behind, size);
    boxes.push({
      kind: 'legend',
      id: scale.id,
      ...layout.box,
      bar: layout.bar,
      title: titleBox(layout),
      anchor: null,
      of: scale.legend,
    });
  }
  const stamp = paintStamp(painter, worded, size);
  if (stamp) boxes.push(stamp);
  const annotations = paintAnnotations(painter, worded, { tone, behind, size }, boxes);
  return [
    ...boxes,
    ...annotations.map((box): WordsBox => ({ kind: 'annotation', bar: null, title: null, ...box })),
  ];
}

function titleBox({ box, bar }: LegendLayout): Box {
  return { x: box.x, y: box.y, width: box.width, height: Math.min(bar.y - box.y, box.height / 3) };
}

function paintStamp(
  painter: WordsPainter,
  { scene, run, step, bounds, behind }: Worded,
  { width, height }: { width: number; height: number },
): WordsBox | null {
  const u = height / 100;
  const away = scene.lookInside.front === 'removed' ? partsInFront(scene, run, bounds) : undefined;
  const notes = scene.stamp.notes ? saidInPicture(scene, run, away) : [];
  const moment = momentOnShow({ ...scene, step });
  const shown = run.steps.length > 0 && moment ? stepOfMoment(run, moment) : null;
  // A single step at zero is a state without a time: there is nothing to say.
  const timeless = shown?.kind === 'time' && shown.time === 0;
  const stands = run.steps.length > 1 || (notes.length === 0 && !timeless);
  const timed = scene.stamp.visible && shown && stands;
  const text = [...(timed ? [sayStep(shown, run.timeUnit, scene.stamp)] : []), ...notes].join(' · ');
  if (text === '') return null;
  const box = { width: measured(painter, text, 3 * u, 500, WORDS_FONT), height: 3.8 * u };
  const x = clampTo(scene.stamp.x * width, 2 * u, width - box.width - 2 * u);
  const room = roomOf(scene, { width, height });
  const foot = room.y + room.height - box.height - 2 * u;
  const y = clampTo(scene.stamp.y * height - box.height / 2, room.y + 2 * u, foot);
  const { ink, halo } = toneOf(scene.backdrop, behind);
  const look = { font: WORDS_FONT, ink, halo };
  write(painter, { text, x, y: y + box.height / 2, size: 3 * u, weight: 500, align: 'left' }, look);
  return { kind: 'stamp', id: 'stamp', x, y, ...box, bar: null, title: null, anchor: null, of: scene.stamp };
}
