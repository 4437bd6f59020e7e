import { fromLinear } from '#core/model/srgb.ts';

/**
 * How much a running mean of passes still wavers, told from its own growth: the mean of n passes and that of the first half
 * of them differ by the half of what two independent halves differ by, whose root mean square is the standard error of the
 * mean of n itself (variance of a mean, any textbook of statistics).
 */
export class NoiseGauge {
  private half: Float32Array | null = null;

  /** Whether it is worth asking after so many passes: each time they have doubled. */
  static isDue(passes: number): boolean {
    return passes >= 4 && (passes & (passes - 1)) === 0;
  }

  /**
   * @param pixels the mean now: linear, premultiplied: red, green, blue, opacity of each pixel
   * @returns the root mean square over all pixels of its standard error, in levels of 255; null the first time
   */
  of(pixels: Float32Array): number | null {
    const shown = new Float32Array((pixels.length / 4) * 3);
    for (let i = 0; i < pixels.length / 4; i++)
      for (let k = 0; k < 3; k++)
        shown[3 * i + k] = 255 * fromLinear(Math.min(1, Math.max(0, pixels[4 * i + k])));
    const before = this.half;
    this.half = shown;
    if (!before) return null;
    let sum = 0;
    for (let i = 0; i < shown.length; i++) sum += (shown[i] - before[i]) ** 2;
    return Math.sqrt(sum / shown.length);
  }
}
