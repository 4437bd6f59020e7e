import { eigs } from 'mathjs';
import { describe, expect, it } from 'vitest';
import { importSteps } from '../../tests/sample-run.ts';
import { hexBlock } from '../../tests/vtu-builder.ts';
import { writeVtu } from '../formats/vtk-xml/vtk-xml-write.ts';
import { randomNumbers } from '../model/random-numbers.ts';
import { principalValues } from './principal-values.ts';
import { computeQuantity, withOfferedQuantities } from './quantity-sources.ts';
import type { FieldOrigin } from './sources/quantity-source.ts';

/** A measure of one tensor of six components, xx yy zz xy yz xz, or nine. */
function measured(prefix: string, tensor: number[]): number {
  const inner: FieldOrigin = {
    source: 'stored',
    id: 's',
    location: 'point',
    components: tensor.length,
    axial: false,
    arrays: [],
    of: [],
  };
  const [value] = Array.from(
    computeQuantity(
      { ...inner, source: 'stress measure', id: prefix, components: 1, of: [inner], options: prefix },
      {
        mesh: hexBlock(1),
        origin: [0, 0, 0],
        part: '',
        arrays: [],
        of: [{ location: 'point', components: tensor.length, axial: false, data: Float64Array.from(tensor) }],
      } as never,
    ),
  );
  return value;
}

describe('measures of stress', () => {
  it.each([
    // Handbook cases: a pull along one axis; pure shear (von Mises is its root of three fold); the same from all sides.
    [
      'a pull',
      [100, 0, 0, 0, 0, 0],
      { mises: 100, tresca: 100, maxshear: 50, principal1: 100, hydrostatic: 100 / 3, triaxiality: 1 / 3 },
    ],
    [
      'a push',
      [0, -100, 0, 0, 0, 0],
      { mises: 100, tresca: 100, principal1: 0, principal3: -100, triaxiality: -1 / 3 },
    ],
    [
      'shear',
      [0, 0, 0, 50, 0, 0],
      {
        mises: 50 * Math.sqrt(3),
        tresca: 100,
        maxshear: 50,
        principal1: 50,
        principal2: 0,
        principal3: -50,
        hydrostatic: 0,
      },
    ],
    [
      'a pull and shear',
      [80, 0, 0, 0, 0, 30],
      { mises: Math.sqrt(80 ** 2 + 3 * 30 ** 2), principal1: 90, principal3: -10, tresca: 100 },
    ],
    ['pressure', [-7, -7, -7, 0, 0, 0], { mises: 0, tresca: 0, principal2: -7, hydrostatic: -7 }],
  ] as [string, number[], Record<string, number>][])(
    'of %s are those of the handbooks',
    (_, tensor, expected) => {
      for (const [prefix, value] of Object.entries(expected))
        expect(measured(prefix, tensor), prefix).toBeCloseTo(value, 4);
    },
  );

  it('are the same of nine components, row by row', () => {
    const [xx, yy, zz, xy, yz, xz] = [3, -1, 4, 1.5, -0.9, 2.6];
    for (const prefix of ['mises', 'principal1', 'principal3'])
      expect(measured(prefix, [xx, xy, xz, xy, yy, yz, xz, yz, zz])).toBeCloseTo(
        measured(prefix, [xx, yy, zz, xy, yz, xz]),
        5,
      );
  });

  it('principal values are the eigenvalues of a general library', () => {
    const random = randomNumbers(17);
    for (let n = 0; n < 30; n++) {
      const [xx, yy, zz, xy, yz, xz] = Array.from({ length: 6 }, () => 200 * random() - 100);
      const { values } = eigs([
        [xx, xy, xz],
        [xy, yy, yz],
        [xz, yz, zz],
      ]);
      const expected = (values as number[]).toSorted((a, b) => b - a);
      const found = principalValues(xx, yy, zz, xy, yz, xz, new Float64Array(3));
      for (let k = 0; k < 3; k++) expect(found[k]).toBeCloseTo(expected[k], 6);
    }
  });

  it('are offered of stresses, in their unit, and of nothing else', async () => {
    const mesh = hexBlock(1);
    const field = (name: string, components: number, unit: string) => ({
      name,
      location: 'point' as const,
      components,
      unit,
      data: Float32Array.from({ length: 8 * components }, (_, i) => i),
    });
    const bytes = writeVtu(mesh, [field('stress', 6, 'MPa'), field('velocity', 3, 'm/s')], 0, {
      length: 'mm',
    });
    const { run } = await importSteps([{ time: 0, parts: { hook: bytes } }]);
    const made = withOfferedQuantities(run).fields.filter((f) => /mises|principal|triax/.test(f.key));
    expect(made.map(({ name, unit }) => [name, unit])).toEqual([
      ['von Mises of stress', 'MPa'],
      ['largest principal of stress', 'MPa'],
      ['middle principal of stress', 'MPa'],
      ['least principal of stress', 'MPa'],
      ['triaxiality of stress', null],
    ]);
  });
});
