import { describe, expect, it } from 'vitest';
import { cubesOfEveryKind, oneCell, solids } from '../../tests/mesh-checks.ts';
import { cellMeasures } from './cell-measures.ts';
import { meshMeasure } from './mesh-quality.ts';

const s3 = Math.sqrt(3);
/** Cells with all edges of length one: by definition the best of their type. */
const ideal: Record<number, number[][]> = {
  5: [
    [0, 0, 0],
    [1, 0, 0],
    [0.5, s3 / 2, 0],
  ],
  9: [
    [0, 0, 0],
    [1, 0, 0],
    [1, 1, 0],
    [0, 1, 0],
  ],
  10: [
    [0, 0, 0],
    [1, 0, 0],
    [0.5, s3 / 2, 0],
    [0.5, s3 / 6, Math.sqrt(2 / 3)],
  ],
  12: solids[12],
  11: solids[11],
  13: [
    [0, 0, 0],
    [1, 0, 0],
    [0.5, s3 / 2, 0],
    [0, 0, 1],
    [1, 0, 1],
    [0.5, s3 / 2, 1],
  ],
  14: [
    [0, 0, 0],
    [1, 0, 0],
    [1, 1, 0],
    [0, 1, 0],
    [0.5, 0.5, Math.SQRT1_2],
  ],
};

describe('shape measures', () => {
  for (const [id, corners] of Object.entries(ideal)) {
    it(`of the ideal cell of type ${id} are 1, also when it is turned and scaled`, () => {
      const [c, s] = [Math.cos(0.7), Math.sin(0.7)];
      const turned = corners.map(([x, y, z]) => [7 * (c * x - s * z) + 1, 7 * y, 7 * (s * x + c * z)]);
      for (const places of [corners, turned])
        for (const key of ['mesh:mean-ratio', 'mesh:scaled-jacobian', 'mesh:edge-ratio'])
          expect(meshMeasure(oneCell(Number(id), places), key)[0]).toBeCloseTo(1, 5);
    });
  }
  it('of a tetrahedron is 12 (3 V)^(2/3) over the sum of squared edges', () => {
    // Liu and Joe, Relationship between tetrahedron shape measures, BIT 34 (1994) 268; from memory.
    const corners = [
      [0, 0, 0],
      [2, 0.1, 0],
      [0.4, 1.5, 0.2],
      [0.3, 0.4, 0.9],
    ];
    const mesh = oneCell(10, corners);
    const volume = Math.abs(cellMeasures(mesh)[0]);
    let squares = 0;
    for (let a = 0; a < 4; a++)
      for (let b = a + 1; b < 4; b++)
        squares += corners[a].reduce((t, v, k) => t + (v - corners[b][k]) ** 2, 0);
    expect(meshMeasure(mesh, 'mesh:mean-ratio')[0]).toBeCloseTo((12 * (3 * volume) ** (2 / 3)) / squares, 5);
  });
  it('of flat and inverted cells are not positive', () => {
    const flat = oneCell(10, [
      [0, 0, 0],
      [1, 0, 0],
      [0, 1, 0],
      [1, 1, 0],
    ]);
    expect(meshMeasure(flat, 'mesh:mean-ratio')[0]).toBe(0);
    const [a, b, c, d] = ideal[10];
    expect(meshMeasure(oneCell(10, [a, c, b, d]), 'mesh:scaled-jacobian')[0]).toBeCloseTo(-1, 5);
  });
  it('of a brick of 1 x 1 x 3: edge ratio 3, right angles', () => {
    const brick = oneCell(
      12,
      solids[12].map(([x, y, z]) => [x, y, 3 * z]),
    );
    expect(meshMeasure(brick, 'mesh:edge-ratio')[0]).toBeCloseTo(3, 5);
    expect(meshMeasure(brick, 'mesh:scaled-jacobian')[0]).toBeCloseTo(1, 5);
    expect(meshMeasure(brick, 'mesh:size')[0]).toBeCloseTo(3, 5);
  });
});

it('sizes of the cells of a cube add up to it, whatever the cells', () => {
  for (const mesh of Object.values(cubesOfEveryKind()))
    expect(cellMeasures(mesh).reduce((a, b) => a + Math.abs(b), 0)).toBeCloseTo(1, 5);
});
