import { describe, expect, it } from 'vitest';
import { randomNumbers } from '#core/model/random-numbers.ts';
import { fromLinear } from '#core/model/srgb.ts';
import { NoiseGauge } from './noise.ts';

const PIXELS = 4000;
const LIGHT = 0.4;

/** The means of more and more passes, each of which is the light and some chance. */
function* means(spread: number): Generator<{ passes: number; pixels: Float32Array }> {
  const chance = randomNumbers(7);
  const sum = new Float64Array(4 * PIXELS);
  for (let passes = 1; ; passes++) {
    for (let i = 0; i < sum.length; i++) sum[i] += i % 4 === 3 ? 1 : LIGHT + spread * (chance() - 0.5);
    yield { passes, pixels: Float32Array.from(sum, (v) => v / passes) };
  }
}

describe('the noise of a picture', () => {
  it('is what its passes really miss the light by, within a tenth', () => {
    const gauge = new NoiseGauge();
    const wanted = 255 * fromLinear(LIGHT);
    let told = 0;
    for (const { passes, pixels } of means(0.2)) {
      if (!NoiseGauge.isDue(passes)) continue;
      const found = gauge.of(pixels);
      if (passes === 4) expect(found).toBeNull();
      if (passes > 64) break;
      if (found === null) continue;
      const missed = Math.sqrt(
        pixels.reduce((s, v, i) => s + (i % 4 === 3 ? 0 : (255 * fromLinear(v) - wanted) ** 2), 0) /
          (3 * PIXELS),
      );
      expect(Math.abs(found / missed - 1), `${passes} passes`).toBeLessThan(0.1);
      told++;
    }
    expect(told).toBe(4);
  });
  it('is none where passes do not differ', () => {
    const gauge = new NoiseGauge();
    gauge.of(new Float32Array(400).fill(0.3));
    expect(gauge.of(new Float32Array(400).fill(0.3))).toBe(0);
  });
});
