import { type Rgb, toLinear } from '#core/colour/cielab.ts';

/** `#rrggbb` as linear light. */
export function linearOf(hex: string): Rgb {
  return [1, 3, 5].map((at) => toLinear(Number.parseInt(hex.slice(at, at + 2), 16) / 255)) as Rgb;
}
