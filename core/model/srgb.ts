/** sRGB transfer function and its inverse (IEC 61966-2-1). */
export const toLinear = (v: number): number => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4);
export const fromLinear = (v: number): number =>
  v <= 0.0031308 ? 12.92 * v : 1.055 * v ** (1 / 2.4) - 0.055;

/** `#rrggbb` as linear light. */
export const linearOf = (hex: string): [number, number, number] =>
  [1, 3, 5].map((at) => toLinear(Number.parseInt(hex.slice(at, at + 2), 16) / 255)) as [
    number,
    number,
    number,
  ];

/** Linear light as `#rrggbb`, the nearest a screen can show. */
export const hexOfLinear = (light: readonly number[]): string =>
  `#${light
    .slice(0, 3)
    .map((v) =>
      Math.round(255 * fromLinear(Math.min(1, Math.max(0, v))))
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`;
