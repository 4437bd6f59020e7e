import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { type Placed, placeTexts, type ScreenLine, type Taken } from './label-layout.ts';

const size = { width: 800, height: 600 };
const HEIGHT = 12;

const lineOf = (points: [number, number][], width = 60): ScreenLine => ({
  points: Float64Array.from(points.flat()),
  width,
});
const circle = (x: number, y: number, r: number, n = 90): [number, number][] =>
  Array.from({ length: n + 1 }, (_, i) => [
    x + r * Math.cos((2 * Math.PI * i) / n),
    y + r * Math.sin((2 * Math.PI * i) / n),
  ]);

/** The corners of what is written. */
function boxOf({ line, at, along }: Placed, lines: ScreenLine[]): [number, number][] {
  const { points, width } = lines[line];
  const i = Math.min(Math.floor(at[1]), points.length / 2 - 2);
  const t = at[1] - i;
  const [x, y] = [0, 1].map((k) => points[2 * i + k] * (1 - t) + points[2 * i + 2 + k] * t);
  const [a, b] = [width / 2, HEIGHT / 2];
  return [
    [-a, -b],
    [a, -b],
    [a, b],
    [-a, b],
  ].map(([u, v]) => [x + u * along[0] - v * along[1], y + u * along[1] + v * along[0]]);
}

/** Whether two rectangles overlap: no side of either parts them (separating axis theorem). */
function overlap(p: [number, number][], q: [number, number][]): boolean {
  for (const [box, n] of [
    [p, 0],
    [p, 1],
    [q, 0],
    [q, 1],
  ] as const) {
    const axis = [box[n + 1][0] - box[n][0], box[n + 1][1] - box[n][1]];
    const span = (c: [number, number][]): [number, number] => {
      const on = c.map(([x, y]) => x * axis[0] + y * axis[1]);
      return [Math.min(...on), Math.max(...on)];
    };
    const [a, b] = [span(p), span(q)];
    if (a[1] <= b[0] || b[1] <= a[0]) return false;
  }
  return true;
}

describe('texts along lines', () => {
  it('stand in the middle of a straight line, along it, and never upside down', () => {
    const [placed, ...more] = placeTexts(
      [
        lineOf([
          [500, 300],
          [100, 100],
        ]),
      ],
      HEIGHT,
      size,
      [],
    );
    expect(more).toEqual([]);
    expect(placed.along[0]).toBeCloseTo(2 / Math.sqrt(5), 6);
    expect(placed.along[1]).toBeCloseTo(1 / Math.sqrt(5), 6);
    expect(placed.at[1]).toBeGreaterThan(0.4);
    expect(placed.at[1]).toBeLessThan(0.6);
    // The line runs to the left, the text to the right.
    expect(placed.at[0]).toBeGreaterThan(placed.at[2]);
  });
  it('are left out on lines too short or too crooked for them, and outside the picture', () => {
    const zigzag = Array.from({ length: 80 }, (_, i): [number, number] => [100 + 5 * i, i % 2 ? 100 : 130]);
    const none = [
      lineOf([
        [100, 100],
        [170, 100],
      ]),
      lineOf(zigzag),
      lineOf(circle(300, 300, 14)),
      lineOf([
        [-500, 100],
        [-100, 100],
      ]),
    ];
    expect(placeTexts(none, HEIGHT, size, [])).toEqual([]);
  });
  it('repeat on a long line only far away', () => {
    const long = lineOf(circle(400, 300, 260));
    const placed = placeTexts([long], HEIGHT, size, []);
    expect(placed.length).toBeGreaterThan(1);
    expect(placed.length).toBeLessThan(5);
  });
  it('keep away from what is written already', () => {
    const line = lineOf([
      [100, 300],
      [300, 300],
    ]);
    const all: Taken = Array.from({ length: 30 }, (_, i) => [i * 20, 300, 20]);
    expect(placeTexts([line], HEIGHT, size, all)).toEqual([]);
  });
  it('stand not behind the camera, where a line cannot be seen', () => {
    const line = lineOf([
      [100, 300],
      [140, 300],
      [Number.NaN, Number.NaN],
      [600, 300],
    ]);
    expect(placeTexts([line], HEIGHT, size, [])).toEqual([]);
  });
  it('never lie over each other, however many lines there are, and are fewer when it is crowded', () => {
    const rings = fc.array(
      fc.record({
        x: fc.integer({ min: 0, max: 800 }),
        y: fc.integer({ min: 0, max: 600 }),
        r: fc.integer({ min: 20, max: 300 }),
        width: fc.integer({ min: 20, max: 90 }),
      }),
      { minLength: 1, maxLength: 40 },
    );
    fc.assert(
      fc.property(rings, (all) => {
        const lines = all.map(({ x, y, r, width }) => lineOf(circle(x, y, r), width));
        const placed = placeTexts(lines, HEIGHT, size, []);
        const boxes = placed.map((p) => boxOf(p, lines));
        for (let i = 0; i < boxes.length; i++)
          for (let j = 0; j < i; j++) expect(overlap(boxes[i], boxes[j])).toBe(false);
      }),
      { numRuns: 60 },
    );
    const crowd = Array.from({ length: 200 }, (_, i) => lineOf(circle(400, 300, 100 + i)));
    expect(placeTexts(crowd, HEIGHT, size, []).length).toBeLessThan(100);
  });
});
