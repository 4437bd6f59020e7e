import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { isTidy } from '../../tests/tidy-page.ts';
import { matrixPage, rowsForShape, saidOfPicture, stripPages } from './sheet-layout.ts';

const words = { title: 'Ovens', statement: 'Front of each run; one colour scale: T from 20 to 240' };
const picture = { width: 320, height: 240 };
const items = (count: number) => Array.from({ length: count }, (_, row) => ({ row, label: `fan ${row}` }));

describe('pages of a strip', () => {
  it('have every picture once, in order, with its label below', () => {
    const pages = stripPages({ ...words, items: items(11), picture, across: 4, down: 2 });
    expect(pages.map((p) => p.pictures.map((q) => q.row))).toEqual([
      [0, 1, 2, 3, 4, 5, 6, 7],
      [8, 9, 10],
    ]);
    expect(pages.map((p) => p.texts[0].text)).toEqual(['Ovens, 1 of 2', 'Ovens, 2 of 2']);
    // All pages are as large, also one that is not full.
    expect(pages[1]).toMatchObject({ width: pages[0].width, height: pages[0].height });
    const [{ pictures, texts }] = pages;
    const label = texts.find((t) => t.text === 'fan 5')!;
    expect(label.x).toBe(pictures[5].x + 160);
    expect(label.y).toBeGreaterThan(pictures[5].y + 240);
  });
  it('are one page where no number of rows is told, and state what they show', () => {
    const pages = stripPages({ ...words, items: items(11), picture, across: 4, down: null });
    expect(pages).toHaveLength(1);
    expect(pages[0].texts.slice(0, 2).map((t) => t.text)).toEqual([words.title, words.statement]);
  });
  it('lay nothing over anything, whatever their size', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 40 }),
        fc.integer({ min: 1, max: 9 }),
        fc.option(fc.integer({ min: 1, max: 6 })),
        fc.integer({ min: 80, max: 1920 }),
        fc.integer({ min: 60, max: 1200 }),
        (count, across, down, width, height) =>
          stripPages({ ...words, items: items(count), picture: { width, height }, across, down }).every(
            isTidy,
          ),
      ),
    );
  });
});

describe('the page of a matrix', () => {
  const cell = (...rows: number[]) => rows.map((row) => ({ row, label: `run ${row}` }));
  const page = matrixPage({
    ...words,
    picture,
    corner: 'vent °',
    across: ['fan 900', 'fan 1500', 'fan 2400'],
    down: ['0', '15'],
    cells: [
      [cell(0), cell(1), cell()],
      [cell(2, 3), cell(4), cell(5)],
    ],
  });
  it('has each run where its parameters say, and a place without a run free', () => {
    const at = (row: number) => page.pictures.find((p) => p.row === row)!;
    expect(at(0).y).toBe(at(1).y);
    expect(at(0).x).toBe(at(2).x);
    expect([at(4).x, at(5).y]).toEqual([at(1).x, at(4).y]);
    // Two runs of one place stand below each other.
    expect(at(3).x).toBe(at(2).x);
    expect(at(3).y).toBeGreaterThanOrEqual(at(2).y + 240);
    const heads = page.texts.filter((t) => t.text.startsWith('fan ')).map((t) => t.x);
    expect(heads.slice(0, 2)).toEqual([at(0).x + 160, at(1).x + 160]);
  });
  it('lays nothing over anything', () => {
    expect(isTidy(page)).toBe(true);
  });
});

describe('rows for the shape of a page', () => {
  it('come nearest to it of all counts', () => {
    for (const across of [1, 3, 4, 8]) {
      const chosen = rowsForShape(across, picture, 16 / 9);
      const off = (down: number): number => {
        const [page] = stripPages({ ...words, items: items(across * down), picture, across, down });
        return Math.abs(page.height - page.width / (16 / 9));
      };
      for (const other of [chosen - 1, chosen + 1])
        if (other > 0) expect(off(chosen)).toBeLessThanOrEqual(off(other));
    }
  });
});

describe('what is said of a picture', () => {
  it('is what stands below it', () => {
    const [page] = stripPages({ ...words, items: items(7), picture, across: 3, down: null });
    expect(page.pictures.map((p) => saidOfPicture(page, p))).toEqual(items(7).map((i) => i.label));
  });
});
