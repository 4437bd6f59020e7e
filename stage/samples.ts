/** The golden ratio, less one. */
const GOLDEN = 0.618033988749895;

/**
 * Which of `of` evenly spread places comes n-th, so that the first few are spread as well.
 *
 * @param step share of them between one and the next
 */
function inTurn(n: number, of: number, step = GOLDEN): number {
  let stride = Math.max(1, Math.round(of * step));
  while (commonDivisor(stride, of) > 1) stride++;
  return (n * stride) % of;
}

const commonDivisor = (a: number, b: number): number => (b === 0 ? a : commonDivisor(b, a % b));

/**
 * A place in the unit square: the n-th of so many that share it evenly, and give axes that share a sphere evenly with their
 * opposites when the first number goes by height and the second around (Fibonacci lattice, González 2010; with half its turn
 * the opposites fall between).
 */
export function axisSample(n: number, of: number): [number, number] {
  const i = inTurn(n, of);
  return [(i + 0.5) / of, ((i * GOLDEN) / 2) % 1];
}

/** Which of some lights is the n-th of so many that come as often as their shares say. */
export function lampSample(n: number, of: number, shares: readonly number[]): number {
  const whole = shares.reduce((a, b) => a + b, 0);
  let left = ((inTurn(n, of, 0.5698402909980532) + 0.5) / of) * whole;
  for (const [i, share] of shares.entries()) {
    left -= share;
    if (left < 0) return i;
  }
  return shares.length - 1;
}

/** A place on the unit disc: the n-th of so many that share it evenly (Vogel 1979). */
export const discSample = (n: number, of: number): [number, number] => onDisc(inTurn(n, of), of);

/** The same for the opening of the lens, in another order: no side of it sees one side of the lamp. */
export const lensSample = (n: number, of: number): [number, number] =>
  onDisc(inTurn(n, of, 0.4142135623730951), of);

/**
 * Slopes of the facets of a rough mirror, along and across, the n-th of so many: as often as they come by the distribution
 * of Trowbridge and Reitz (Walter et al. 2007), but for the few steepest.
 *
 * @param alpha width of the slopes
 */
export function slopeSample(n: number, of: number, alpha: number): [number, number] {
  const [x, y] = onDisc(inTurn(n, of, 0.7320508075688772), of);
  const scale = alpha / Math.sqrt(1 - 0.97 * (x * x + y * y));
  return [scale * x, scale * y];
}

function onDisc(i: number, of: number): [number, number] {
  const r = Math.sqrt((i + 0.5) / of);
  const turn = 2 * Math.PI * ((i * GOLDEN) % 1);
  return [r * Math.cos(turn), r * Math.sin(turn)];
}

/**
 * Offset within a pixel, -0.75..0.75, drawn towards the middle by a tent filter: the n-th of so many on a Fibonacci
 * lattice. They come in another order than directions do: were both to go alike, one side of a pixel would get its light
 * from above and the other from below. The first is the middle.
 */
export function pixelSample(n: number, of: number): [number, number] {
  const i = inTurn(n, of, 0.7548776662);
  const tent = (u: number): number => (u < 0.5 ? Math.sqrt(2 * u) - 1 : 1 - Math.sqrt(2 - 2 * u)) * 0.75;
  return [tent((0.5 + i / of) % 1), tent((0.5 + i * GOLDEN) % 1)];
}
