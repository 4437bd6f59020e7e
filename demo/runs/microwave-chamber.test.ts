import { describe, expect, it } from 'vitest';
import { solveBanded } from '../shared/complex-band.ts';
import { chamberField } from './microwave-chamber.ts';

describe('the microwave chamber of the bench', () => {
  it('solves complex equations', () => {
    // (2+i) x + y = 5 + 3i, x + 3 y = 4 + 7i has x = 2 - i/..., checked by putting it back in.
    const { field } = solveBanded(2, 1, (set) => {
      set.entry(0, 0, 2, 1);
      set.entry(0, 1, 1, 0);
      set.entry(1, 0, 1, 0);
      set.entry(1, 1, 3, 0);
      set.right(0, 5, 3);
      set.right(1, 4, 7);
    });
    const [x, y] = [0, 1].map((k) => [field.re[k], field.im[k]]);
    expect(2 * x[0] - x[1] + y[0]).toBeCloseTo(5, 12);
    expect(2 * x[1] + x[0] + y[1]).toBeCloseTo(3, 12);
    expect(x[0] + 3 * y[0]).toBeCloseTo(4, 12);
    expect(x[1] + 3 * y[1]).toBeCloseTo(7, 12);
  });
  it('sends a wave down an empty guide that comes back from its end as a standing wave of the right length', () => {
    // A guide as wide as its port: the first mode, whose wavelength is 2π / sqrt(k² - (π/width)²) (any text on
    // microwaves, from memory); the field is nil at the end and every half wavelength before it.
    const [nx, ny, spacing] = [120, 16, 0.0055];
    const frequency = 2.45e9;
    const { re, im } = chamberField(frequency, () => ({ re: 1, im: 0 }), { nx, ny, spacing, port: [0, ny] });
    const size = Array.from({ length: nx + 1 }, (_, i) =>
      Math.hypot(re[8 * (nx + 1) + i], im[8 * (nx + 1) + i]),
    );
    const k = (2 * Math.PI * frequency) / 299_792_458;
    const half = Math.PI / Math.sqrt(k ** 2 - (Math.PI / (ny * spacing)) ** 2);
    const nodes = size.flatMap((v, i) =>
      i > 0 && i < nx && v < size[i - 1] && v < size[i + 1] ? [i * spacing] : [],
    );
    for (const [m, place] of nodes.toReversed().entries())
      expect(Math.abs(nx * spacing - place - (m + 1) * half)).toBeLessThan(0.012);
    expect(nodes.length).toBeGreaterThan(1);
    // All of what goes in comes back: twice the incoming amplitude at the antinodes.
    expect(Math.max(...size) / 4000).toBeGreaterThan(1.93);
    expect(Math.max(...size) / 4000).toBeLessThan(2.07);
  });
  it('warms what has losses: the field is weaker behind it', () => {
    const strength = (im: number): number => {
      const block = (x: number): boolean => x > 0.2 && x < 0.3;
      const { re, im: other } = chamberField(2.45e9, (x) => (block(x) ? { re: 4, im } : { re: 1, im: 0 }), {
        nx: 110,
        ny: 16,
        port: [0, 16],
      });
      return Math.max(
        ...Array.from({ length: 40 }, (_, i) => Math.hypot(re[8 * 111 + 65 + i], other[8 * 111 + 65 + i])),
      );
    };
    expect(strength(-4)).toBeLessThan(0.5 * strength(-0.01));
  });
});
