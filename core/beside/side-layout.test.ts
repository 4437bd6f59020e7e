import { describe, expect, it } from 'vitest';
import { emptySideBySide, type SideBySide } from './side-by-side.ts';
import { type Box, DIFFERENCE, sideLayout } from './side-layout.ts';

const side = (count: number, show: Partial<SideBySide['show']> = {}): SideBySide => {
  const empty = emptySideBySide('Panes');
  const panes = Array.from({ length: count }, (_, i) => ({ id: `p${i}`, kind: 'scene' as const }));
  return { ...empty, panes: panes as never, show: { ...empty.show, ...show } };
};
const size = { width: 1264, height: 700 };
const overlap = (a: Box, b: Box): boolean =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;

describe('panes', () => {
  for (let count = 1; count <= 9; count++)
    it(`${count} lie within the whole, none upon another, all alike in size`, () => {
      const { panes, legend } = sideLayout(side(count), size, 14, true);
      const boxes = panes.flatMap((p) => [p.title, p.picture]);
      for (const [i, box] of boxes.entries()) {
        expect(box.x).toBeGreaterThanOrEqual(0);
        expect(box.x + box.width).toBeLessThanOrEqual(size.width);
        expect(box.y + box.height).toBeLessThanOrEqual(legend!.y);
        for (const other of boxes.slice(i + 1)) expect(overlap(box, other)).toBe(false);
      }
      const widths = panes.map((p) => p.picture.width);
      expect(Math.max(...widths) - Math.min(...widths)).toBeLessThanOrEqual(1);
    });
  it('stand as many in a row as was chosen', () => {
    const { panes } = sideLayout(side(4, { across: 4 }), size, 14, false);
    expect(new Set(panes.map((p) => p.picture.y)).size).toBe(1);
    expect(panes.map((p) => p.id)).toEqual(['p0', 'p1', 'p2', 'p3']);
  });
  it('look the same at every size', () => {
    const [one, two] = [1, 2].map((n) =>
      sideLayout(side(4), { width: n * size.width, height: n * size.height }, 14 * n, true),
    );
    for (const [i, { picture }] of one.panes.entries())
      expect(Math.abs(2 * picture.x - two.panes[i].picture.x)).toBeLessThanOrEqual(2);
  });
});

describe('two upon each other', () => {
  it('have one picture, the first painted last, with a title each', () => {
    const { panes } = sideLayout(side(3, { as: 'wipe', first: 'p2' }), size, 14, false);
    expect(panes.map((p) => p.id)).toEqual(['p0', 'p2']);
    expect(panes[0].picture).toEqual(panes[1].picture);
    expect(overlap(panes[0].title, panes[1].title)).toBe(false);
  });
  it('stand small beside the picture of their difference', () => {
    const { panes } = sideLayout(side(2, { as: 'difference' }), size, 14, false);
    expect(panes.map((p) => p.id)).toEqual(['p0', 'p1', DIFFERENCE]);
    expect(panes[2].picture.width).toBeGreaterThan(1.8 * panes[0].picture.width);
  });
  it('are told by their panes where there is only one', () => {
    expect(sideLayout(side(1, { as: 'wipe' }), size, 14, false).panes).toHaveLength(1);
    expect(sideLayout(side(0), size, 14, false).panes).toEqual([]);
  });
});
