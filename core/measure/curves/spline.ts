/** A cubic spline through points: between two of them a cubic with these second derivatives at its ends. */
export interface Spline {
  x: ArrayLike<number>;
  y: ArrayLike<number>;
  bends: Float64Array;
}

/**
 * The cubic spline through points whose first two, and last two, pieces are one cubic each (the end condition "not a knot" of de Boor:
 * A Practical Guide to Splines, chapter IV; from memory). Through three points it is their parabola, through two their line.
 *
 * @param x rising, each larger than the one before
 */
export function splineThrough(x: ArrayLike<number>, y: ArrayLike<number>): Spline {
  const n = x.length;
  const bends = new Float64Array(n);
  const gap = (i: number): number => x[i + 1] - x[i];
  const slope = (i: number): number => (y[i + 1] - y[i]) / gap(i);
  if (n === 3) bends.fill((2 * (slope(1) - slope(0))) / (gap(0) + gap(1)));
  if (n < 4) return { x, y, bends };
  // A row for each inner point; those at the ends are put in from the neighbours of theirs.
  const [first, last] = [gap(0) / gap(1), gap(n - 2) / gap(n - 3)];
  const below = new Float64Array(n);
  const middle = new Float64Array(n);
  const above = new Float64Array(n);
  for (let i = 1; i < n - 1; i++) {
    below[i] = gap(i - 1);
    middle[i] = 2 * (gap(i - 1) + gap(i));
    above[i] = gap(i);
    bends[i] = 6 * (slope(i) - slope(i - 1));
  }
  middle[1] += below[1] * (1 + first);
  above[1] -= below[1] * first;
  middle[n - 2] += above[n - 2] * (1 + last);
  below[n - 2] -= above[n - 2] * last;
  for (let i = 2; i < n - 1; i++) {
    const share = below[i] / middle[i - 1];
    middle[i] -= share * above[i - 1];
    bends[i] -= share * bends[i - 1];
  }
  bends[n - 2] /= middle[n - 2];
  for (let i = n - 3; i > 0; i--) bends[i] = (bends[i] - above[i] * bends[i + 1]) / middle[i];
  bends[0] = (1 + first) * bends[1] - first * bends[2];
  bends[n - 1] = (1 + last) * bends[n - 2] - last * bends[n - 3];
  return { x, y, bends };
}

/** The piece of a spline from its point `i` on as a cubic of the way from there: its coefficients, the constant first. */
function piece({ x, y, bends }: Spline, i: number): [number, number, number, number] {
  const gap = x[i + 1] - x[i];
  const slope = (y[i + 1] - y[i]) / gap - (gap * (2 * bends[i] + bends[i + 1])) / 6;
  return [y[i], slope, bends[i] / 2, (bends[i + 1] - bends[i]) / (6 * gap)];
}

const cubicAt = ([a, b, c, d]: readonly number[], t: number): number => a + t * (b + t * (c + t * d));

/** Where a spline is at a place; not a number beyond its ends. */
export function splineAt(spline: Spline, place: number): number {
  const { x } = spline;
  let [low, high] = [0, x.length - 1];
  if (!(place >= x[0] && place <= x[high])) return Number.NaN;
  if (high === 0) return spline.y[0];
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (x[middle] <= place) low = middle;
    else high = middle;
  }
  return cubicAt(piece(spline, low), place - x[low]);
}

/** The highest place of a spline, or with `sign` -1 the lowest: at a point, or where a piece is level. */
export function splineExtreme(spline: Spline, sign: 1 | -1): { at: number; value: number } {
  const { x, y } = spline;
  let best = { at: x[0], value: y[0] };
  const look = (at: number, value: number): void => {
    if (sign * value > sign * best.value) best = { at, value };
  };
  for (let i = 0; i + 1 < x.length; i++) {
    look(x[i + 1], y[i + 1]);
    const cubic = piece(spline, i);
    const [, b, c, d] = cubic;
    // Where 3 d t² + 2 c t + b is zero, without taking like from like.
    const root = c * c - 3 * b * d;
    if (!(root >= 0)) continue;
    const q = -(c + (c < 0 ? -1 : 1) * Math.sqrt(root));
    for (const t of [q / (3 * d), b / q]) if (t > 0 && t < x[i + 1] - x[i]) look(x[i] + t, cubicAt(cubic, t));
  }
  return best;
}
