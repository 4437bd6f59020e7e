import { describe, expect, it } from 'vitest';
import { hexBlockBetween, mixedBlock, quadSheet, tetraBlock } from '../../tests/made-solids.ts';
import { outerFaces } from '../fields/surfaces/outer-faces.ts';
import type { MeshField } from '../model/field.ts';
import type { Mesh } from '../model/mesh.ts';
import { runChain, sourceOf } from '../ops/chain/chain.ts';
import type { Workpiece } from '../ops/chain/workpiece.ts';
import { type ForceOptions, force } from './force.ts';
import { isLacking } from './measure.ts';

type Numbers = (x: number, y: number, z: number) => number[];

function field(mesh: Mesh, of: Numbers): MeshField {
  const each = Array.from({ length: mesh.points.length / 3 }, (_, i) =>
    of(mesh.points[3 * i], mesh.points[3 * i + 1], mesh.points[3 * i + 2]),
  );
  return {
    location: 'point',
    components: each[0].length,
    axial: false,
    data: Float32Array.from(each.flat()),
  };
}

const piece = (mesh: Mesh, p: Numbers, shear?: Numbers): Workpiece =>
  sourceOf(mesh, {
    origin: [0, 0, 0],
    part: 'door',
    fields: new Map([['p', field(mesh, p)], ...(shear ? [['tau', field(mesh, shear)] as const] : [])]),
  });

/** A body with a stress as xx yy zz xy yz xz. */
const stressed = (mesh: Mesh, of: Numbers, origin: [number, number, number] = [0, 0, 0]): Workpiece =>
  sourceOf(mesh, { origin, part: 'rack', fields: new Map([['s', field(mesh, of)]]) });

function pushed(on: Workpiece, more: Partial<ForceOptions> = {}) {
  const options = force.schema.parse({ field: 'p', ...more });
  const part = force.ofPart(on, options);
  if (isLacking(part)) throw new Error(part.lacking);
  const answer = force.answer(part, options);
  if (isLacking(answer)) throw new Error(answer.lacking);
  return answer;
}

function near(found: unknown, expected: number[], digits = 3): void {
  for (const [k, v] of expected.entries()) expect((found as number[])[k]).toBeCloseTo(v, digits);
}

describe('the force of a stress', () => {
  const of = 'stress' as const;

  it('on a whole body is the divergence of the stress in it: nothing where it rests in itself', () => {
    for (const mesh of [hexBlockBetween(3), mixedBlock(4)]) {
      near(
        pushed(
          stressed(mesh, () => [3, -1, 2, 0.5, 0.2, -4]),
          { of, field: 's' },
        ).value,
        [0, 0, 0],
      );
      // Gauss' theorem: d(sxx)/dx + d(sxy)/dy + d(sxz)/dz and so on, times eight.
      const uneven = stressed(mesh, (x, y, z) => [2 * x, 0, -z, 3 * y, y, x]);
      near(pushed(uneven, { of, field: 's' }).value, [8 * (2 + 3), 0, 8 * (1 + 1 - 1)], 2);
    }
  });

  it('in a cut through a cantilever is what it carries, with its moment', () => {
    // A strip of height 2 and width 2 that carries P at x = L, downwards (Timoshenko, Goodier: Theory of elasticity, art. 21; from
    // memory): sxx = -P (L - x) z / I, sxz = P (1 - z²) / (2 I), with I = 2 · 2³ / 12.
    const [load, length, second] = [6, 3, 4 / 3];
    const beam = stressed(hexBlockBetween(24), (x, _y, z) => [
      (load * (length - x) * z) / second,
      0,
      0,
      0,
      0,
      (-load * (1 - z * z)) / (2 * second),
    ]);
    for (const [x, way] of [
      [0.31, 1],
      [-0.5, -1],
    ]) {
      const normal = [way, 0, 0];
      const cut = runChain(beam, [{ op: 'section', options: { normal, offset: way * x, locked: false } }]);
      const about: [number, number, number] = [x, 0, 0];
      const found = pushed(cut as Workpiece, { of, field: 's', about, facing: normal as never });
      near(found.value, [0, 0, -load * way], 1);
      near(found.moment, [0, load * (length - x) * way, 0], 1);
    }
  });

  it('is made of nine components as of six', () => {
    const mesh = hexBlockBetween(2);
    const six = stressed(mesh, (x, y, z) => [x, 2 * y, 3 * z, y, z, x]);
    const nine = stressed(mesh, (x, y, z) => [x, y, x, y, 2 * y, z, x, z, 3 * z]);
    near(pushed(nine, { of, field: 's' }).value, pushed(six, { of, field: 's' }).value as number[], 6);
    expect(
      force.ofPart(
        stressed(mesh, () => [1]),
        force.schema.parse({ of, field: 's' }),
      ),
    ).toEqual({
      lacking: 'stress: s is no tensor',
    });
  });
});

describe('forces at points', () => {
  it('are added up once a point, with their moment', () => {
    // A lever of Archimedes: 3 at one metre to the left, 1 at three to the right, both downwards.
    const mesh = hexBlockBetween(1);
    const at = (i: number) => [...mesh.points.subarray(3 * i, 3 * i + 3)];
    const corner = [0, 1, 2, 3, 4, 5, 6, 7].find((i) => at(i)[0] > 0 && at(i)[1] < 0 && at(i)[2] < 0)!;
    const other = [0, 1, 2, 3, 4, 5, 6, 7].find((i) => at(i)[0] < 0 && at(i)[1] < 0 && at(i)[2] < 0)!;
    const data = new Float32Array(24);
    data[3 * corner + 2] = -1;
    data[3 * other + 2] = -3;
    const on = sourceOf(mesh, {
      origin: [0, 0, 0],
      part: 'rack',
      fields: new Map([['f', { location: 'point', components: 3, axial: false, data }]]),
    });
    const found = pushed(on, { of: 'nodal', field: 'f', about: [-0.5, -1, -1] });
    near(found.value, [0, 0, -4], 6);
    near(found.moment, [0, 0, 0], 6);
    // The same numbers as a force for each area of the faces are another thing: a third of a corner's faces each.
    near(pushed(on, { of: 'traction', field: 'f' }).value, [0, 0, -4 * 3], 4);
  });
});

describe('the force of a pressure', () => {
  it.each(Object.entries({ hexahedra: hexBlockBetween(3), tetrahedra: tetraBlock(3), mixed: mixedBlock(4) }))(
    'on what is around a fluid is its gradient times the volume, on %s',
    (_, mesh) => {
      // Gauss' theorem, known as the law of Archimedes: eight times the gradient.
      const on = piece(mesh, (x, _y, z) => [5 + 2 * x - 3 * z]);
      near(pushed(on).value, [16, 0, -24]);
      near(pushed(on, { on: 'fluid' }).value, [-16, 0, 24]);
    },
  );

  it('on a body by its skin is against its faces: it is lifted by what it displaces', () => {
    const skin = outerFaces(hexBlockBetween(4)).mesh;
    // Water that gets heavier downwards, 9810 N/m³ on eight cubic metres.
    near(pushed(piece(skin, (_x, _y, z) => [9810 * (5 - z)])).value, [0, 0, 9810 * 8], 0);
  });

  it('on a gate under water acts at two thirds of its depth', () => {
    // A handbook case: a gate 2 m wide and 2 m deep from the surface down: 39,240 N, 4/3 m below it.
    const sheet = quadSheet(1, 60, [0, 2], [0, 2]);
    const gate = { ...sheet, points: new Float32Array(sheet.points.length) };
    for (let i = 0; i < sheet.points.length; i += 3)
      gate.points.set([0, sheet.points[i], -sheet.points[i + 1]], i);
    const { value, moment } = pushed(
      piece(gate, (_x, _y, z) => [-9810 * z]),
      { about: [0, 1, 0] },
    );
    expect(Math.abs((value as number[])[0])).toBeCloseTo(39_240, 0);
    expect(Math.abs(moment![1]) / 39_240).toBeCloseTo(4 / 3, 3);
    expect(moment![2] / 39_240).toBeCloseTo(0, 6);
  });

  it('and its moment turn about the place that is asked for', () => {
    const on = piece(
      hexBlockBetween(4),
      () => [1],
      () => [0, 0, 0],
    );
    near(pushed(on, { about: [3, 2, 1] }).moment, [0, 0, 0]);
    // A gradient acts as if at the middle: from (0, 1, 0) the arm is (0, -1, 0), and the force 8 along z.
    const lifted = piece(mixedBlock(4), (_x, _y, z) => [z]);
    near(pushed(lifted, { about: [0, 1, 0] }).moment, [-8, 0, 0], 2);
  });

  it('with a shear has that along the faces', () => {
    const on = piece(
      hexBlockBetween(2),
      () => [7],
      () => [0.5, 0, 0],
    );
    // By hand: 24 square metres.
    near(pushed(on, { shear: 'tau' }).value, [12, 0, 0]);
  });

  it('along a direction is a number, and tells where the force really goes', () => {
    const on = piece(hexBlockBetween(2), (x, _y, z) => [0.1 * x - 3 * z]);
    const whole = [expect.closeTo(0.8, 4), expect.closeTo(0, 4), expect.closeTo(-24, 4)];
    expect(pushed(on, { along: [0, 0, 2] })).toEqual({ value: expect.closeTo(-24, 4), whole });
    const wrong = pushed(on, { along: [1, 0, 0] });
    const note = '100 % of this force is along −z';
    expect(wrong).toEqual({ value: expect.closeTo(0.8, 4), whole, note });
  });

  it('says what it lacks', () => {
    const mesh = hexBlockBetween(1);
    const on = piece(mesh, () => [1]);
    const lacking = (more: Partial<ForceOptions>) =>
      force.ofPart(on, force.schema.parse({ field: 'p', ...more })) as { lacking: string };
    expect(lacking({ field: 'gone' }).lacking).toBe('gone');
    expect(lacking({ shear: 'tau' }).lacking).toBe('tau');
    const vectors = piece(mesh, () => [1, 2, 3]);
    expect(
      (force.ofPart(vectors, force.schema.parse({ field: 'p' })) as { lacking: string }).lacking,
    ).toMatch(/no single number/);
  });
});
