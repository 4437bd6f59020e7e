import { describe, expect, it } from 'vitest';
import { buildBlocks } from '#core/model/blocks.ts';
import { cellTypes } from '#core/model/cell-types.ts';
import type { Mesh } from '#core/model/mesh.ts';
import { bentCell } from '../../../tests/bent-cell.ts';
import {
  fieldOf,
  hexBlockBetween,
  mixedBlock,
  quadSheet,
  seeded,
  tetraBlock,
} from '../../../tests/made-solids.ts';
import { CellFinder } from './cell-finder.ts';
import { cellShape } from './cell-shapes.ts';

const finderOn = (mesh: Mesh): CellFinder => new CellFinder(mesh, buildBlocks(mesh));

/** What the weights of a found place make of values at the points. */
function valueAt(finder: CellFinder, values: ArrayLike<number>): number {
  let sum = 0;
  for (let i = 0; i < finder.count; i++) sum += finder.weights[i] * values[finder.nodes[i]];
  return sum;
}

const solids = ['tetra', 'hexahedron', 'voxel', 'wedge', 'pyramid', 'hexaprism'];
const quadratics = [
  'tetra10',
  'hexahedron20',
  'hexahedron24',
  'hexahedron27',
  'wedge12',
  'wedge15',
  'wedge18',
];
const flats = ['triangle', 'quad', 'pixel', 'triangle6', 'triangle7', 'quad6', 'quad8', 'quad9'];

describe('how values run in cells', () => {
  it.each([...solids, ...quadratics, ...flats].filter((n) => n !== 'hexaprism'))(
    'the weights of a %s sum to one, and are one at their own node',
    (name) => {
      const shape = cellShape([...cellTypes.values()].find((t) => t.name === name)!.id)!;
      const { coefficients: c, terms, powers, nodes } = shape;
      const at = (i: number, place: readonly number[]): number => {
        let sum = 0;
        for (let j = 0; j < terms; j++)
          sum += c[i * terms + j] * [0, 1, 2].reduce((v, k) => v * place[k] ** powers[3 * j + k], 1);
        return sum;
      };
      const random = seeded(3);
      for (let trial = 0; trial < 20; trial++) {
        const place = [random(), random(), shape.dimension === 3 ? random() : 0];
        const sum = Array.from({ length: nodes }, (_, i) => at(i, place)).reduce((a, b) => a + b);
        expect(sum).toBeCloseTo(1, 10);
      }
      for (const side of shape.sides) expect(side.corners.length).toBeLessThanOrEqual(4);
    },
  );

  it.each([...solids, ...quadratics])('a linear value is exact anywhere in a bent %s', (name) => {
    // A map that leaves no edge parallel to another, and only bends where the cell can bend.
    const mesh = bentCell(name, ([x, y, z]) => [
      2 * x + 0.3 * y * z + 0.2 * z,
      y + 0.25 * x * z,
      1.5 * z + 0.2 * x * y,
    ]);
    const finder = finderOn(mesh);
    const [px, py, pz] = [0, 1, 2].map((k) => mesh.points.filter((_, i) => i % 3 === k));
    const values = fieldOf(mesh, (x, y, z) => 1 + 2 * x - 3 * y + 0.5 * z);
    const random = seeded(5);
    let found = 0;
    for (let trial = 0; trial < 400; trial++) {
      const place = [px, py, pz].map((v) => Math.min(...v) + random() * (Math.max(...v) - Math.min(...v)));
      finder.leave();
      if (!finder.find(place[0], place[1], place[2])) continue;
      found++;
      expect(valueAt(finder, values)).toBeCloseTo(1 + 2 * place[0] - 3 * place[1] + 0.5 * place[2], 4);
    }
    expect(found).toBeGreaterThan(40);
  });

  it.each(['tetra10', 'hexahedron20', 'hexahedron24', 'hexahedron27', 'wedge15', 'wedge18'])(
    'a quadratic value is exact in a straight %s',
    (name) => {
      const mesh = bentCell(name, ([x, y, z]) => [2 * x, y, 1.5 * z]);
      const finder = finderOn(mesh);
      const q = (x: number, y: number, z: number): number => 1 + x * x - 2 * y * y + z * z + x * y - y * z;
      const values = fieldOf(mesh, q);
      const random = seeded(7);
      for (let trial = 0; trial < 100; trial++) {
        const [x, y, z] = [random() * 0.6, random() * 0.3, random() * 0.4];
        expect(finder.find(x, y, z)).toBe(true);
        expect(valueAt(finder, values)).toBeCloseTo(q(x, y, z), 5);
      }
    },
  );

  it('polyhedra are found as the prism they are written as', () => {
    const prism = bentCell('hexaprism', (p) => [...p]);
    const faces = cellTypes.get(16)!.faces;
    const listed = faces.flatMap((f) => [f.length, ...f]);
    const polyhedron: Mesh = {
      ...prism,
      types: Uint8Array.of(42),
      polyhedra: { faces: Uint32Array.from(listed), starts: Uint32Array.of(0, listed.length) },
    };
    const values = fieldOf(prism, (x, y, z) => x - 2 * y + 3 * z);
    const [a, b] = [finderOn(prism), finderOn(polyhedron)];
    for (const [x, y, z] of [
      [0.1, 0.2, 0.3],
      [-0.7, 0.1, 0.9],
      [0.3, -0.6, 0.02],
    ]) {
      expect([a.find(x, y, z), b.find(x, y, z)]).toEqual([true, true]);
      expect(valueAt(a, values)).toBeCloseTo(x - 2 * y + 3 * z, 5);
      expect(valueAt(b, values)).toBeCloseTo(valueAt(a, values), 6);
    }
    expect(b.find(0.95, 0.5, 0.5)).toBe(false);
  });
});

describe('finding cells', () => {
  const blocks: [string, Mesh][] = [
    ['tetrahedra', tetraBlock(6)],
    ['hexahedra', hexBlockBetween(7)],
    ['mixed cells', mixedBlock(6)],
  ];

  it.each(blocks)('finds every place of a block of %s and none outside', (_, mesh) => {
    const finder = finderOn(mesh);
    const values = fieldOf(mesh, (x, y, z) => x + 2 * y + 3 * z);
    const random = seeded(11);
    for (let trial = 0; trial < 2000; trial++) {
      const [x, y, z] = [0, 0, 0].map(() => 2.4 * random() - 1.2);
      const inside = Math.max(Math.abs(x), Math.abs(y), Math.abs(z)) < 1;
      expect(finder.find(x, y, z), `${x} ${y} ${z}`).toBe(inside);
      if (inside) expect(valueAt(finder, values)).toBeCloseTo(x + 2 * y + 3 * z, 4);
    }
  });

  it('keeps the cell it was in when a place is outside, and goes on from it', () => {
    const finder = finderOn(blocks[0][1]);
    expect(finder.find(0.99, 0, 0)).toBe(true);
    const { cell } = finder;
    expect(finder.find(1.5, 0, 0)).toBe(false);
    expect(finder.cell).toBe(cell);
    expect(finder.find(0.98, 0, 0)).toBe(true);
  });

  it('tells what runs between the nodes, on walls without those inside', () => {
    const mesh = hexBlockBetween(4);
    const finder = finderOn(mesh);
    // Two components at each node, the second known on the outside alone.
    const values = Float32Array.from({ length: (2 * mesh.points.length) / 3 }, (_, i) => {
      const [x, y, z] = mesh.points.subarray(3 * Math.floor(i / 2), 3 * Math.floor(i / 2) + 3);
      const outside = Math.max(Math.abs(x), Math.abs(y), Math.abs(z)) > 0.999;
      return i % 2 === 0 ? x + 2 * y : outside ? 5 + z : Number.NaN;
    });
    expect(finder.find(1, 0.3, -0.2)).toBe(true);
    expect(finder.between(values, 2, 0)).toBeCloseTo(1.6, 5);
    expect(finder.between(values, 2, 1)).toBeCloseTo(4.8, 5);
    expect(finder.find(0.9, 0.3, -0.2)).toBe(true);
    expect(finder.between(values, 2, 1)).toBeNaN();
  });

  it('passes over cells that do not count', () => {
    const mesh = hexBlockBetween(4);
    const finder = new CellFinder(
      mesh,
      buildBlocks(mesh),
      (cell) => mesh.points[3 * mesh.connectivity[8 * cell]] < 0,
    );
    expect(finder.find(-0.5, 0.1, 0.1)).toBe(true);
    expect(finder.find(0.5, 0.1, 0.1)).toBe(false);
  });

  it('finds the foot of a place beside a curved surface', () => {
    const sheet = quadSheet(40, 40, [0, Math.PI], [0, 1]);
    // A half cylinder of radius one.
    const points = Float32Array.from(sheet.points);
    for (let i = 0; i < points.length; i += 3) {
      const angle = sheet.points[i];
      points.set([Math.cos(angle), sheet.points[i + 1], Math.sin(angle)], i);
    }
    const finder = finderOn({ ...sheet, points });
    const place = new Float64Array(3);
    for (const angle of [0.3, 1.2, 2.5]) {
      expect(finder.find(1.004 * Math.cos(angle), 0.37, 1.004 * Math.sin(angle))).toBe(true);
      finder.placeInto(place);
      expect(Math.hypot(place[0], place[2])).toBeCloseTo(1, 2);
      expect(place[1]).toBeCloseTo(0.37, 5);
      const normal = new Float64Array(3);
      finder.normalInto(normal);
      const along = (normal[0] * Math.cos(angle) + normal[2] * Math.sin(angle)) / Math.hypot(...normal);
      expect(Math.abs(along)).toBeCloseTo(1, 2);
    }
  });
});
