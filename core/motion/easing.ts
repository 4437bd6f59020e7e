import type { Ease } from '../scene/reel/ease.ts';

/** Newton's steps before the interval is halved instead. */
const NEWTON_STEPS = 8;
const EXACT = 1e-12;

const bezier = (a: number, b: number, t: number): number =>
  3 * a * t * (1 - t) ** 2 + 3 * b * t * t * (1 - t) + t ** 3;
const slope = (a: number, b: number, t: number): number =>
  3 * a * (1 - t) * (1 - 3 * t) + 3 * b * t * (2 - 3 * t) + 3 * t * t;

/**
 * How far a value is on its way at a share of the time between two keys. A curve is the cubic Bézier through (0, 0) and
 * (1, 1) with two handles between (W3C, CSS Easing Functions Level 1, section 2.3); it may go beyond its ends.
 *
 * @param share of the time, 0 at the first key and 1 at the second
 */
export function eased(ease: Ease, share: number): number {
  if (share <= 0) return 0;
  if (share >= 1) return 1;
  if (ease.kind === 'hold') return 0;
  if (ease.kind === 'even') return share;
  const [x1, y1, x2, y2] = ease.handles;
  return bezier(y1, y2, timeOnCurve(x1, x2, share));
}

/** Where on the curve x is so much: by Newton's method, and by halving where that does not converge. */
function timeOnCurve(x1: number, x2: number, x: number): number {
  let t = x;
  for (let i = 0; i < NEWTON_STEPS; i++) {
    const miss = bezier(x1, x2, t) - x;
    if (Math.abs(miss) < EXACT) return t;
    const rise = slope(x1, x2, t);
    if (Math.abs(rise) < 1e-6) break;
    t -= miss / rise;
    if (t < 0 || t > 1) break;
  }
  let [low, high] = [0, 1];
  while (high - low > EXACT) {
    const middle = (low + high) / 2;
    if (bezier(x1, x2, middle) < x) low = middle;
    else high = middle;
  }
  return (low + high) / 2;
}
