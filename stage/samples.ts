/**
 * The low-discrepancy sequence of Roberts (2018) in two dimensions, from the generalised golden ratio; the same for
 * every run, so that a picture is the same every time.
 */
export function planeSample(n: number): [number, number] {
  const g = 1.324717957244746;
  return [(0.5 + n / g) % 1, (0.5 + n / (g * g)) % 1];
}

/** The same in one more dimension pair, for a second use within one pass. */
export function secondSample(n: number): [number, number] {
  const g = 1.2207440846057596;
  return [(0.5 + n / g ** 2) % 1, (0.5 + n / g ** 3) % 1];
}

/** A direction uniform on the unit sphere (Archimedes' cylinder). */
export function sphereSample(n: number): [number, number, number] {
  const [a, b] = planeSample(n);
  const z = 1 - 2 * a;
  const r = Math.sqrt(Math.max(0, 1 - z * z));
  return [r * Math.cos(2 * Math.PI * b), r * Math.sin(2 * Math.PI * b), z];
}

/** A place on the unit disc, uniform. */
export function discSample(n: number): [number, number] {
  const [a, b] = planeSample(n * 7 + 3);
  const r = Math.sqrt(a);
  return [r * Math.cos(2 * Math.PI * b), r * Math.sin(2 * Math.PI * b)];
}

/** Offset within a pixel, -0.5..0.5, drawn towards the middle by a tent filter. */
export function pixelSample(n: number): [number, number] {
  const tent = (u: number): number => (u < 0.5 ? Math.sqrt(2 * u) - 1 : 1 - Math.sqrt(2 - 2 * u)) * 0.75;
  const [a, b] = secondSample(n);
  return [tent(a), tent(b)];
}
