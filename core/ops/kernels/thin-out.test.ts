import { describe, expect, it } from 'vitest';
import { buildBlocks } from '#core/model/blocks.ts';
import { replayAll } from '#core/model/recipe.ts';
import { hexBlockBetween, quadSheet, tetraBlock } from '../../../tests/made-solids.ts';
import { spreadOverFaces, spreadThrough } from './spread-places.ts';

/** Distance of each place to its nearest other. */
function nearest(places: Float32Array): number[] {
  const n = places.length / 3;
  return Array.from({ length: n }, (_, i) => {
    let least = Infinity;
    for (let j = 0; j < n; j++)
      if (j !== i)
        least = Math.min(
          least,
          Math.hypot(
            places[3 * i] - places[3 * j],
            places[3 * i + 1] - places[3 * j + 1],
            places[3 * i + 2] - places[3 * j + 2],
          ),
        );
    return least;
  });
}

const mean = (v: number[]): number => v.reduce((a, b) => a + b, 0) / v.length;

describe('places spread evenly', () => {
  // Lagae, Dutre, "A Comparison of Methods for Generating Poisson Disk Distributions", Computer Graphics Forum 27 (2008):
  // the least distance of a good set is 0.65 to 0.85 of the largest there can be; from memory.
  it('over faces: the least distance is that of blue noise', () => {
    for (const count of [200, 1000]) {
      const sheet = quadSheet(30, 17, [0, 3], [0, 2]);
      const { places, cells, recipe } = spreadOverFaces(sheet, count);
      expect(places.length / 3).toBe(count);
      const largest = Math.sqrt((2 * 6) / (Math.sqrt(3) * count));
      const distances = nearest(places);
      const ratio = Math.min(...distances) / largest;
      expect(ratio).toBeGreaterThan(0.65);
      expect(ratio).toBeLessThan(0.85);
      // Clark, Evans, Ecology 35 (1954) 445: 1 by chance, 2.149 in a triangular lattice; from memory.
      const evenness = mean(distances) * 2 * Math.sqrt(count / 6);
      expect(evenness).toBeGreaterThan(1.5);
      expect(evenness).toBeLessThan(2);
      expect([...cells].every((c) => c < sheet.types.length)).toBe(true);
      expect(
        Math.max(...replayAll(recipe, sheet.points, 3).map((v, i) => Math.abs(v - places[i]))),
      ).toBeLessThan(1e-5);
    }
  });

  it('where faces are small and where they are large', () => {
    const sheet = quadSheet(40, 40, [0, 1], [0, 1]);
    const points = sheet.points.map((v, i) => (i % 3 === 0 ? v ** 3 : v));
    const { places } = spreadOverFaces({ ...sheet, points }, 600);
    const inLeft = [...places.keys()].filter((i) => i % 3 === 0 && places[i] < 0.5).length;
    expect(inLeft).toBeGreaterThan(280);
    expect(inLeft).toBeLessThan(320);
  });

  it('at the same places every time', () => {
    const sheet = quadSheet(9, 9, [0, 1], [0, 1]);
    expect(spreadOverFaces(sheet, 50).places).toEqual(spreadOverFaces(sheet, 50).places);
  });

  it.each([
    ['tetrahedra', tetraBlock(4)],
    ['hexahedra', hexBlockBetween(4)],
  ])('through %s', (_, mesh) => {
    const places = spreadThrough(mesh, buildBlocks(mesh), 300);
    expect(places.length / 3).toBe(300);
    expect(Math.max(...places.map(Math.abs))).toBeLessThanOrEqual(1);
    const largest = 2 * Math.cbrt(8 / (4 * Math.SQRT2 * 300));
    expect(Math.min(...nearest(places)) / largest).toBeGreaterThan(0.6);
  });

  it('nothing on nothing', () => {
    const none = {
      points: new Float32Array(0),
      types: new Uint8Array(0),
      offsets: new Uint32Array(1),
      connectivity: new Uint32Array(0),
    };
    expect(spreadOverFaces(none, 10).places.length).toBe(0);
    expect(spreadOverFaces(quadSheet(3, 3, [0, 1], [0, 1]), 0).places.length).toBe(0);
  });
});
