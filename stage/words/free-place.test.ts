import fc from 'fast-check';
import { expect, it } from 'vitest';
import { asideBy } from './free-place.ts';

const box = (x: number, width = 100) => ({ x, y: 200, width, height: 300 });

it('what stands free stays, what covers another goes to the nearest place beside it', () => {
  expect(asideBy(box(600), [], 800, 10)).toBe(0);
  expect(asideBy(box(600), [box(300)], 800, 10)).toBe(0);
  expect(asideBy(box(600), [box(650)], 800, 10)).toBe(-60);
  expect(asideBy(box(100), [box(50)], 800, 10)).toBe(60);
  // Above or below the other nothing is covered.
  expect(asideBy({ ...box(600), y: 0, height: 190 }, [box(650)], 800, 10)).toBe(0);
});

it('any number that have room are set beside each other', () => {
  fc.assert(
    fc.property(fc.array(fc.integer({ min: 40, max: 180 }), { minLength: 1, maxLength: 5 }), (widths) => {
      fc.pre(widths.reduce((a, b) => a + 2 * b + 60, 0) < 1600);
      const placed: ReturnType<typeof box>[] = [];
      for (const width of widths) {
        const own = box(1600 - 20 - width, width);
        placed.push({ ...own, x: own.x + asideBy(own, placed, 1600, 10) });
      }
      for (const [i, a] of placed.entries())
        for (const b of placed.slice(i + 1)) expect(a.x + a.width <= b.x || b.x + b.width <= a.x).toBe(true);
    }),
  );
});
