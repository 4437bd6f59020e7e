import type { CompiledScale } from '#core/colour/compiled-scale.ts';
import { raised } from '#core/colour/number-style.ts';
import { type Spread, sharesOnShow, weightBelow } from '#core/colour/spread.ts';
import { labelsWithRoom, textsInStyle, tickTexts } from '#core/colour/ticks.ts';
import type { Scale } from '#core/scene/document.ts';
import { USUAL_MISSING } from '#core/scene/things/scale.ts';
import { type Box, clampTo, type Writing } from './lettering.ts';

/** What of the values is known beside the scale. */
export interface LegendFacts {
  /** Name of the quantity. */
  title: string;
  unit: string | null;
  /** How values are spread over what is shown. */
  spread: Spread | null;
  /** Lowest and highest at the step on show and of all steps, as stored. */
  ofStep: readonly [number, number] | null;
  ofAll: readonly [number, number] | null;
}

/** A corner of something drawn, in pixels. */
type Corner = readonly [number, number];

/** What a legend is made of, in pixels of the picture. */
export interface LegendLayout {
  box: Box;
  bar: Box;
  upright: boolean;
  /** Width of thin lines. */
  line: number;
  texts: Writing[];
  /** Short lines at values, from and to. */
  ticks: [Corner, Corner][];
  /** The pointed ends beyond the bar: a value whose colour each has. */
  ends: { corners: Corner[]; value: number }[];
  /** Columns of the histogram. */
  columns: Box[];
  /** Marks of lowest and highest: filled of the step on show, open of all steps. */
  marks: { corners: Corner[]; filled: boolean }[];
  /** Colour of what has no value, where it is shown. */
  missing: { box: Box; colour: string } | null;
}

export interface LegendSizes {
  width: number;
  height: number;
  measure(text: string, size: number, weight: number): number;
}

/** Less than this of what is shown is not worth a word. */
const WORTH_SAYING = 0.0005;

/** Of more bands than this the single levels say nothing; round numbers are named. */
const MOST_NAMED = 40;

const LABEL = 2.25;
const HEADING = 2.5;
const NOTE = 1.9;

/** Arranges a legend on a picture; sizes go with the height of the picture, and it is never larger than the picture. */
export function layoutLegend(
  scale: Scale,
  colours: CompiledScale,
  facts: LegendFacts,
  { width, height, measure }: LegendSizes,
): LegendLayout {
  const { legend } = scale;
  const u = (height / 100) * legend.size;
  const margin = 0.02 * height;
  const { upright } = legend;
  const labels = hasNothing(scale, facts) ? { all: [], power: 0 } : labelsOf(scale, colours);
  const unit = [labels.power ? `× 10${raised(labels.power)}` : '', facts.unit ?? '']
    .filter(Boolean)
    .join(' ');
  const heading = unit ? `${facts.title}, ${unit}` : facts.title;
  const headingWidth = measure(heading, HEADING * u, 600);
  const widths = labels.all.map(({ text }) => measure(text, LABEL * u, 400));
  const labelWidth = Math.max(0, ...widths);
  const notes = notesOf(scale, colours, facts);
  const noteWidth = Math.max(
    0,
    ...notes.map((n) => measure(n.text, NOTE * u, 400) + (n.swatch ? 2.4 * u : 0)),
  );
  const noteHeight = notes.length * 2.6 * u;

  const beyond = beyondOf(scale, colours, facts.spread);
  const end = 2 * u;
  const thick = (legend.compact ? 1.6 : 2.2) * u;
  const side = (legend.histogram ? 4.6 * u : 0) + (legend.extremes ? 1.6 * u : 0);
  const around = 4.1 * u + noteHeight + (upright ? 0.9 * u : 3.3 * u + thick + side);
  const ends = (beyond.below ? end : 0) + (beyond.above ? end : 0);
  const wanted = (upright ? 42 : 48) * u * (legend.compact ? 0.5 : 1);
  const room = (upright ? height - around : width - labelWidth) - 2 * margin - ends;
  const length = Math.max(4 * u, Math.min(wanted, room));

  const box = upright
    ? {
        width: Math.max(side + thick + 1.4 * u + labelWidth, headingWidth, noteWidth),
        height: around + length + ends,
      }
    : { width: Math.max(length + ends + labelWidth, headingWidth, noteWidth), height: around };
  const x = clampTo(legend.x * width - box.width / 2, margin, width - box.width - margin);
  const y = clampTo(legend.y * height - box.height / 2, margin, height - box.height - margin);
  const bar: Box = upright
    ? { x: x + side, y: y + 4.1 * u + (beyond.above ? end : 0), width: thick, height: length }
    : {
        x: x + (box.width - length - ends) / 2 + (beyond.below ? end : 0),
        y: y + 4.1 * u + side,
        width: length,
        height: thick,
      };
  /** A place along the bar and so far beside it: to the side of the labels, or with minus to the other. */
  const at = (along: number, across: number): Corner =>
    upright
      ? [across < 0 ? bar.x + across : bar.x + bar.width + across, bar.y + bar.height * (1 - along)]
      : [bar.x + bar.width * along, across < 0 ? bar.y + across : bar.y + bar.height + across];

  const texts: Writing[] = [
    {
      text: heading,
      x: upright ? x : x + (box.width - headingWidth) / 2,
      y: y + 1.4 * u,
      size: HEADING * u,
      weight: 600,
      align: 'left',
    },
  ];
  const said = labelsWithRoom(
    labels.all.map(({ along }) => along * length),
    widths.map((w) => (upright ? 2.6 * u : w + u)),
  );
  const ticks: LegendLayout['ticks'] = [];
  // Where ticks would be closer than they are thick, only those with a number are drawn.
  const dense = labels.all.length > 1 && length / (labels.all.length - 1) < 0.5 * u;
  for (const [i, { text, along, tick }] of labels.all.entries()) {
    if (tick && (said[i] || !dense)) ticks.push([at(along, 0), at(along, 0.6 * u)]);
    if (!said[i]) continue;
    const [tx, ty] = at(along, upright ? 1.1 * u : 1.9 * u);
    texts.push({ text, x: tx, y: ty, size: LABEL * u, weight: 400, align: upright ? 'left' : 'center' });
  }
  const noteTop = y + box.height - noteHeight;
  let missing: LegendLayout['missing'] = null;
  for (const [i, note] of notes.entries()) {
    const ny = noteTop + (i + 0.65) * 2.6 * u;
    const nx = upright ? x : x + (box.width - noteWidth) / 2;
    if (note.swatch)
      missing = { box: { x: nx, y: ny - 0.75 * u, width: 1.8 * u, height: 1.5 * u }, colour: note.swatch };
    texts.push({
      text: note.text,
      x: nx + (note.swatch ? 2.4 * u : 0),
      y: ny,
      size: NOTE * u,
      weight: 400,
      align: 'left',
    });
  }
  return {
    box: { x, y, ...box },
    bar,
    upright,
    line: 0.12 * u,
    texts,
    ticks,
    ends: endsOf(beyond, colours, bar, upright, end),
    columns: legend.histogram && facts.spread ? columnsOf(facts.spread, colours, length, at, u) : [],
    marks: legend.extremes ? marksOf(facts, colours, at, u, legend.histogram) : [],
    missing,
  };
}

/** Whether nothing of what is shown has a value, so that numbers beside the bar would be made up. */
const hasNothing = ({ range }: Scale, { spread, ofStep }: LegendFacts): boolean =>
  spread !== null && spread.weight === 0 && spread.missing > 0 && ofStep === null && range.kind !== 'fixed';

interface Label {
  text: string;
  /** Place along the bar, 0..1. */
  along: number;
  /** Whether a tick stands there. */
  tick: boolean;
}

/** What stands beside the bar: numbers at ticks, what bands reach from and to, or names. */
function labelsOf({ legend, numbers }: Scale, colours: CompiledScale): { all: Label[]; power: number } {
  const n = colours.bandCount;
  const middle = (i: number): number => (i + 0.5) / n;
  if (colours.categories)
    return {
      all: colours.categories.map((c, i) => ({ text: c.name, along: middle(i), tick: false })),
      power: 0,
    };
  const inShown = (values: readonly number[]): number[] => values.map((v) => colours.shownNumber(v));
  const { low, high } = colours;
  if (!(high > low)) {
    const { texts, power } = textsInStyle(inShown([low]), numbers);
    return { all: [{ text: texts[0], along: 0.5, tick: true }], power };
  }
  if (n > 0 && legend.labels === 'in bands' && !legend.compact) {
    const { texts, power } = textsInStyle(inShown(colours.edges), numbers);
    const all = Array.from({ length: n }, (_, i) => ({
      text: `${texts[i]} – ${texts[i + 1]}`,
      along: (colours.fraction(colours.edges[i]) + colours.fraction(colours.edges[i + 1])) / 2,
      tick: false,
    }));
    return { all, power };
  }
  const chosen = legend.compact
    ? [low, high]
    : n > 0 && n <= MOST_NAMED && legend.ticks === 'levels'
      ? [...colours.edges]
      : colours.tidyTicks(n > MOST_NAMED ? 9 : 5);
  // Chosen levels are named as they are; an end of the range that is less round than they are stays unnamed.
  const own = colours.colours.bands?.kind;
  const values = own === 'list' || own === 'every' ? withoutRaggedEnds(chosen, inShown) : chosen;
  const { texts, power } = textsInStyle(inShown(values), numbers);
  return { all: values.map((v, i) => ({ text: texts[i], along: colours.fraction(v), tick: true })), power };
}

function withoutRaggedEnds(edges: number[], inShown: (values: readonly number[]) => number[]): number[] {
  const inner = edges.slice(1, -1);
  if (inner.length < 2) return edges;
  const { texts, power } = tickTexts(inShown(inner));
  const decimals = texts[0].split('.')[1]?.length ?? 0;
  const round = (end: number): boolean => {
    const v = inShown([end])[0] / 10 ** power;
    return Math.abs(v - Number(v.toFixed(decimals))) < 1e-6 * 10 ** -decimals;
  };
  return edges.filter((v, i) => (i > 0 && i < edges.length - 1) || round(v));
}

interface Beyond {
  below: boolean;
  above: boolean;
}

/** Whether something lies beyond the range and is shown: it has colours of its own, or those of the ends. */
function beyondOf({ below, above }: Scale, colours: CompiledScale, spread: Spread | null): Beyond {
  if (colours.categories) return { below: false, above: false };
  const shares = spread && sharesOnShow(spread, { ...colours.colours, low: colours.low, high: colours.high });
  const { shownFrom = null, shownTo = null } = colours.colours;
  const seen = { below: (shownFrom ?? -1e300) < colours.low, above: (shownTo ?? 1e300) > colours.high };
  const has = (side: 'below' | 'above', own: string | null): boolean =>
    seen[side] && (own !== null || (shares?.[side].shown ?? 0) > WORTH_SAYING);
  return { below: has('below', below), above: has('above', above) };
}

function endsOf(
  beyond: Beyond,
  colours: CompiledScale,
  bar: Box,
  upright: boolean,
  size: number,
): LegendLayout['ends'] {
  const { x, y, width: w, height: h } = bar;
  const far = 2 * Math.abs(colours.high - colours.low) + 1;
  const out: LegendLayout['ends'] = [];
  if (beyond.below)
    out.push({
      // Below a logarithm's end there is still something above zero.
      value: colours.spacing.kind === 'log' ? colours.low / 1e6 : colours.low - far,
      corners: upright
        ? [
            [x, y + h],
            [x + w, y + h],
            [x + w / 2, y + h + size],
          ]
        : [
            [x, y],
            [x, y + h],
            [x - size, y + h / 2],
          ],
    });
  if (beyond.above)
    out.push({
      value: colours.high + far,
      corners: upright
        ? [
            [x, y],
            [x + w, y],
            [x + w / 2, y - size],
          ]
        : [
            [x + w, y],
            [x + w, y + h],
            [x + w + size, y + h / 2],
          ],
    });
  return out;
}

/** `12 %`; of what is hardly there, that it is little. */
export const sayShare = (share: number): string =>
  share < 0.001 ? '< 0.1 %' : `${Number((100 * share).toPrecision(share < 0.1 ? 2 : 3))} %`;

interface Note {
  text: string;
  swatch?: string;
}

/** What a legend has to say beside its numbers: what lies beyond them, what is missing, and the extremes. */
function notesOf(scale: Scale, colours: CompiledScale, { spread, ofStep, ofAll }: LegendFacts): Note[] {
  const notes: Note[] = [];
  if (spread && !colours.categories) notes.push(...beyondNotes(colours, spread));
  if (spread && spread.missing > 0 && scale.missing !== 'hidden')
    notes.push({ text: 'no value', swatch: scale.missing || USUAL_MISSING });
  if (!spread && !(colours.high > colours.low) && !colours.categories) notes.push({ text: 'one value' });
  if (scale.legend.extremes) {
    const say = (ends: readonly [number, number]): string =>
      textsInStyle(
        ends.map((v) => colours.shownNumber(v)),
        scale.numbers,
      ).texts.join(' to ');
    if (ofStep) notes.push({ text: `this step ${say(ofStep)}` });
    if (ofAll) notes.push({ text: `all steps ${say(ofAll)}` });
  }
  return notes;
}

const ofWhat: Record<Spread['by'], string> = { area: ' of area', length: ' of length', number: '' };

/** How much is hidden, and how much of the rest has the colour of an end or one for what lies beyond. */
function beyondNotes(colours: CompiledScale, spread: Spread): Note[] {
  const shares = sharesOnShow(spread, { ...colours.colours, low: colours.low, high: colours.high });
  return (['above', 'below'] as const).flatMap((side) =>
    [
      { what: side, share: shares[side].shown },
      { what: `hidden ${side}`, share: shares[side].hidden },
    ]
      .filter(({ share }) => share > WORTH_SAYING)
      .map(({ what, share }) => ({ text: `${what}: ${sayShare(share)}${ofWhat[spread.by]}` })),
  );
}

/** How much of what is shown lies in each stretch of the bar. */
function columnsOf(
  spread: Spread,
  colours: CompiledScale,
  length: number,
  at: (along: number, across: number) => Corner,
  u: number,
): Box[] {
  const count = colours.bandCount > 0 && colours.bandCount <= 40 ? colours.bandCount : 40;
  const edge = (i: number): number => {
    if (count === colours.bandCount) return colours.edges[i];
    return colours.value(i / count);
  };
  const shares = Array.from(
    { length: count },
    (_, i) => (weightBelow(spread, edge(i + 1)) - weightBelow(spread, edge(i))) / (spread.weight || 1),
  );
  const most = Math.max(...shares, 1e-12);
  return shares.map((share, i) => {
    const [a, b] = [colours.fraction(edge(i)), colours.fraction(edge(i + 1))];
    const reach = (4 * u * share) / most;
    const [x0, y0] = at(a, -0.4 * u);
    const [x1, y1] = at(b, -0.4 * u - reach);
    const thin = 0.12 * (length / count);
    return {
      x: Math.min(x0, x1) + (x0 === x1 || Math.abs(x1 - x0) === reach ? 0 : thin / 2),
      y: Math.min(y0, y1),
      width: Math.abs(x1 - x0),
      height: Math.abs(y1 - y0),
    };
  });
}

function marksOf(
  { ofStep, ofAll }: LegendFacts,
  colours: CompiledScale,
  at: (along: number, across: number) => Corner,
  u: number,
  behindHistogram: boolean,
): LegendLayout['marks'] {
  const away = behindHistogram ? 4.6 * u : 0;
  const mark = (value: number, filled: boolean): LegendLayout['marks'][number] => {
    const along = colours.fraction(value);
    const [x, y] = at(along, -away - 0.2 * u);
    const [ox, oy] = at(along, -away - 1.3 * u);
    const [dx, dy] = [0.45 * (oy - y), 0.45 * (ox - x)];
    return {
      filled,
      corners: [
        [x, y],
        [ox - dx, oy - dy],
        [ox + dx, oy + dy],
      ],
    };
  };
  return [
    ...(ofAll ? ofAll.map((v) => mark(v, false)) : []),
    ...(ofStep ? ofStep.map((v) => mark(v, true)) : []),
  ];
}
