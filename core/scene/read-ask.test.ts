import { beforeAll, describe, expect, it } from 'vitest';
import { importSteps, ovenRun } from '../../tests/sample-run.ts';
import { hexBlock } from '../../tests/vtu-builder.ts';
import { withOfferedQuantities } from '../fields/quantity-sources.ts';
import { writeVtu } from '../formats/vtk-xml/vtk-xml-write.ts';
import type { RunDescription } from '../model/run.ts';
import { type Ask, sayAsk } from './ask.ts';
import { defaultScene } from './default-scene.ts';
import type { Scene } from './document.ts';
import { readAsk } from './read-ask.ts';

let run: RunDescription;
let scene: Scene;
beforeAll(async () => {
  const mesh = hexBlock(2);
  const field = (name: string, components: number, unit: string) => ({
    name,
    location: 'point' as const,
    components,
    unit,
    data: Float32Array.from({ length: (mesh.points.length / 3) * components }, (_, i) => i % 7),
  });
  const fields = [
    field('T', 1, '°C'),
    field('velocity', 3, 'm/s'),
    field('E_re', 1, 'V/m'),
    field('E_im', 1, 'V/m'),
  ];
  const part = writeVtu(mesh, fields, 0, { length: 'm', time: 's' });
  ({ run } = await importSteps([{ time: 0, parts: { air: part, tins: part } }]));
  run = withOfferedQuantities(run);
  scene = {
    ...defaultScene(run),
    sets: [{ name: 'door', rule: { kind: 'parts', parts: ['tins'] } as never }],
  };
});

function read(text: string): Ask {
  const found = readAsk(text, scene, run);
  if ('at' in found) throw new Error(`${text}: at ${found.at}, ${found.expected.slice(0, 5).join()}`);
  return found;
}

describe('what is asked', () => {
  it.each([
    ['volume of everything', 'volume of everything'],
    ['area of the tins', 'area of tins'],
    ['integral of T over everything', 'integral of T over everything'],
    ['Average of T over air.', 'average of T over air'],
    ['mean of temperature over air', 'average of T over air'],
    ['95th percentile of T over air', 'percentile 95 of T over air'],
    ['the 2nd percentile of T over air', 'percentile 2 of T over air'],
    [
      'average of T over everything where T > 3',
      'average of T over what is kept of everything where “T > 3”',
    ],
    [
      'area average of T over section of everything at y = 0.12',
      'area average of T over section of everything at y = 0.12 m',
    ],
    ['area of isosurface of everything where T = 120', 'area of isosurface of everything where T = 120 °C'],
    ['highest of velocity over tins', 'maximum of velocity over tins'],
    ['minimum of speed over air', 'minimum of magnitude of velocity over air'],
    ['integral of magnitude of velocity over air', 'integral of magnitude of velocity over air'],
    ['integral of velocity over air', 'integral of velocity over air'],
    ['value of T at (0.03, 0.05, 0.031)', 'value of T at (0.03, 0.05, 0.031) m'],
    [
      'value of E at (0.03, 0.05, 0.031) at phase 45 degrees',
      'value of swinging E at (0.03, 0.05, 0.031) m at phase 45°',
    ],
    [
      'flow of velocity through section of everything at x = 0.3',
      'flow of velocity through section of everything at x = 0.3 m',
    ],
    ['number of tins where T > 3', 'count of what is kept of tins where “T > 3”'],
    ['count of points of air', 'count of points of air'],
    [
      'length of contour lines of T on everything at 120',
      'length of surface of everything, its contour lines of T at 120 °C',
    ],
    ['sum of T over part set door', 'sum of T over the set door'],
    ['force from T on air', 'force from T on air'],
    ['force from T on air about (0, 0, 0)', 'force from T on air about (0, 0, 0) m'],
    [
      'force from T and velocity on surface of tins along -y, on the fluid',
      'force from T and velocity on surface of tins along -y, on the fluid',
    ],
    ['median of T over air', 'median of T over air'],
  ])('is understood and said in full: "%s"', (text, said) => {
    const ask = read(text);
    expect(sayAsk(ask, scene, run)).toBe(said);
    const again = read(said);
    expect({ ...again, on: again.on.chain.map(({ op, options }) => [op, options]) }).toEqual({
      ...ask,
      on: ask.on.chain.map(({ op, options }) => [op, options]),
    });
  });

  it('of a body is all of it, of its surface only that', () => {
    expect(read('integral of T over air').on.chain).toEqual([]);
    expect(read('integral of T over surface of air').on.chain.map((s) => s.op)).toEqual(['surface']);
    expect(sayAsk(read('integral of T over surface of air'), scene, run)).toBe(
      'integral of T over surface of air',
    );
  });

  it('through a flat section counts along its normal', () => {
    const along = (text: string) => (read(text).options as { along: unknown }).along;
    expect(along('flow of velocity through section of everything at x = 0.3')).toEqual([1, 0, 0]);
    expect(along('flow of velocity through surface of air')).toBeNull();
  });

  it('is told where it is not understood, with what would be', () => {
    const wrong = (text: string) => {
      const found = readAsk(text, scene, run);
      return 'at' in found ? found : { at: -1, expected: [] };
    };
    expect(wrong('average of steam over everything')).toMatchObject({
      at: 11,
      expected: expect.arrayContaining(['T', 'velocity']),
    });
    expect(wrong('volume of kitchen')).toMatchObject({
      at: 10,
      expected: expect.arrayContaining(['air', 'tins']),
    });
    expect(wrong('flow of T through surface of air')).toMatchObject({
      at: 8,
      refused: { because: '"T" has no direction' },
    });
    expect(wrong('force from velocity on air')).toMatchObject({
      at: 11,
      refused: { because: '"velocity" has no single number' },
    });
    expect(wrong('percentile 120 of T over air')).toMatchObject({
      refused: { because: expect.stringMatching(/100/) },
    });
    expect(wrong('force from T on air about noon').at).toBeGreaterThan(16);
    expect(wrong('weight of everything').at).toBe(0);
    expect(wrong('value of T at (1, 2)').at).toBeGreaterThan(13);
  });

  it('of stresses by what the trade calls them', async () => {
    // Common practice, no source.
    const mesh = hexBlock(1);
    const stress = {
      name: 'stress',
      location: 'point' as const,
      components: 6,
      unit: 'MPa',
      data: new Float32Array(48),
    };
    const hook = writeVtu(mesh, [stress], 0, { length: 'mm' });
    const known = withOfferedQuantities((await importSteps([{ time: 0, parts: { hook } }])).run);
    const asked = (name: string) => {
      const found = readAsk(`maximum of ${name} over everything`, defaultScene(known), known);
      return 'at' in found ? found : sayAsk(found, defaultScene(known), known);
    };
    for (const [said, meant] of [
      ['maximum principal stress', 'largest principal of stress'],
      ['third principal stress', 'least principal of stress'],
      ['von Mises stress', 'von Mises of stress'],
      ['equivalent stress', 'von Mises of stress'],
    ])
      expect(asked(said)).toMatch(`maximum of ${meant} over `);
  });

  it('of a run with other names too', async () => {
    const oven = withOfferedQuantities(await ovenRun());
    const found = readAsk('average of temp over oven', defaultScene(oven), oven);
    expect('at' in found ? found : sayAsk(found, defaultScene(oven), oven)).toBe(
      'average of temperature over oven',
    );
  });
});
