import type { WordsRect } from '../snap-words.ts';
import { overlaps } from './drawing.ts';

/** Words that hang on a place of the picture, in its pixels. */
export interface LabelToPlace {
  anchor: { x: number; y: number };
  width: number;
  height: number;
  /** Where their middle stands, when that is stated. */
  fixed: { x: number; y: number } | null;
}

interface Point {
  x: number;
  y: number;
}

/** Ways out from the anchor to the words that are tried, in hundredths of the picture's height, and so many directions. */
const WAYS = [6, 10, 15, 22, 30];
const DIRECTIONS = 16;
/** Rounds in which each looks for a better place among the others. */
const ROUNDS = 4;

/** What makes a place worse, in hundredths of the picture's height of line. */
const COST = { covers: 400, crosses: 120, throughWords: 150, coversAnchor: 60, inwards: 4 };

/**
 * Places for words that hang on the picture: near to where they hang, away from the middle of all, none over another nor
 * over what stands there already, their lines neither crossing each other nor running through words. Each takes the
 * best of a ring of places in turn, a few rounds long; then pairs of which the lines still cross change places, which
 * shortens both. It depends on nothing but what is given, so that films do not jump.
 *
 * @param taken what stands on the picture already
 * @returns the middle of each
 */
export function placeLabels(
  labels: readonly LabelToPlace[],
  taken: readonly WordsRect[],
  size: { width: number; height: number },
): Point[] {
  const unit = size.height / 100;
  const centre: Point = {
    x: mean(labels.map((l) => l.anchor.x)),
    y: mean(labels.map((l) => l.anchor.y)),
  };
  const places: (Point | null)[] = labels.map((l) => l.fixed);
  const standing: (Standing | null)[] = labels.map((l) => l.fixed && standingAt(l, l.fixed, unit));
  /** @returns whether anything moved */
  const round = (): boolean => {
    let moved = false;
    for (const [i, label] of labels.entries()) {
      if (label.fixed) continue;
      let best: { at: Point; cost: number } | null = null;
      for (const way of WAYS) {
        // A line costs its length at least: further out nothing is better.
        if (best && best.cost <= way) break;
        for (const at of ringAround(label, way, size, unit)) {
          const least: number = best?.cost ?? Number.POSITIVE_INFINITY;
          const cost = costOf(standingAt(label, at, unit), i, standing, labels, taken, centre, unit, least);
          if (cost < least - 1e-9) best = { at, cost };
        }
      }
      const before = places[i];
      if (before?.x === best!.at.x && before.y === best!.at.y) continue;
      places[i] = best!.at;
      standing[i] = standingAt(label, best!.at, unit);
      moved = true;
    }
    return moved;
  };
  for (let i = 0; i < ROUNDS && round(); i++);
  uncross(labels, places as Point[], size);
  return places as Point[];
}

/** Words at a place: with some room around them, with their line, and with what both take up together. */
interface Standing {
  anchor: Point;
  middle: Point;
  end: Point;
  wide: WordsRect;
  whole: WordsRect;
}

function standingAt(label: LabelToPlace, middle: Point, unit: number): Standing {
  const { anchor } = label;
  const box = boxAt(middle, label);
  const wide = {
    x: box.x - unit / 2,
    y: box.y - unit / 2,
    width: box.width + unit,
    height: box.height + unit,
  };
  const [x, y] = [Math.min(wide.x, anchor.x), Math.min(wide.y, anchor.y)];
  const whole = {
    x,
    y,
    width: Math.max(wide.x + wide.width, anchor.x) - x,
    height: Math.max(wide.y + wide.height, anchor.y) - y,
  };
  return { anchor, middle, end: leaderEnd(anchor, box), wide, whole };
}

const mean = (list: readonly number[]): number => list.reduce((a, b) => a + b, 0) / (list.length || 1);

export const boxAt = ({ x, y }: Point, { width, height }: { width: number; height: number }): WordsRect => ({
  x: x - width / 2,
  y: y - height / 2,
  width,
  height,
});

/** Middles of words around their anchor, so far from it. */
function* ringAround(
  { anchor, width, height }: LabelToPlace,
  way: number,
  size: { width: number; height: number },
  unit: number,
): Generator<Point> {
  const margin = 1.5 * unit;
  for (let d = 0; d < DIRECTIONS; d++) {
    // The first is to the upper right, where one looks first.
    const turn = Math.PI / 4 - (2 * Math.PI * d) / DIRECTIONS;
    const at = {
      x: anchor.x + Math.cos(turn) * (way * unit + width / 2),
      y: anchor.y - Math.sin(turn) * (way * unit + height / 2),
    };
    yield {
      x: clamped(at.x, width / 2 + margin, size.width - width / 2 - margin),
      y: clamped(at.y, height / 2 + margin, size.height - height / 2 - margin),
    };
  }
}

const clamped = (v: number, low: number, high: number): number =>
  Math.max(low, Math.min(v, Math.max(low, high)));

/** @param enough costs above this need not be known */
function costOf(
  own: Standing,
  index: number,
  standing: readonly (Standing | null)[],
  all: readonly LabelToPlace[],
  taken: readonly WordsRect[],
  centre: Point,
  unit: number,
  enough: number,
): number {
  const { anchor, middle, end, wide, whole } = own;
  let cost = Math.hypot(end.x - anchor.x, end.y - anchor.y) / unit;
  const out = { x: anchor.x - centre.x, y: anchor.y - centre.y };
  const to = { x: middle.x - anchor.x, y: middle.y - anchor.y };
  const both = Math.hypot(out.x, out.y) * Math.hypot(to.x, to.y);
  if (both > 0) cost += COST.inwards * (1 - (out.x * to.x + out.y * to.y) / both);
  for (const t of taken) if (overlaps(wide, t)) cost += COST.covers;
  for (let k = 0; k < all.length && cost < enough; k++) {
    if (inside(all[k].anchor, wide)) cost += COST.coversAnchor;
    const other = k === index ? null : standing[k];
    if (!other || !overlaps(whole, other.whole)) continue;
    if (overlaps(wide, other.wide)) cost += COST.covers;
    if (crossing(anchor, end, other.anchor, other.end)) cost += COST.crosses;
    if (runsThrough(anchor, end, other.wide) || runsThrough(other.anchor, other.end, wide))
      cost += COST.throughWords;
  }
  return cost;
}

const inside = ({ x, y }: Point, b: WordsRect): boolean =>
  x > b.x && x < b.x + b.width && y > b.y && y < b.y + b.height;

/** Where the line from an anchor meets the words: the nearest place of their edge. */
export const leaderEnd = ({ x, y }: Point, b: WordsRect): Point => ({
  x: clamped(x, b.x, b.x + b.width),
  y: clamped(y, b.y, b.y + b.height),
});

const side = (a: Point, b: Point, c: Point): number => (b.x - a.x) * (c.y - a.y) - (b.y - a.y) * (c.x - a.x);

/** Whether two pieces of line have a place in common, their ends aside. */
export const crossing = (a: Point, b: Point, c: Point, d: Point): boolean =>
  side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0;

function runsThrough(a: Point, b: Point, box: WordsRect): boolean {
  const corners: Point[] = [
    { x: box.x, y: box.y },
    { x: box.x + box.width, y: box.y + box.height },
    { x: box.x + box.width, y: box.y },
    { x: box.x, y: box.y + box.height },
  ];
  return crossing(a, b, corners[0], corners[1]) || crossing(a, b, corners[2], corners[3]);
}

/** Two lines that cross become two that do not, and shorter together, when their ends change places. */
function uncross(
  labels: readonly LabelToPlace[],
  places: Point[],
  size: { width: number; height: number },
): void {
  const ends = (i: number): [Point, Point] => [
    labels[i].anchor,
    leaderEnd(labels[i].anchor, boxAt(places[i], labels[i])),
  ];
  const fits = (i: number, { x, y }: Point): boolean => {
    const b = boxAt({ x, y }, labels[i]);
    return b.x >= 0 && b.y >= 0 && b.x + b.width <= size.width && b.y + b.height <= size.height;
  };
  for (let i = 0; i < labels.length; i++)
    for (let k = i + 1; k < labels.length; k++) {
      if (labels[i].fixed || labels[k].fixed || !crossing(...ends(i), ...ends(k))) continue;
      if (!fits(i, places[k]) || !fits(k, places[i])) continue;
      [places[i], places[k]] = [places[k], places[i]];
    }
}
