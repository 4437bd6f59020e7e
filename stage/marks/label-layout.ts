/** A line on the picture, in its pixels, that carries a text of some width. */
export interface ScreenLine {
  /** x and y of each point, from the top left. */
  points: Float64Array;
  /** Of the text, in pixels. */
  width: number;
}

/** A text that has found its place on its line. */
export interface Placed {
  /** Number of the line. */
  line: number;
  /** Where along the line the text begins, has its middle and ends: as a point number with a fraction. */
  at: [number, number, number];
  /** Which way it is written: a unit vector, never towards the left. */
  along: [number, number];
}

/** Discs that cover what is written already: x, y, radius. */
export type Taken = [number, number, number][];

/** A text stands only where its line is as straight as this: the way as the crow flies over the way along it. */
const STRAIGHT = 0.96;
/** Room a text claims to each side, in its heights. */
const ROOM = 1.5;
/** A long line says its value again after so many widths of the text. */
const AGAIN = 9;

/**
 * Finds places for texts along lines: where they are straight, as level as can be, within the picture, and clear of
 * other texts. The longest lines come first; those that find no room stay without.
 *
 * @param height of the texts, in pixels
 * @param taken what is written already; what is placed here is added
 */
export function placeTexts(
  lines: readonly ScreenLine[],
  height: number,
  size: { width: number; height: number },
  taken: Taken,
): Placed[] {
  const measured = lines.map(({ points }) => lengthsAlong(points));
  const total = (i: number): number => measured[i][measured[i].length - 1] ?? 0;
  const order = [...lines.keys()].sort((a, b) => total(b) - total(a));
  const placed: Placed[] = [];
  for (const line of order) {
    const { points, width } = lines[line];
    const lengths = measured[line];
    if (total(line) < 1.5 * width) continue;
    const written: number[] = [];
    for (const found of candidates(points, lengths, width, height, size)) {
      if (written.some((s) => Math.abs(s - found.place) < AGAIN * width)) continue;
      const discs = discsOf(found, height);
      if (discs.some((d) => taken.some((t) => Math.hypot(d[0] - t[0], d[1] - t[1]) < d[2] + t[2]))) continue;
      taken.push(...discs);
      written.push(found.place);
      placed.push({ line, at: found.at, along: found.along });
    }
  }
  return placed;
}

interface Candidate extends Omit<Placed, 'line'> {
  place: number;
  from: [number, number];
  to: [number, number];
}

/** Every place where a text could stand, the best first. */
function candidates(
  points: Float64Array,
  lengths: Float64Array,
  width: number,
  height: number,
  size: { width: number; height: number },
): Candidate[] {
  const total = lengths[lengths.length - 1];
  const found: (Candidate & { cost: number })[] = [];
  const step = Math.max(0.5 * width, total / 60);
  for (let place = 0.6 * width; place <= total - 0.6 * width; place += step) {
    const at = [place - width / 2, place, place + width / 2].map((s) => pointAt(lengths, s)) as Placed['at'];
    const [begin, middle, end] = at.map((a) => placeAt(points, a));
    let [from, to] = [begin, end];
    const chord = Math.hypot(to[0] - from[0], to[1] - from[1]);
    const sag = Math.hypot(middle[0] - (from[0] + to[0]) / 2, middle[1] - (from[1] + to[1]) / 2);
    if (!(chord >= STRAIGHT * width) || sag > 0.3 * height) continue;
    const outside = [from, to].some(
      ([x, y]) => !(x > height && y > height && x < size.width - height && y < size.height - height),
    );
    if (outside) continue;
    if (to[0] < from[0]) {
      [from, to] = [to, from];
      at.reverse();
    }
    const along: [number, number] = [(to[0] - from[0]) / chord, (to[1] - from[1]) / chord];
    const cost = sag / height + 0.5 * Math.abs(along[1]) + 0.3 * Math.abs(place / total - 0.5);
    found.push({ place, at, along, from, to, cost });
  }
  return found.sort((a, b) => a.cost - b.cost);
}

function discsOf({ from, to }: Candidate, height: number): Taken {
  const n = Math.max(2, Math.ceil(Math.hypot(to[0] - from[0], to[1] - from[1]) / height));
  return Array.from({ length: n + 1 }, (_, i) => [
    from[0] + (i / n) * (to[0] - from[0]),
    from[1] + (i / n) * (to[1] - from[1]),
    ROOM * height,
  ]);
}

/** Way along a line up to each of its points; a point that is not before the camera breaks it off. */
function lengthsAlong(points: Float64Array): Float64Array {
  const out = new Float64Array(points.length / 2);
  for (let i = 1; i < out.length; i++) {
    const way = Math.hypot(points[2 * i] - points[2 * i - 2], points[2 * i + 1] - points[2 * i - 1]);
    if (!Number.isFinite(way)) return out.slice(0, i);
    out[i] = out[i - 1] + way;
  }
  return out;
}

/** The point number, with its fraction, at a way along a line. */
function pointAt(lengths: Float64Array, way: number): number {
  let low = 0;
  let high = lengths.length - 1;
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (lengths[middle] <= way) low = middle;
    else high = middle;
  }
  const gap = lengths[high] - lengths[low];
  return low + (gap > 0 ? Math.min(1, Math.max(0, (way - lengths[low]) / gap)) : 0);
}

function placeAt(points: Float64Array, at: number): [number, number] {
  const i = Math.min(Math.floor(at), points.length / 2 - 2);
  const t = at - i;
  return [0, 1].map((k) => points[2 * i + k] * (1 - t) + points[2 * i + 2 + k] * t) as [number, number];
}
