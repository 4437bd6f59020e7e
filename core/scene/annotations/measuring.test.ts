import { describe, expect, it } from 'vitest';
import { cross, dot, lengthOf, subtract, type Vector } from '../../model/vectors.ts';
import { angleAt, circleThrough } from './dimension.ts';
import { cornersOf, fitted, placedImage, readWorldFile, worldPlace } from './placed-image.ts';
import { rulerTicks } from './ruler.ts';
import { roundLength } from './scale-bar.ts';
import { rowsOf } from './title-block.ts';

describe('an angle', () => {
  it('is that of the sides, also where they are long, short or nearly one', () => {
    expect(
      angleAt([
        [1, 0, 0],
        [0, 0, 0],
        [0, 5, 0],
      ]),
    ).toBeCloseTo(90, 12);
    expect(
      angleAt([
        [1, 0, 0],
        [0, 0, 0],
        [-1, 0, 0],
      ]),
    ).toBeCloseTo(180, 12);
    // Of a regular tetrahedron, seen from its middle: arccos(−1/3) = 109.4712206° (any handbook of crystals).
    expect(
      angleAt([
        [1, 1, 1],
        [0, 0, 0],
        [1, -1, -1],
      ]),
    ).toBeCloseTo(109.4712206, 6);
    expect(
      angleAt([
        [1, 0, 0],
        [0, 0, 0],
        [1, 1e-9, 0],
      ]),
    ).toBeCloseTo((1e-9 * 180) / Math.PI, 15);
  });
});

describe('a circle through three places', () => {
  it('has the middle and radius it was made from, wherever it lies', () => {
    const centre: Vector = [3, -2, 7];
    const normal: Vector = [0.36, 0.48, 0.8];
    const u: Vector = [0.8, -0.6, 0];
    const v = cross(normal, u);
    const at = (t: number): Vector =>
      [0, 1, 2].map((k) => centre[k] + 0.125 * (Math.cos(t) * u[k] + Math.sin(t) * v[k])) as Vector;
    const found = circleThrough([at(0.3), at(1.9), at(4)])!;
    expect(found.radius).toBeCloseTo(0.125, 12);
    expect(lengthOf(subtract(found.centre, centre))).toBeCloseTo(0, 12);
    expect(dot(found.axes[0], found.axes[1])).toBeCloseTo(0, 12);
  });

  it('of a right triangle has its longest side as diameter (Thales)', () => {
    expect(
      2 *
        circleThrough([
          [0, 0, 0],
          [3, 0, 0],
          [0, 4, 0],
        ])!.radius,
    ).toBeCloseTo(5, 12);
  });

  it('is none through places on a line', () => {
    expect(
      circleThrough([
        [0, 0, 0],
        [1, 1, 1],
        [2, 2, 2],
      ]),
    ).toBeNull();
    expect(
      circleThrough([
        [0, 0, 0],
        [0, 0, 0],
        [1, 0, 0],
      ]),
    ).toBeNull();
  });
});

describe('a picture in coordinates', () => {
  // Worked by hand from the six numbers: x = A column + B row + C, y = D column + E row + F.
  const world = readWorldFile('0.5\n0.0\n0.0\n-0.5\n100.25\n299.75\n');

  it('has the middle of its first pixel where the world file says', () => {
    expect(worldPlace(world, 0, 0)).toEqual([100.25, 299.75]);
    expect(worldPlace(world, 10, 4)).toEqual([105.25, 297.75]);
  });

  it('reaches half a pixel beyond the middles of its outer pixels', () => {
    const corners = cornersOf({ ...placedImage.plain, world, pixels: [200, 100], at: 12 });
    expect(corners).toEqual([
      [100, 250, 12],
      [200, 250, 12],
      [200, 300, 12],
      [100, 300, 12],
    ]);
  });

  it('turns with its world file', () => {
    // A quarter turn: columns run along y, rows along x.
    const turned = cornersOf({ ...placedImage.plain, world: [0, 1, 1, 0, 0, 0], pixels: [2, 1] });
    expect(turned[0]).toEqual([0.5, -0.5, 0]);
    expect(turned[2]).toEqual([-0.5, 1.5, 0]);
  });

  it('stands across any axis', () => {
    const flat = { ...placedImage.plain, world, pixels: [2, 2] as [number, number], at: 5 };
    expect(cornersOf({ ...flat, along: 'x' })[3]).toEqual([5, 100, 300]);
    expect(cornersOf({ ...flat, along: 'y' })[3]).toEqual([100, 5, 300]);
  });

  it('without a world file covers what is shown and keeps its shape', () => {
    const bounds = [0, 4, 0, 1, 0, 2];
    const corners = cornersOf({ ...placedImage.plain, ...fitted([100, 50], bounds), pixels: [100, 50] });
    for (const [k, v] of [0, -0.5, 0].entries()) expect(corners[0][k]).toBeCloseTo(v, 12);
    for (const [k, v] of [4, 1.5, 0].entries()) expect(corners[2][k]).toBeCloseTo(v, 12);
  });

  it('says what is wrong with a world file', () => {
    expect(() => readWorldFile('1\n2\n3')).toThrow('six numbers, one a line; this one has 3');
    expect(() => readWorldFile('1\n1\n1\n1\n0\n0')).toThrow('no area');
  });
});

describe('lengths and ticks', () => {
  it('are 1, 2 or 5 times a power of ten', () => {
    // Worked out by hand.
    const cases = [
      [0.99, 0.5],
      [1, 1],
      [1.99, 1],
      [2, 2],
      [4.9, 2],
      [5, 5],
      [730, 500],
      [0.0031, 0.002],
    ];
    for (const [most, length] of cases) expect(roundLength(most)).toBe(length);
  });

  it('have one distance on all axes, and those of a short axis are its own', () => {
    const [x, y, z] = rulerTicks([0, 2, -0.4, 0.4, 0, 0.25], { count: 5, unit: null }, 'm');
    expect(x.at).toEqual([0, 0.5, 1, 1.5, 2]);
    expect(x.says).toEqual(['0.0', '0.5', '1.0', '1.5', '2.0']);
    expect(y.at.every((v) => Math.abs(v) <= 0.4)).toBe(true);
    expect(y.at.length).toBeGreaterThan(1);
    expect(z.at.length).toBeGreaterThan(1);
  });

  it('are said in another unit, and a flat run has none across', () => {
    const [x, , z] = rulerTicks([0, 0.9, 0, 0.5, 1, 1], { count: 5, unit: 'mm' }, 'm');
    expect(x.says).toEqual(['0', '200', '400', '600', '800']);
    expect(x.at[1]).toBeCloseTo(0.2, 12);
    expect(z.at).toEqual([]);
  });
});

it('rows of a title block part at their first colon that is not within braces', () => {
  expect(rowsOf('Run: {run}\n\n{time:.2f} s\nA: b: c')).toEqual([
    ['Run', '{run}'],
    ['', '{time:.2f} s'],
    ['A', 'b: c'],
  ]);
});
