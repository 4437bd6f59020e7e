import { describe, expect, it } from 'vitest';
import { hexBlockBetween, mixedBlock, quadSheet, seeded } from '../../tests/made-solids.ts';
import { asked, blocks, onCells, onPoints, piece, section } from '../../tests/measured-pieces.ts';
import { VERTEX } from '../model/cell-types.ts';
import type { MeshField } from '../model/field.ts';
import type { Mesh } from '../model/mesh.ts';
import { runChain } from '../ops/chain/chain.ts';
import type { Workpiece } from '../ops/chain/workpiece.ts';
import { count, sum } from './count.ts';
import { extreme } from './extreme.ts';
import { flowThrough } from './flow-through.ts';
import { average, integral } from './integral.ts';
import { measureById, measures } from './registry.ts';
import { size } from './size.ts';
import { valueAt } from './value-at.ts';

describe('sizes', () => {
  it.each(Object.entries(blocks))('of a cube of %s', (_, mesh) => {
    expect(asked(size, piece(mesh), { of: 'volume' }).value).toBeCloseTo(8, 5);
    // Of a body the area is that around it.
    expect(asked(size, piece(mesh), { of: 'area' }).value).toBeCloseTo(24, 4);
    expect(asked(size, section(piece(mesh), [1, 1, 0], 0), { of: 'area' }).value).toBeCloseTo(
      4 * Math.SQRT2,
      4,
    );
    expect(asked(size, [piece(mesh), piece(mesh)], { of: 'volume' }).value).toBeCloseTo(16, 5);
  });
  it('that something does not have are told, with those it has', () => {
    expect(asked(size, piece(hexBlockBetween(2)), { of: 'length' })).toEqual({
      lacking: 'length: they are bodies, which have a volume and an area',
    });
    const sheet = quadSheet(2, 2, [0, 1], [0, 1]);
    expect(asked(size, piece(sheet), { of: 'volume' }).lacking).toMatch(/surfaces, which have an area/);
    // Where nothing is left there is nothing of it.
    expect(asked(size, section(piece(hexBlockBetween(2)), [1, 0, 0], 5), { of: 'area' }).value).toBe(0);
  });
});

describe('integrals and averages', () => {
  it.each(Object.entries(blocks))('of a linear field are those of its closed form on %s', (_, mesh) => {
    const on = piece(mesh, { f: onPoints(mesh, (x, y, z) => 3 + x - 2 * y + 0.5 * z) });
    // By hand: odd parts vanish over a cube around the origin.
    expect(asked(integral, on).value).toBeCloseTo(24, 4);
    expect(asked(average, on).value).toBeCloseTo(3, 5);
    // On the side y = 0.5, whose middle is (0, 0.5, 0).
    expect(asked(average, section(on, [0, 1, 0], 0.5)).value).toBeCloseTo(2, 4);
  });
  it('take whole vectors, one component or the length', () => {
    const mesh = hexBlockBetween(2, 0, 1);
    const on = piece(mesh, { f: onPoints(mesh, () => [3, 4, 0]) });
    const whole = asked(integral, on, { component: 'magnitude', whole: true }).value;
    expect(whole.map((v: number) => Number(v.toFixed(5)))).toEqual([3, 4, 0]);
    expect(asked(integral, on, { component: 1 }).value).toBeCloseTo(4, 5);
    expect(asked(average, on, { component: 'magnitude' }).value).toBeCloseTo(5, 5);
  });
  it('of what stands on cells are sums by their sizes, as a plain loop has them', () => {
    const mesh = mixedBlock(3);
    const random = seeded(5);
    const values = Float32Array.from(mesh.types, () => random());
    const sizes = Array.from(mesh.types, (_, c) => {
      const one: Mesh = {
        ...mesh,
        types: mesh.types.slice(c, c + 1),
        offsets: Uint32Array.of(0, mesh.offsets[c + 1] - mesh.offsets[c]),
        connectivity: mesh.connectivity.slice(mesh.offsets[c], mesh.offsets[c + 1]),
      };
      return asked(size, piece(one), { of: 'volume' }).value as number;
    });
    const expected = sizes.reduce((total, v, c) => total + v * values[c], 0);
    expect(asked(integral, piece(mesh, { f: onCells(values) })).value).toBeCloseTo(expected, 6);
  });
  it('weigh parts by their sizes, and leave out and tell what has no value', () => {
    const [small, large] = [hexBlockBetween(1, 0, 1), hexBlockBetween(1, 0, 2)];
    const [cold, warm] = [
      piece(small, { f: onPoints(small, () => 20) }),
      piece(large, { f: onPoints(large, () => 80) }),
    ];
    expect(asked(average, [cold, warm]).value).toBeCloseTo((20 + 8 * 80) / 9, 4);
    const halves = hexBlockBetween(2, 0, 2);
    const holed = onCells(Array.from(halves.types, (_, c) => (c % 2 === 0 ? 7 : Number.NaN)));
    expect(asked(average, piece(halves, { f: holed }))).toEqual({
      value: expect.closeTo(7, 6),
      missing: expect.closeTo(0.5, 6),
    });
    const none = onCells(Array.from(halves.types, () => Number.NaN));
    expect(asked(average, piece(halves, { f: none }))).toEqual({ lacking: 'value anywhere' });
    expect(asked(average, section(piece(halves, { f: holed }), [1, 0, 0], 9)).lacking).toMatch(
      /nothing is left/,
    );
  });
  it('say what there is not', () => {
    const mesh = hexBlockBetween(1);
    expect(asked(integral, piece(mesh))).toEqual({ lacking: 'f' });
    const on = piece(mesh, { f: onPoints(mesh, () => 1) });
    expect(asked(average, on, { by: 'length' }).lacking).toBe('length to weigh by: they are bodies');
  });
});

describe('extremes', () => {
  const mesh = mixedBlock(4);
  const at = (origin: number[], scale = 1): Workpiece =>
    piece(mesh, { f: onPoints(mesh, (x, y, z) => scale * (x + 2 * y + 4 * z)) }, origin);
  it('are where they are, in the coordinates of the files', () => {
    expect(asked(extreme, at([100, 0, -10]), { which: 'maximum' })).toEqual({
      value: 7,
      place: [101, 1, -9],
    });
    expect(asked(extreme, at([0, 0, 0]), { which: 'minimum' })).toEqual({ value: -7, place: [-1, -1, -1] });
  });
  it('of several parts are those of all, whichever comes first', () => {
    for (const parts of [
      [at([0, 0, 0]), at([5, 0, 0], 2)],
      [at([5, 0, 0], 2), at([0, 0, 0])],
    ]) {
      expect(asked(extreme, parts, { which: 'maximum' })).toEqual({ value: 14, place: [6, 1, 1] });
      expect(asked(extreme, parts, { which: 'minimum' })).toEqual({ value: -14, place: [4, -1, -1] });
    }
  });
  it('of cells are in their middles, and leave out what has no value', () => {
    const cells = hexBlockBetween(2, 0, 2);
    const values = [1, Number.NaN, 9, 3, 2, 1, 1, 1];
    expect(asked(extreme, piece(cells, { f: onCells(values) }), { which: 'maximum' })).toEqual({
      value: 9,
      place: [0.5, 1.5, 0.5],
    });
    const none = piece(cells, { f: onCells(values.map(() => Number.NaN)) });
    expect(asked(extreme, none, { which: 'minimum' })).toEqual({ lacking: 'value anywhere' });
  });
});

describe('counts and sums', () => {
  it('of points are those of a plain loop', () => {
    const random = seeded(9);
    const n = 500;
    const grains: Mesh = {
      points: Float32Array.from({ length: 3 * n }, () => random()),
      types: new Uint8Array(n).fill(VERTEX),
      offsets: Uint32Array.from({ length: n + 1 }, (_, i) => i),
      connectivity: Uint32Array.from({ length: n }, (_, i) => i),
    };
    const masses = Float32Array.from({ length: n }, () => random());
    const on = piece(grains, { f: { ...onPoints(grains, () => 0), data: masses } });
    const total = masses.reduce((a, b) => a + b, 0);
    expect(asked(count, on).value).toBe(n);
    expect(asked(sum, on).value).toBeCloseTo(total, 4);
    // Each grain counts as one in an average.
    expect(asked(average, on).value).toBeCloseTo(total / n, 5);
    expect(asked(integral, on).lacking).toMatch(/Ask for the sum/);
  });
  it('count what is of the highest dimension, and points once', () => {
    const mesh = hexBlockBetween(2);
    expect(asked(count, piece(mesh)).value).toBe(8);
    expect(asked(count, piece(mesh), { of: 'points' }).value).toBe(27);
    expect(asked(sum, piece(mesh, { f: onPoints(mesh, () => 2) })).value).toBe(54);
    expect(asked(sum, piece(mesh, { f: onCells([1, 2, 3, 4, 5, 6, 7, Number.NaN]) })).value).toBe(28);
  });
});

describe('values at a place', () => {
  it.each(Object.entries(blocks))('run between the nodes of %s', (_, mesh) => {
    const on = piece(mesh, { f: onPoints(mesh, (x, y, z) => 1 + x - 2 * y + 3 * z) }, [10, 0, 0]);
    const place = [10.21, -0.37, 0.55];
    expect(asked(valueAt, on, { place })).toEqual({
      value: expect.closeTo(1 + 0.21 + 0.74 + 1.65, 4),
      place,
    });
  });
  it('of vectors are those of their parts, and of cells that of the cell', () => {
    const mesh = hexBlockBetween(2, 0, 2);
    const on = piece(mesh, { f: onPoints(mesh, (x) => [x, 1, 0]), g: onCells([0, 1, 2, 3, 4, 5, 6, 7]) });
    const place = [0.75, 0.5, 1.5];
    const whole = { component: 'magnitude', whole: true, place };
    expect(asked(valueAt, on, whole).value).toEqual([0.75, 1, 0]);
    expect(asked(valueAt, on, { ...whole, whole: false }).value).toBeCloseTo(1.25, 6);
    expect(asked(valueAt, on, { field: 'g', place }).value).toBe(4);
  });
  it('are those of the part that is there', () => {
    const mesh = hexBlockBetween(1, 0, 1);
    const part = (x: number, value: number) => piece(mesh, { f: onPoints(mesh, () => value) }, [x, 0, 0]);
    expect(asked(valueAt, [part(0, 20), part(5, 80)], { place: [5.5, 0.5, 0.5] }).value).toBe(80);
    expect(asked(valueAt, [part(0, 20), part(5, 80)], { place: [3, 0.5, 0.5] }).lacking).toMatch(
      /lies outside/,
    );
  });
});

describe('what flows through', () => {
  it.each(Object.entries(blocks))('all sides of a cube of %s is what arises in it', (_, mesh) => {
    // The divergence theorem: (x, 2 y, 3 z) arises six times in each of eight.
    const on = piece(mesh, { f: onPoints(mesh, (x, y, z) => [x, 2 * y, 3 * z]) });
    expect(asked(flowThrough, on, { component: 'magnitude' }).value).toBeCloseTo(48, 3);
  });
  it('a section counts along its normal, wherever it is cut', () => {
    const mesh = mixedBlock(5);
    const on = piece(mesh, { f: onPoints(mesh, (x, y) => [1 + y, 0.5, x]) });
    for (const [normal, offset, expected] of [
      // By hand: (1 + y) over a side of 4 is 4; (0.5) is 2; a slanted side through the middle has both, by its area.
      [[1, 0, 0], 0.3, 4],
      [[-1, 0, 0], 0.3, -4],
      [[0, 1, 0], -0.41, 2],
      [[1, 1, 0], 0, 4 + 2],
    ] as const)
      expect(
        asked(flowThrough, section(on, [...normal], offset), { component: 'magnitude', along: normal }).value,
        normal.join(),
      ).toBeCloseTo(expected, 3);
  });
  it('of what stands on cells is that of their cells, and needs faces', () => {
    const mesh = hexBlockBetween(2);
    const velocity: MeshField = {
      location: 'cell',
      components: 3,
      axial: false,
      data: Float32Array.from({ length: 24 }, (_, i) => [2, 0, 0][i % 3]),
    };
    const on = piece(mesh, { f: velocity });
    const cut = section(on, [1, 0, 0], 0.2);
    expect(asked(flowThrough, cut, { component: 'magnitude', along: [1, 0, 0] }).value).toBeCloseTo(8, 4);
    const lines = runChain(cut, [
      { op: 'section', options: { normal: [0, 1, 0], offset: 0.2, locked: false } },
    ]);
    expect(asked(flowThrough, lines as Workpiece, { component: 'magnitude' }).lacking).toMatch(
      /faces to go through/,
    );
  });
});

describe('the registry', () => {
  it('knows each measure by its own id', () => {
    expect(new Set(measures.map((m) => m.id)).size).toBe(measures.length);
    for (const measure of measures) expect(measureById(measure.id)).toBe(measure);
    expect(() => measureById('weight of thoughts')).toThrow('There is no measure');
  });
  it('has units that follow from those of the run', () => {
    const setting = {
      lengthUnit: 'm',
      quantities: [
        { field: 'f', component: 0, name: 'T', unit: '°C', components: 1, low: 0, high: 1, mean: 0 },
        {
          field: 'v',
          component: 'magnitude',
          name: 'velocity',
          unit: 'm/s',
          components: 3,
          low: 0,
          high: 1,
          mean: 0,
        },
      ] as never,
    };
    const f = { field: 'f', component: 0 as const, whole: false };
    expect(size.unit({ of: 'area' }, setting, { size: 1 })).toBe('m²');
    expect(integral.unit(f, setting, { size: 1, missing: 0, sums: [1], dimension: 3 })).toBe('°C·m³');
    expect(
      average.unit(average.schema.parse({ ...f, by: 'size' }), setting, { size: 1, missing: 0, sums: [1] }),
    ).toBe('°C');
    const flow = flowThrough.schema.parse({ field: 'v' });
    expect(flowThrough.unit(flow, setting, { through: 1 })).toBe('m³/s');
  });
});
