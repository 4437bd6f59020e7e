import { describe, expect, it } from 'vitest';
import { bentCell } from '../../tests/bent-cell.ts';
import { fieldOf, hexBlockBetween, mixedBlock, quadSheet, tetraBlock } from '../../tests/made-solids.ts';
import { cubesOfEveryKind } from '../../tests/mesh-checks.ts';
import { cellMeasures } from '../fields/cell-measures.ts';
import { outerFaces } from '../fields/surfaces/outer-faces.ts';
import { LINE, POLYHEDRON } from '../model/cell-types.ts';
import type { Mesh } from '../model/mesh.ts';
import { meshWeights } from './mesh-weights.ts';

/** The integral of values at points, as anybody uses the weights. */
function integral(mesh: Mesh, dimension: 1 | 2 | 3, values: ArrayLike<number>): number {
  const { nodes } = meshWeights(mesh, dimension);
  return mesh.connectivity.reduce((sum, node, entry) => sum + nodes[entry] * values[node], 0);
}

const sum = (values: ArrayLike<number>): number => Array.from(values).reduce((a, b) => a + b, 0);

/** A map with a constant stretch: volumes become six times as large, areas in the plane of x and y three times. */
const sheared = ([x, y, z]: readonly number[]): number[] => [3 * x + 0.4 * y, y + 0.2 * z, 2 * z];

/** By hand, in the local places of the file format: the volume, and the integral of x + y + z. */
const volumes: Record<string, [volume: number, ofSum: number]> = {
  tetra: [1 / 6, 1 / 8],
  tetra10: [1 / 6, 1 / 8],
  hexahedron: [1, 1.5],
  voxel: [1, 1.5],
  hexahedron20: [1, 1.5],
  hexahedron24: [1, 1.5],
  hexahedron27: [1, 1.5],
  // A half of the cube under x + y = 1: the middle of its base is at 1/3.
  wedge: [1 / 2, 7 / 12],
  wedge12: [1 / 2, 7 / 12],
  wedge15: [1 / 2, 7 / 12],
  wedge18: [1 / 2, 7 / 12],
  // Its middle is a quarter of the way up.
  pyramid: [1 / 3, (1 / 3) * 1.25],
  pyramid13: [1 / 3, (1 / 3) * 1.25],
};

describe('weights of volume cells', () => {
  it.each(Object.entries(volumes))('are those of the closed form on %s', (name, [volume, ofSum]) => {
    const cell = bentCell(name, (p) => [...p]);
    const found = meshWeights(cell, 3);
    expect(found.cells[0]).toBeCloseTo(volume, 6);
    expect(
      integral(
        cell,
        3,
        fieldOf(cell, (x, y, z) => x + y + z),
      ),
    ).toBeCloseTo(ofSum, 5);
    const bent = bentCell(name, sheared);
    expect(meshWeights(bent, 3).cells[0]).toBeCloseTo(6 * volume, 5);
  });

  it.each(['tetra10', 'hexahedron20', 'hexahedron27', 'wedge15', 'wedge18'])(
    'follow values of the second degree on %s',
    (name) => {
      // On the cell from 0 to 1 along z, which all of these but the tetrahedron have as their height.
      const cell = bentCell(name, (p) => [...p]);
      const squares = fieldOf(cell, (_x, _y, z) => z * z);
      // By hand: the area of the base times a third; of the tetrahedron 2 / 5!.
      const expected = name === 'tetra10' ? 1 / 60 : volumes[name][0] / 3;
      expect(integral(cell, 3, squares)).toBeCloseTo(expected, 6);
    },
  );

  it('add up to the volumes of cells taken by their faces, whatever the cells are', () => {
    const meshes = { ...cubesOfEveryKind(), mixed: mixedBlock(3), prism: bentCell('hexaprism', sheared) };
    for (const [name, mesh] of Object.entries(meshes)) {
      const { cells, nodes } = meshWeights(mesh, 3);
      const known = cellMeasures(mesh);
      for (let c = 0; c < cells.length; c++)
        expect(cells[c], `${name} ${c}`).toBeCloseTo(Math.abs(known[c]), 5);
      expect(sum(nodes)).toBeCloseTo(sum(cells), 9);
    }
  });

  it('count cells that are turned inside out like the others, and tell how many', () => {
    const good = bentCell('hexahedron', (p) => [...p]);
    expect(meshWeights(good, 3).inverted).toBe(0);
    const turned = bentCell('hexahedron', ([x, y, z]) => [-x, y, z]);
    expect(meshWeights(turned, 3).inverted).toBe(1);
    expect(meshWeights(turned, 3).cells[0]).toBeCloseTo(1, 9);
    // The file format looks at the base of a wedge from outside, unlike at that of a hexahedron.
    for (const [name, mesh] of Object.entries(cubesOfEveryKind()))
      expect(meshWeights(mesh, 3).inverted, name).toBe(0);
  });

  it('take polyhedra apart around their middles, with faces walked either way', () => {
    const cube = bentCell('hexahedron', sheared);
    const faces = [
      [0, 1, 2, 3],
      [4, 5, 6, 7],
      [0, 1, 5, 4],
      [1, 2, 6, 5],
      [2, 3, 7, 6],
      [3, 0, 4, 7],
    ];
    const list = faces.flatMap((f, i) => [4, ...(i % 2 ? [...f].reverse() : f)]);
    const polyhedron: Mesh = {
      ...cube,
      types: Uint8Array.of(POLYHEDRON),
      polyhedra: { faces: Uint32Array.from(list), starts: Uint32Array.of(0, list.length) },
    };
    const linear = fieldOf(cube, (x, y, z) => 2 * x - y + 3 * z + 1);
    expect(meshWeights(polyhedron, 3).cells[0]).toBeCloseTo(6, 5);
    expect(integral(polyhedron, 3, linear)).toBeCloseTo(integral(cube, 3, linear), 4);
  });

  it('leave out what has another dimension', () => {
    const cube = hexBlockBetween(1, 0, 1);
    expect(meshWeights(cube, 2)).toMatchObject({ dimension: 2, cells: Float64Array.of(0) });
    expect(sum(meshWeights(cube, 1).nodes)).toBe(0);
  });
});

/** By hand: area, and the integral of x + y. */
const areas: Record<string, [area: number, ofSum: number]> = {
  triangle: [1 / 2, 1 / 3],
  triangle6: [1 / 2, 1 / 3],
  quad: [1, 1],
  pixel: [1, 1],
  quad8: [1, 1],
  quad9: [1, 1],
};

describe('weights of faces', () => {
  it.each(Object.entries(areas))('are those of the closed form on %s', (name, [area, ofSum]) => {
    const cell = bentCell(name, (p) => [...p]);
    expect(meshWeights(cell, 2).cells[0]).toBeCloseTo(area, 6);
    expect(
      integral(
        cell,
        2,
        fieldOf(cell, (x, y) => x + y),
      ),
    ).toBeCloseTo(ofSum, 6);
    // Turned by 45 degrees about x and stretched threefold along it.
    const turned = bentCell(name, ([x, y]) => [3 * x, y * Math.SQRT1_2, y * Math.SQRT1_2]);
    const { cells, across } = meshWeights(turned, 2);
    expect(cells[0]).toBeCloseTo(3 * area, 5);
    const total = [0, 1, 2].map((k) => across!.filter((_, i) => i % 3 === k).reduce((a, b) => a + b, 0));
    const expected = [0, -3 * area * Math.SQRT1_2, 3 * area * Math.SQRT1_2];
    for (let k = 0; k < 3; k++) expect(total[k]).toBeCloseTo(expected[k], 5);
  });

  it('with directions close around every body, and carry out of it what arises in it', () => {
    // The divergence theorem: of (x, 2 y, 3 z) six times the volume goes out, on faces of every kind.
    for (const [name, mesh] of Object.entries({
      hexahedra: hexBlockBetween(3),
      tetrahedra: tetraBlock(2),
      mixed: mixedBlock(3),
      quadratic: bentCell('hexahedron20', sheared),
    })) {
      const volume = sum(meshWeights(mesh, 3).cells);
      const { mesh: faces } = outerFaces(mesh);
      const { across } = meshWeights(faces, 2);
      const closed = [0, 0, 0];
      let out = 0;
      for (const [entry, node] of faces.connectivity.entries())
        for (let k = 0; k < 3; k++) {
          closed[k] += across![3 * entry + k];
          out += (k + 1) * faces.points[3 * node + k] * across![3 * entry + k];
        }
      for (const v of closed) expect(v, name).toBeCloseTo(0, 5);
      expect(out, name).toBeCloseTo(6 * volume, 4);
    }
  });

  it('of polygons and strips are those of their triangles', () => {
    const ring = Array.from({ length: 6 }, (_, i) => [
      Math.cos((i * Math.PI) / 3),
      Math.sin((i * Math.PI) / 3),
      0,
    ]);
    const hexagon: Mesh = {
      points: Float32Array.from(ring.flat()),
      types: Uint8Array.of(7),
      offsets: Uint32Array.of(0, 6),
      connectivity: Uint32Array.of(0, 1, 2, 3, 4, 5),
    };
    // By hand: 3/2 times the root of 3; the mean of x + 2 over it is 2.
    const area = 1.5 * Math.sqrt(3);
    expect(meshWeights(hexagon, 2).cells[0]).toBeCloseTo(area, 6);
    expect(
      integral(
        hexagon,
        2,
        fieldOf(hexagon, (x) => x + 2),
      ),
    ).toBeCloseTo(2 * area, 5);
    const strip: Mesh = {
      points: Float32Array.of(0, 0, 0, 0, 1, 0, 1, 0, 0, 1, 1, 0, 2, 0, 0),
      types: Uint8Array.of(6),
      offsets: Uint32Array.of(0, 5),
      connectivity: Uint32Array.of(0, 1, 2, 3, 4),
    };
    const { cells, across } = meshWeights(strip, 2);
    expect(cells[0]).toBeCloseTo(1.5, 6);
    // All of its triangles look the same way, down.
    expect(across!.filter((_, i) => i % 3 === 2).reduce((a, b) => a + b, 0)).toBeCloseTo(-1.5, 6);
  });

  it('add up to the area of a sheet', () => {
    const sheet = quadSheet(7, 3, [0, 2], [-1, 1]);
    expect(sum(meshWeights(sheet, 2).cells)).toBeCloseTo(4, 5);
  });
});

describe('weights of lines', () => {
  const line = (type: number, ...points: number[][]): Mesh => ({
    points: Float32Array.from(points.flat()),
    types: Uint8Array.of(type),
    offsets: Uint32Array.of(0, points.length),
    connectivity: Uint32Array.from(points.keys()),
  });
  it('are halves of segments', () => {
    const two = line(LINE, [0, 0, 0], [3, 4, 0]);
    expect(meshWeights(two, 1)).toMatchObject({
      cells: Float64Array.of(5),
      nodes: Float64Array.of(2.5, 2.5),
    });
    const chain = line(4, [0, 0, 0], [3, 4, 0], [3, 4, 1]);
    expect(integral(chain, 1, [1, 2, 5])).toBeCloseTo(5 * 1.5 + 3.5, 6);
  });
  it('of quadratic ones follow their parabola', () => {
    // y = x^2 from -1 to 1: the root of 5 and half the inverse hyperbolic sine of 2 (a table of integrals, from memory).
    const parabola = line(21, [-1, 1, 0], [1, 1, 0], [0, 0, 0]);
    expect(meshWeights(parabola, 1).cells[0]).toBeCloseTo(Math.sqrt(5) + Math.asinh(2) / 2, 2);
    const straight = line(21, [0, 0, 0], [2, 0, 0], [1, 0, 0]);
    expect(integral(straight, 1, [0, 4, 1])).toBeCloseTo(8 / 3, 6);
  });
});
