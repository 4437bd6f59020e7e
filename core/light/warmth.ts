type Rgb = [number, number, number];

/**
 * Colour of a body that glows at a temperature, linear sRGB with the brightest channel 1: Planck's locus as a cubic spline
 * (Kim et al. 2002, valid 1,667 to 25,000 K) and the matrix of IEC 61966-2-1.
 *
 * @param kelvin 6,500 is white
 */
export function glowColour(kelvin: number): Rgb {
  const t = Math.min(25_000, Math.max(1667, kelvin));
  const x =
    t < 4000
      ? -0.2661239e9 / t ** 3 - 0.234358e6 / t ** 2 + 0.8776956e3 / t + 0.17991
      : -3.0258469e9 / t ** 3 + 2.1070379e6 / t ** 2 + 0.2226347e3 / t + 0.24039;
  const y =
    t < 2222
      ? -1.1063814 * x ** 3 - 1.3481102 * x ** 2 + 2.18555832 * x - 0.20219683
      : t < 4000
        ? -0.9549476 * x ** 3 - 1.37418593 * x ** 2 + 2.09137015 * x - 0.16748867
        : 3.081758 * x ** 3 - 5.8733867 * x ** 2 + 3.75112997 * x - 0.37001483;
  const [X, Z] = [x / y, (1 - x - y) / y];
  const rgb: Rgb = [
    3.2404542 * X - 1.5371385 - 0.4985314 * Z,
    -0.969266 * X + 1.8760108 + 0.041556 * Z,
    0.0556434 * X - 0.2040259 + 1.0572252 * Z,
  ];
  const most = Math.max(...rgb);
  return rgb.map((v) => Math.max(0, v / most)) as Rgb;
}

/** Colour of a lamp by how warm it is said to be: -1 blue as the sky (12,000 K), 0 white, 1 warm as a candle (2,400 K). */
export function lampColour(warmth: number): Rgb {
  if (warmth === 0) return [1, 1, 1];
  // Even steps of what eyes tell apart go by the inverse of temperature.
  const [white, end] = [1e6 / 6500, warmth > 0 ? 1e6 / 2400 : 1e6 / 12_000];
  const at = glowColour(1e6 / (white + Math.abs(warmth) * (end - white)));
  const plain = glowColour(6500);
  const rgb = at.map((v, i) => v / plain[i]);
  const most = Math.max(...rgb);
  return rgb.map((v) => v / most) as Rgb;
}
