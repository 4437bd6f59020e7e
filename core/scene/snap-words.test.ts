import { describe, expect, it } from 'vitest';
import { nextLine, snapWords } from './snap-words.ts';

const picture = { width: 1000, height: 600 };
const MARGIN = 12;
const REACH = 7;
const legend = { x: 850, y: 150, width: 100, height: 300 };
const at = (x: number, y: number, width = 200, height = 40) => ({ x, y, width, height });

describe('what is dragged near to a line', () => {
  it('comes onto the margins and the middle of the picture', () => {
    expect(snapWords(at(16, 300), [], picture, MARGIN, REACH)).toMatchObject({ dx: -4, across: MARGIN });
    expect(snapWords(at(785, 300), [], picture, MARGIN, REACH)).toMatchObject({ dx: 3, across: 988 });
    // Its own middle to that of the picture.
    expect(snapWords(at(403, 283), [], picture, MARGIN, REACH)).toMatchObject({
      dx: -3,
      across: 500,
      dy: -3,
      down: 300,
    });
  });

  it('comes onto edges and middles of others, edge to edge', () => {
    expect(snapWords(at(645, 147), [legend], picture, MARGIN, REACH)).toMatchObject({
      dx: 5,
      across: 850,
      dy: 3,
      down: 150,
    });
    expect(snapWords(at(300, 434), [legend], picture, MARGIN, REACH)).toMatchObject({ dy: -4, down: 450 });
  });

  it('takes the nearest of several lines, and stays where none is near', () => {
    const two = [at(100, 100, 50, 50), at(104, 300, 50, 50)];
    expect(snapWords(at(105, 200), two, picture, MARGIN, REACH)).toMatchObject({ dx: -1, across: 104 });
    expect(snapWords(at(230, 160), [], picture, MARGIN, REACH)).toEqual({
      dx: 0,
      dy: 0,
      across: null,
      down: null,
    });
  });
});

describe('what goes to the next line by keys', () => {
  it('goes by its nearest edge or middle, line by line, up to the margin and no further', () => {
    let box = at(600, 400, 100, 40);
    const places: number[] = [];
    for (let i = 0; i < 6; i++) {
      const { x, y } = nextLine(box, [], picture, MARGIN, [-1, 0]);
      expect(y).toBe(0);
      if (x === 0) break;
      box = { ...box, x: box.x + x };
      places.push(box.x);
    }
    // Left edge, middle and right edge to the middle of the picture, then the margin.
    expect(places).toEqual([500, 450, 400, MARGIN]);
    expect(nextLine(box, [], picture, MARGIN, [-1, 0])).toEqual({ x: 0, y: 0 });
  });

  it('stops at others on its way', () => {
    const { x } = nextLine(at(500, 400), [legend], picture, MARGIN, [1, 0]);
    // Its right edge, at 700, comes to the left edge of the legend.
    expect(x).toBe(150);
    expect(nextLine(at(500, 520), [legend], picture, MARGIN, [0, -1])).toEqual({ x: 0, y: -70 });
  });

  it('never leaves the picture', () => {
    for (const direction of [
      [1, 0],
      [-1, 0],
      [0, 1],
      [0, -1],
    ] as const) {
      let box = at(333, 222, 150, 60);
      for (let i = 0; i < 20; i++) {
        const by = nextLine(box, [legend], picture, MARGIN, direction);
        box = { ...box, x: box.x + by.x, y: box.y + by.y };
        expect(box.x).toBeGreaterThanOrEqual(MARGIN - 1);
        expect(box.y).toBeGreaterThanOrEqual(MARGIN - 1);
        expect(box.x + box.width).toBeLessThanOrEqual(1000 - MARGIN + 1);
        expect(box.y + box.height).toBeLessThanOrEqual(600 - MARGIN + 1);
      }
    }
  });
});
