import { describe, expect, it } from 'vitest';
import { bentCell } from '../../tests/bent-cell.ts';
import { hexBlockBetween, mixedBlock, seeded } from '../../tests/made-solids.ts';
import { asked, blocks, onCells, onPoints, piece, section } from '../../tests/measured-pieces.ts';
import { cubesOfEveryKind } from '../../tests/mesh-checks.ts';
import { VERTEX } from '../model/cell-types.ts';
import type { Mesh } from '../model/mesh.ts';
import { flowThrough } from './flow-through.ts';
import { average } from './integral.ts';
import { centreOfMass, inertia } from './mass.ts';

const rounded = (values: number[]): number[] => values.map((v) => Number(v.toFixed(5)) + 0);

describe('averages by weight', () => {
  it.each(Object.entries(blocks))('take the product of two straight values exactly on %s', (_, mesh) => {
    // By hand over the cube from -1 to 1: (1 + x / 2) times (3 + x) in the mean is 3 + 1/6.
    const on = piece(mesh, {
      f: onPoints(mesh, (x) => 3 + x),
      rho: onPoints(mesh, (x) => 1 + x / 2),
    });
    expect(asked(average, on, { weight: 'rho' }).value).toBeCloseTo(3 + 1 / 6, 5);
    expect(asked(average, on).value).toBeCloseTo(3, 5);
    // In the middle of its side y = 0.3 it is the same, by area.
    expect(asked(average, section(on, [0, 1, 0], 0.3), { weight: 'rho' }).value).toBeCloseTo(3 + 1 / 6, 4);
  });
  it('by what flows through a section are those of what is carried, whichever way the section looks', () => {
    const mesh = mixedBlock(4);
    const on = piece(mesh, {
      f: onPoints(mesh, (_, y) => 20 + 5 * y),
      v: onPoints(mesh, (_, y) => [1 + y, 0.3, 0]),
    });
    // By hand: the mean of (1 + y)(20 + 5 y) over y from -1 to 1 is 20 + 5/3; that of 1 + y is 1.
    for (const along of [
      [1, 0, 0],
      [-1, 0, 0],
    ]) {
      const options = { weight: 'v', weightComponent: 'magnitude', through: true, along };
      const cut = section(on, along, along[0] * 0.2);
      expect(asked(average, cut, options).value).toBeCloseTo(20 + 5 / 3, 3);
    }
    expect(asked(average, on, { weight: 'nothing' })).toEqual({ lacking: 'nothing' });
  });
  it('of a mass flow are exact where density and velocity both run straight', () => {
    const mesh = mixedBlock(4);
    const on = piece(mesh, {
      v: onPoints(mesh, (_, y) => [1 + y, 0, 0]),
      rho: onPoints(mesh, (_, y) => 2 + y),
    });
    const cut = section(on, [1, 0, 0], 0.1);
    // (1 + y)(2 + y) in the mean is 2 + 1/3, on an area of 4.
    const options = { field: 'v', component: 'magnitude', weight: 'rho', along: [1, 0, 0] };
    expect(asked(flowThrough, cut, options).value).toBeCloseTo(4 * (2 + 1 / 3), 3);
  });
});

describe('masses', () => {
  it.each(Object.entries(cubesOfEveryKind()))(
    'of a cube of %s have its middle and its inertia',
    (_, mesh) => {
      const low = Math.min(...mesh.points);
      const side = Math.max(...mesh.points) - low;
      const middle = low + side / 2;
      const on = piece(mesh, {}, [10, 0, 0]);
      expect(rounded(asked(centreOfMass, on).value)).toEqual(rounded([10 + middle, middle, middle]));
      // Of a cube about any axis through its middle (any handbook; from memory): mass times the squared side by six.
      const whole = side ** 3;
      expect(asked(inertia, on, { axis: [1, 2, -2] }).value).toBeCloseTo((whole * side ** 2) / 6, 5);
      // About another place by the rule of Huygens and Steiner.
      const far = asked(inertia, on, { about: [10 + middle, middle + 3, middle], axis: [0, 0, 1] }).value;
      expect(far).toBeCloseTo(whole * (side ** 2 / 6 + 9), 4);
    },
  );
  it('weigh by a density, and add up over parts', () => {
    const [a, b] = [hexBlockBetween(2, 0, 1), hexBlockBetween(2, 0, 1)];
    const parts = [
      piece(a, { rho: onCells(Array.from(a.types, () => 3)) }),
      piece(b, { rho: onCells(Array.from(b.types, () => 1)) }, [2, 0, 0]),
    ];
    expect(rounded(asked(centreOfMass, parts, { weight: 'rho' }).value)).toEqual([1, 0.5, 0.5]);
    const [ix, iy] = asked(inertia, parts, { weight: 'rho' }).value;
    expect(ix).toBeCloseTo(4 / 6, 5);
    // 3 at half a metre to the left and 1 at one and a half to the right.
    expect(iy).toBeCloseTo(4 / 6 + 3 * 0.25 + 2.25, 5);
  });
  it('of a section are its second moment of area: width times the cubed height by twelve', () => {
    const beam = piece(bentCell('hexahedron', ([x, y, z]) => [5 * x, 0.2 * y, 0.3 * z]));
    const cut = section(beam, [1, 0, 0], 2.5);
    expect(asked(inertia, cut, { axis: [0, 1, 0] }).value).toBeCloseTo((0.2 * 0.3 ** 3) / 12, 8);
    expect(rounded(asked(centreOfMass, cut).value)).toEqual([2.5, 0.1, 0.15]);
  });
  it('of lone points are those of the points', () => {
    const random = seeded(4);
    const n = 20;
    const mesh: Mesh = {
      points: Float32Array.from({ length: 3 * n }, () => random()),
      types: new Uint8Array(n).fill(VERTEX),
      offsets: Uint32Array.from({ length: n + 1 }, (_, i) => i),
      connectivity: Uint32Array.from({ length: n }, (_, i) => i),
    };
    const masses = Array.from({ length: n }, () => 1 + random());
    const on = piece(mesh, { m: { ...onCells(masses), location: 'point' } });
    const whole = masses.reduce((a, b) => a + b, 0);
    const wanted = [0, 1, 2].map(
      (k) => masses.reduce((sum, m, i) => sum + Math.fround(m) * mesh.points[3 * i + k], 0) / whole,
    );
    for (const [k, v] of asked(centreOfMass, on, { weight: 'm' }).value.entries())
      expect(v).toBeCloseTo(wanted[k], 6);
  });
  it('say what there is not', () => {
    const on = piece(hexBlockBetween(1));
    expect(asked(centreOfMass, on, { weight: 'rho' })).toEqual({ lacking: 'rho' });
    expect(asked(centreOfMass, section(on, [1, 0, 0], 7)).lacking).toMatch(/nothing is left/);
  });
});
