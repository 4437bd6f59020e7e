import type { DataTexture } from 'three';
import { expect, it } from 'vitest';
import { ROW } from '../shaders/copies.ts';
import { numberTable, ValueTable, vectorTable } from './tables.ts';

const numbersOf = (texture: DataTexture) => texture.image.data as unknown as Float32Array | Uint32Array;

it('tables for the card hold all entries in whole rows, whose length is a power of two', () => {
  expect(ROW & (ROW - 1)).toBe(0);
  const table = numberTable(Uint32Array.from({ length: ROW + 1 }, (_, i) => 7 * i));
  expect([table.image.width, table.image.height]).toEqual([ROW, 2]);
  expect(numbersOf(table)[ROW]).toBe(7 * ROW);
  expect(numberTable(new Uint32Array()).image.height).toBe(1);
});

it('vectors have a fourth number: one for all, or each its own', () => {
  const vectors = Float32Array.of(1, 2, 3, 4, 5, 6);
  expect([...numbersOf(vectorTable(vectors, 9)).slice(0, 8)]).toEqual([1, 2, 3, 9, 4, 5, 6, 9]);
  expect([...numbersOf(vectorTable(vectors, Float32Array.of(7, 8))).slice(0, 8)]).toEqual([
    1, 2, 3, 7, 4, 5, 6, 8,
  ]);
});

it('values that are not numbers are larger than all that are known, and none are left of the ones before', () => {
  const table = new ValueTable(3);
  table.fill(Float32Array.of(1, Number.NaN, -2e38));
  const data = numbersOf(table.texture);
  expect([data[0], data[2]]).toEqual([1, Math.fround(-2e38)]);
  expect(data[1]).toBeGreaterThan(3e38);
  expect(Number.isFinite(data[1])).toBe(true);
  table.fill(null);
  expect(Math.min(...data.subarray(0, 3))).toBeGreaterThan(3e38);
});
