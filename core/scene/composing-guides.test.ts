import { describe, expect, it } from 'vitest';
import { composingGuides } from './composing-guides.ts';

const linesOf = (id: string, aspect = 1.5) => composingGuides.find((g) => g.id === id)!.lines(aspect);

describe('lines to compose by', () => {
  it('lie on the picture, whatever its shape', () => {
    for (const { id, lines } of composingGuides)
      for (const aspect of [0.3, 1, 16 / 9, 5])
        for (const line of lines(aspect))
          for (const place of line) expect(place >= 0 && place <= 1, `${id} ${line}`).toBe(true);
  });
  it('at the golden section cut so that the smaller part is to the larger as the larger to the whole', () => {
    const [, [x]] = linesOf('golden');
    expect(x / (1 - x)).toBeCloseTo(1 - x, 12);
  });
  it('of triangles meet the diagonal at right angles', () => {
    const aspect = 1.6;
    const [[x0, y0, x1, y1], ...sides] = linesOf('triangles', aspect);
    const along = [(x1 - x0) * aspect, y1 - y0];
    for (const [a, b, c, d] of sides) {
      expect((c - a) * aspect * along[0] + (d - b) * along[1]).toBeCloseTo(0, 12);
      // They end on it.
      expect(c + d).toBeCloseTo(1, 12);
    }
  });
  it('of a net are squares, with one in the middle of both ways', () => {
    const lines = linesOf('net', 1.5);
    const xs = lines.filter(([x0, , x1]) => x0 === x1).map(([x]) => x * 1.5);
    const ys = lines.filter(([, y0, , y1]) => y0 === y1).map(([, y]) => y);
    const step = ys[1] - ys[0];
    for (const all of [xs, ys])
      for (let i = 1; i < all.length; i++) expect(all[i] - all[i - 1]).toBeCloseTo(step, 12);
    expect(xs.some((x) => Math.abs(x - 0.75) < 1e-12)).toBe(true);
  });
});
