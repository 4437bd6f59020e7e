import { expect, it } from 'vitest';
import { FIRST_BODY, FLOOR } from '../shaders/colour.ts';
import { eachPixel } from './layers-apart.ts';

/** Pixels of nothing, of the floor, of what takes no light, and of the third body seen aslant. */
const pixels = Float32Array.from([
  ...[0, 0, 0, 0],
  ...[0, 0, FLOOR, 7],
  ...[0.25, 0, 0, 3],
  ...[0.6, 0, 0.8].map((v) => (FIRST_BODY + 2) * v),
  2.5,
  ...[0, 0, 0, -1],
]);

it('the layers of numbers tell bodies, normals and distances apart from nothing', () => {
  const bodies = eachPixel(pixels, ({ body }) => [body, body, body]);
  expect(Array.from(bodies.filter((_, i) => i % 4 === 0))).toEqual([0, 0, 0, 3, 0]);
  const normals = eachPixel(pixels, ({ normal }) => normal);
  expect([normals[12], normals[13], normals[14]]).toEqual([
    expect.closeTo(0.6, 6),
    0,
    expect.closeTo(0.8, 6),
  ]);
  expect(Array.from(normals.slice(0, 3))).toEqual([0, 0, 0]);
  expect(normals[6]).toBe(1);
  const depths = eachPixel(pixels, ({ distance }) => [distance, distance, distance]);
  expect(Array.from(depths.filter((_, i) => i % 4 === 0))).toEqual([0, 7, 3, 2.5, 0]);
  expect(Array.from(depths.filter((_, i) => i % 4 === 3))).toEqual([0, 1, 1, 1, 0]);
});
