import { fromLinear, toLinear } from '../model/srgb.ts';

/** Red, green, blue, each 0..1. */
export type Rgb = [number, number, number];
/** CIE L*a*b* under D65. */
export type Lab = [number, number, number];

const WHITE = [0.95047, 1, 1.08883];

const within = (v: number): number => Math.min(1, Math.max(0, v));

/** The nearest colour a screen can show, channel by channel. */
export const clipped = (c: Rgb): Rgb => [within(c[0]), within(c[1]), within(c[2])];

/** CIE 15: L*a*b* to XYZ; IEC 61966-2-1: XYZ to sRGB. May leave 0..1 for colours a screen cannot show. */
export function labToRgb([l, a, b]: Lab): Rgb {
  const fy = (l + 16) / 116;
  const inverse = (f: number): number => (f > 6 / 29 ? f ** 3 : 3 * (6 / 29) ** 2 * (f - 4 / 29));
  const x = WHITE[0] * inverse(fy + a / 500);
  const y = WHITE[1] * inverse(fy);
  const z = WHITE[2] * inverse(fy - b / 200);
  return [
    fromLinear(3.2404542 * x - 1.5371385 * y - 0.4985314 * z),
    fromLinear(-0.969266 * x + 1.8760108 * y + 0.041556 * z),
    fromLinear(0.0556434 * x - 0.2040259 * y + 1.0572252 * z),
  ];
}

/** CIE 15: sRGB to L*a*b* (IEC 61966-2-1 to XYZ). */
export function rgbToLab([r, g, b]: Rgb): Lab {
  const [red, green, blue] = [toLinear(r), toLinear(g), toLinear(b)];
  const share = (v: number): number => (v > (6 / 29) ** 3 ? Math.cbrt(v) : v / (3 * (6 / 29) ** 2) + 4 / 29);
  const fx = share((0.4124564 * red + 0.3575761 * green + 0.1804375 * blue) / WHITE[0]);
  const fy = share(luminance([r, g, b]));
  const fz = share((0.0193339 * red + 0.119192 * green + 0.9503041 * blue) / WHITE[2]);
  return [116 * fy - 16, 500 * (fx - fy), 200 * (fy - fz)];
}

/** Relative luminance, Y of CIE XYZ with white 1 (IEC 61966-2-1). */
export const luminance = ([r, g, b]: Rgb): number =>
  0.2126729 * toLinear(r) + 0.7151522 * toLinear(g) + 0.072175 * toLinear(b);

/** Lightness L* of CIE L*a*b*, 0..100. */
export function lightness(c: Rgb): number {
  const y = luminance(c);
  return y > (6 / 29) ** 3 ? 116 * Math.cbrt(y) - 16 : (y * 29 ** 3) / 27;
}

/** `#rrggbb` to a colour. */
export const hexToRgb = (hex: string): Rgb =>
  [1, 3, 5].map((at) => Number.parseInt(hex.slice(at, at + 2), 16) / 255) as Rgb;

/** A colour as `#rrggbb`. */
export const rgbToHex = (c: Rgb): string =>
  `#${c
    .map((v) =>
      Math.round(255 * within(v))
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;
