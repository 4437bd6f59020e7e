/** Where the curve leaves the straight line, and how fast what is compressed loses its colour. */
const BEGINS = 0.76;
const PALER = 0.15;

/**
 * From light as it meets a camera to light as a screen shows it: what is not too bright stays as it is but for the share that
 * every surface reflects as a mirror, and the rest is drawn in below white (Khronos PBR Neutral tone mapper, 2024). Colours
 * of values never go through it.
 *
 * @param share of the place that sends the light, where something else is seen through it and goes through the curve by
 *   itself: what is taken off is taken off once
 * @returns red, green and blue, 0..1
 */
export function toneCurve([r, g, b]: readonly [number, number, number], share = 1): [number, number, number] {
  const least = Math.min(r, g, b);
  const offset = least < 0.08 * share ? least - (6.25 * least * least) / share : 0.04 * share;
  const c: [number, number, number] = [r - offset, g - offset, b - offset];
  const peak = Math.max(...c);
  if (peak < BEGINS) return c;
  const room = 1 - BEGINS;
  const drawnIn = 1 - (room * room) / (peak + room - BEGINS);
  const paler = 1 - 1 / (PALER * (peak - drawnIn) + 1);
  return c.map((v) => (v * drawnIn * (1 - paler)) / peak + drawnIn * paler) as [number, number, number];
}
