import { type CompiledScale, cssColour } from '#core/colour/compiled-scale.ts';
import { labelsWithRoom, tickTexts } from '#core/colour/ticks.ts';
import { parseQuantity, quantityName } from '#core/model/quantity.ts';
import { fieldByKey, type RunDescription } from '#core/model/run.ts';
import { sayStep } from '#core/motion/step-text.ts';
import type { Backdrop } from '#core/scene/backdrops/backdrop.ts';
import { backdropById } from '#core/scene/backdrops/registry.ts';
import type { Scale, Scene } from '#core/scene/document.ts';
import { saidInPicture } from '#core/scene/said-in-picture.ts';
import { settleScale } from '#core/scene/settle-scale.ts';
import { shownScales } from '#core/scene/shown-scales.ts';

/** Where something lies on the picture, in its pixels, and what it is: for dragging on the stage. */
export interface WordsBox {
  kind: 'legend' | 'stamp';
  /** Id of the scale, for a legend. */
  id: string;
  x: number;
  y: number;
  width: number;
  height: number;
}

export const WORDS_FONT = "'Inter Variable', system-ui, sans-serif";

type Painter = CanvasRenderingContext2D | OffscreenCanvasRenderingContext2D;

/** Title of a legend: its own, or the quantity with its unit. */
/** A word begins with a capital letter; a symbol, as `p` or `k x`, stays what it is. */
const asTitle = (said: string): string =>
  /^\p{L}{3,}/u.test(said) ? said.charAt(0).toUpperCase() + said.slice(1) : said;

export function legendTitle(scale: Scale, run: RunDescription): { title: string; unit: string | null } {
  const { field: key, component } = parseQuantity(scale.quantity);
  const field = fieldByKey(run, key);
  const title = scale.legend.title ?? (field ? quantityName(field, component) : scale.name);
  return { title: asTitle(title), unit: field?.unit ?? null };
}

/**
 * Paints legends and the time on a picture of `width` by `height`. Sizes go with the height of the picture, so that
 * every size shows the same composition.
 */
export function paintWords(
  painter: Painter,
  scene: Scene,
  run: RunDescription,
  step: number,
  width: number,
  height: number,
): WordsBox[] {
  const boxes: WordsBox[] = [];
  for (const scale of shownScales(scene)) {
    // Colours that nothing has need no legend.
    if (!scale.legend.visible || !fieldByKey(run, parseQuantity(scale.quantity).field)) continue;
    boxes.push(paintLegend(painter, scene, scale, run, settleScale(scale, run, step), width, height));
  }
  if (scene.stamp.visible && run.steps.length > 0)
    boxes.push(paintStamp(painter, scene, run, step, width, height));
  return boxes;
}

function paintLegend(
  painter: Painter,
  scene: Scene,
  scale: Scale,
  run: RunDescription,
  colours: CompiledScale,
  width: number,
  height: number,
): WordsBox {
  const u = height / 100;
  const { upright } = scale.legend;
  const { title, unit } = legendTitle(scale, run);
  const ticks = colours.ticks();
  const { texts, power } = tickTexts(ticks);
  const unitText = [power ? `× 10${superscript(power)}` : '', unit ?? ''].filter(Boolean).join(' ');
  const heading = unitText ? `${title}, ${unitText}` : title;
  const font = (size: number, weight = 400): string => `${weight} ${size * u}px ${WORDS_FONT}`;
  painter.font = font(2.25);
  const labelWidth = Math.max(...texts.map((t) => painter.measureText(t).width), 0);
  painter.font = font(2.5, 600);
  const headingWidth = painter.measureText(heading).width;
  const bar = upright ? { width: 2.2 * u, height: 42 * u } : { width: 48 * u, height: 2.2 * u };
  const gap = 0.8 * u;
  const box = upright
    ? { width: Math.max(bar.width + gap + 0.6 * u + labelWidth, headingWidth), height: bar.height + 5 * u }
    : { width: Math.max(bar.width + labelWidth, headingWidth), height: bar.height + 7.4 * u };
  const x = clampTo(scale.legend.x * width - box.width / 2, 2 * u, width - box.width - 2 * u);
  const y = clampTo(scale.legend.y * height - box.height / 2, 2 * u, height - box.height - 2 * u);
  const tone = backdropById(scene.backdrop.kind);
  const say = (text: string, at: number, down: number): void => writeText(painter, tone, text, at, down, u);

  painter.textBaseline = 'alphabetic';
  painter.textAlign = 'left';
  painter.font = font(2.5, 600);
  say(heading, upright ? x : x + (box.width - Math.max(bar.width, headingWidth)) / 2, y + 2.3 * u);
  const left = upright ? x : x + (box.width - bar.width) / 2;
  const top = y + 4.1 * u;
  paintBar(painter, colours, left, top, bar.width, bar.height, upright);
  painter.strokeStyle = tone.ink;
  painter.lineWidth = 0.12 * u;
  painter.strokeRect(left, top, bar.width, bar.height);

  painter.font = font(2.25);
  const places = ticks.map((tick) => colours.fraction(tick) * (upright ? bar.height : bar.width));
  const lengths = texts.map((text) => (upright ? 2.6 * u : painter.measureText(text).width + 1 * u));
  const room = labelsWithRoom(places, lengths);
  for (const [i, tick] of ticks.entries()) {
    const t = colours.fraction(tick);
    painter.fillStyle = tone.ink;
    if (upright) {
      const at = top + bar.height * (1 - t);
      painter.fillRect(left + bar.width, at - 0.06 * u, 0.6 * u, 0.12 * u);
      painter.textBaseline = 'middle';
      if (room[i]) say(texts[i], left + bar.width + gap + 0.3 * u, at + 0.1 * u);
    } else {
      const at = left + bar.width * t;
      painter.fillRect(at - 0.06 * u, top + bar.height, 0.12 * u, 0.6 * u);
      painter.textBaseline = 'top';
      painter.textAlign = 'center';
      if (room[i]) say(texts[i], at, top + bar.height + 1 * u);
    }
  }
  return { kind: 'legend', id: scale.id, x, y, ...box };
}

/** The bar itself, pixel row by pixel row through the same function as the model's colours. */
function paintBar(
  painter: Painter,
  colours: CompiledScale,
  left: number,
  top: number,
  width: number,
  height: number,
  upright: boolean,
): void {
  const x0 = Math.round(left);
  const y0 = Math.round(top);
  const n = Math.max(2, Math.round(upright ? height : width));
  for (let i = 0; i < n; i++) {
    const t = (i + 0.5) / n;
    painter.fillStyle = cssColour(colours.colour(colours.value(t)));
    if (upright) painter.fillRect(x0, y0 + n - 1 - i, Math.round(width), 1);
    else painter.fillRect(x0 + i, y0, 1, Math.round(height));
  }
}

function paintStamp(
  painter: Painter,
  scene: Scene,
  run: RunDescription,
  step: number,
  width: number,
  height: number,
): WordsBox {
  const u = height / 100;
  const time = sayStep(run.steps[Math.min(step, run.steps.length - 1)], run.timeUnit, scene.stamp);
  const notes = saidInPicture(scene, run);
  const text = [...(run.steps.length > 1 || notes.length === 0 ? [time] : []), ...notes].join(' · ');
  painter.font = `500 ${3 * u}px ${WORDS_FONT}`;
  painter.textBaseline = 'middle';
  painter.textAlign = 'left';
  const box = { width: painter.measureText(text).width, height: 3.8 * u };
  const x = clampTo(scene.stamp.x * width, 2 * u, width - box.width - 2 * u);
  const y = clampTo(scene.stamp.y * height - box.height / 2, 2 * u, height - box.height - 2 * u);
  const tone = backdropById(scene.backdrop.kind);
  writeText(painter, tone, text, x, y + box.height / 2, u);
  return { kind: 'stamp', id: 'stamp', x, y, ...box };
}

/** Words in ink with a thin halo, legible on whatever lies beneath. */
function writeText(painter: Painter, tone: Backdrop, text: string, x: number, y: number, u: number): void {
  painter.lineJoin = 'round';
  painter.strokeStyle = tone.halo;
  painter.lineWidth = 0.5 * u;
  painter.strokeText(text, x, y);
  painter.fillStyle = tone.ink;
  painter.fillText(text, x, y);
}

const clampTo = (v: number, low: number, high: number): number =>
  Math.max(low, Math.min(v, Math.max(low, high)));

const superscript = (n: number): string => [...String(n)].map((c) => '⁰¹²³⁴⁵⁶⁷⁸⁹'[Number(c)] ?? '⁻').join('');
