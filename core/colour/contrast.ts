import { luminance, type Rgb } from './cielab.ts';

/** Contrast of two relative luminances, 1..21 (WCAG 2.2, success criterion 1.4.3). */
export function contrastOfLuminances(a: number, b: number): number {
  const [low, high] = a < b ? [a, b] : [b, a];
  return (high + 0.05) / (low + 0.05);
}

/** Contrast of two colours, 1..21. */
export const contrastRatio = (a: Rgb, b: Rgb): number => contrastOfLuminances(luminance(a), luminance(b));

/** What WCAG 2.2 asks of words of usual size. */
export const LEGIBLE = 4.5;
