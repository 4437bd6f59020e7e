import type { PNG } from 'pngjs';
import { toneCurve } from '#core/light/tone-curve.ts';
import { toLinear } from '#core/model/srgb.ts';
import { times, type Vector } from '#core/model/vectors.ts';

interface Size {
  width: number;
  height: number;
}

/** Light of a picture as a screen shows it, linear; with its opacity. */
export const lightOn = ({ data }: PNG): number[] =>
  Array.from(data, (v, i) => (i % 4 === 3 ? v / 255 : toLinear(v / 255)));

/** Means of blocks, by channel; null where the covering picture leaves some of one free. */
function blocks(
  { width, height }: Size,
  covering: readonly number[],
  light: readonly number[],
  block: number,
): (Vector | null)[] {
  const out: (Vector | null)[] = [];
  for (let y = 0; y + block <= height; y += block)
    for (let x = 0; x + block <= width; x += block) {
      const sum: Vector = [0, 0, 0];
      let covered = true;
      for (let k = 0; k < block * block; k++) {
        const at = 4 * ((y + Math.floor(k / block)) * width + x + (k % block));
        if (covering[at + 3] < 0.999) covered = false;
        for (const c of [0, 1, 2]) sum[c] += light[at + c] / (block * block);
      }
      out.push(covered ? sum : null);
    }
  return out;
}

export interface Difference {
  /** Numbers compared: three for each block. */
  count: number;
  /** Root of the mean square, the largest, and the mean of ours less theirs. */
  rootMeanSquare: number;
  most: number;
  mean: number;
}

/**
 * Our picture against light that was traced, which is shown by the same curve.
 *
 * @param brighter times as bright the traced light is taken
 * @param block pixels on a side of what is compared: grain is no difference
 */
export function difference(
  size: Size,
  mine: readonly number[],
  traced: readonly number[],
  { brighter = 1, block = 6 } = {},
): Difference {
  const others = blocks(size, mine, traced, block);
  const all = blocks(size, mine, mine, block).flatMap((own, i) => {
    const other = others[i];
    if (!own || !other) return [];
    const shown = toneCurve(times(other, brighter));
    return own.map((v, k) => v - shown[k]);
  });
  const mean = (of: number[]): number => of.reduce((a, b) => a + b, 0) / of.length;
  return {
    count: all.length,
    rootMeanSquare: Math.sqrt(mean(all.map((d) => d * d))),
    most: Math.max(...all.map(Math.abs)),
    mean: mean(all),
  };
}
