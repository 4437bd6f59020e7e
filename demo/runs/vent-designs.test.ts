import { describe, expect, it } from 'vitest';
import { slotFlows } from './vent-designs.ts';

const sum = (all: number[]): number => all.reduce((a, b) => a + b, 0);

describe('a vent of the bench', () => {
  it('lets out what goes in', () => {
    for (const slots of [1, 6, 16])
      expect(sum(slotFlows({ slots, width: 0.004, length: 0.16, box: 0.06 }).flows)).toBeCloseTo(0.08, 6);
  });
  it('of one slot needs the pressure of an orifice', () => {
    const [width, length] = [0.03, 0.16];
    const { pressure } = slotFlows({ slots: 1, width, length, box: 0.5 });
    // Q = C A sqrt(2 Δp / ρ) (any text on fluid mechanics, from memory).
    expect(pressure / ((0.95 / 2) * (0.08 / (0.62 * width * length)) ** 2)).toBeCloseTo(1, 6);
  });
  it('is the more even the wider its box is for its slots', () => {
    const evenness = (box: number): number => {
      const { flows } = slotFlows({ slots: 10, width: 0.003, length: 0.16, box });
      return Math.min(...flows) / Math.max(...flows);
    };
    expect(evenness(0.2)).toBeGreaterThan(0.99);
    expect(evenness(0.06)).toBeLessThan(evenness(0.1));
  });
});
