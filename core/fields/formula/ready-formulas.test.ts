import { describe, expect, it } from 'vitest';
import type { RunDescription, RunField } from '../../model/run.ts';
import { type Column, parseFormula } from './parse-formula.ts';
import { readyFormulas } from './ready-formulas.ts';

const field = (name: string, role: RunField['role'], components: number, unit: string | null) =>
  ({ key: `point:${name}`, name, role, components, unit, pair: null }) as RunField;

const runWith = (fields: RunField[]): RunDescription =>
  ({
    fields,
    steps: [0, 1].map((index) => ({ index, time: index, kind: 'time', number: index + 1 })),
  }) as unknown as RunDescription;

const air = runWith([
  field('velocity', 'velocity', 3, 'm/s'),
  field('T', 'temperature', 1, 'K'),
  field('p', 'pressure', 1, 'Pa'),
]);
const formulaOf = (name: string, run = air) => readyFormulas(run).find((r) => r.name === name)!.formula;

/** The value of a ready formula at one place. */
function value(formula: string, columns: Record<string, Column>, units: Record<string, string>) {
  const parsed = parseFormula(formula);
  return parsed.evaluate(
    1,
    (name) => columns[name] ?? null,
    (name) => units[name] ?? null,
  );
}

const units = { velocity: 'm/s', T: 'K', p: 'Pa' };

/**
 * Isentropic flow of air, ratio of specific heats 1.4: NACA Report 1135 (1953), table I and II: p/p0 and T/T0 at some Mach
 * numbers; from memory.
 */
const table = [
  { mach: 0.5, p: 0.843, t: 0.9524 },
  { mach: 1, p: 0.5283, t: 0.8333 },
  { mach: 2, p: 0.1278, t: 0.5556 },
  { mach: 3, p: 0.02722, t: 0.3571 },
];

describe('ready formulas', () => {
  it.each(table)('of gases give the tables of NACA 1135 at Mach $mach', ({ mach, p, t }) => {
    const temperature = 300;
    const speed = mach * Math.sqrt(1.4 * 287 * temperature);
    const columns = {
      velocity: { data: [0, 0.6 * speed, 0.8 * speed], components: 3 },
      T: [temperature],
      p: [1e5],
    };
    expect(value(formulaOf('Mach number'), columns, units)[0]).toBeCloseTo(mach, 5);
    expect(1e5 / value(formulaOf('total pressure of a gas'), columns, units)[0]).toBeCloseTo(p, 3);
    // The heat capacity is rounded: 1005 in place of 1004.5.
    expect(temperature / value(formulaOf('total temperature'), columns, units)[0]).toBeCloseTo(t, 3);
  });

  it('count temperatures from absolute zero, whatever their unit', () => {
    const columns = { velocity: { data: [347.19, 0, 0], components: 3 }, T: [26.85] };
    const mach = value(formulaOf('Mach number'), columns, { ...units, T: '°C' })[0];
    expect(mach).toBeCloseTo(1, 3);
  });

  it('have the unit that is theirs', () => {
    const kinds: Record<string, { components: number; unit: string }> = {
      velocity: { components: 3, unit: 'm/s' },
      T: { components: 1, unit: '°C' },
      p: { components: 1, unit: 'Pa' },
    };
    const unitOf = (name: string) => parseFormula(formulaOf(name)).typed((n) => kinds[n] ?? null).kind.unit;
    expect(unitOf('dynamic pressure')).toBe('Pa');
    expect(unitOf('Mach number')).toBe('');
    expect(unitOf('total pressure')).toBe('Pa');
    expect(unitOf('total pressure of a gas')).toBe('Pa');
    expect(unitOf('total temperature')).toBe('K');
    expect(unitOf('pressure coefficient')).toBe('');
  });

  it('of stresses about an axis give those of a thick cylinder (Lamé 1852; from memory)', () => {
    const solid = runWith([field('S', 'stress', 6, 'MPa')]);
    // Inside radius 1, outside 2, pressed from inside with 30: radial a - b / r², hoop a + b / r².
    const [a, b] = [30 / 3, (30 * 4) / 3];
    for (const angle of [0, 0.4, 1.9, 4]) {
      const r = 1.3;
      const [c, s] = [Math.cos(angle), Math.sin(angle)];
      const [radial, hoop] = [a - b / r ** 2, a + b / r ** 2];
      const tensor = [
        radial * c * c + hoop * s * s,
        radial * s * s + hoop * c * c,
        0,
        (radial - hoop) * s * c,
        0,
        0,
      ];
      const columns = { S: { data: tensor, components: 6 }, x: [r * c], y: [r * s] };
      const lengths = { x: 'm', y: 'm', S: 'MPa' };
      expect(value(formulaOf('radial stress about z', solid), columns, lengths)[0]).toBeCloseTo(radial, 4);
      expect(value(formulaOf('hoop stress about z', solid), columns, lengths)[0]).toBeCloseTo(hoop, 4);
    }
  });

  it('tell how safe a place is up to a bound, so that what is hardly stressed does not drown the rest', () => {
    const safety = formulaOf('factor of safety', runWith([field('S', 'stress', 6, 'MPa')]));
    const mises = (value: number) => (name: string) => (name === 'mises(S)' ? [value] : null);
    const safe = (value: number) => parseFormula(safety).evaluate(1, mises(value), () => 'Pa')[0];
    expect([100e6, 250e6, 500e6, 1, 0].map(safe)).toEqual([2.5, 1, 0.5, 15, 15]);
  });

  it('are offered only where the run has what they are made from', () => {
    expect(readyFormulas(runWith([])).map((r) => r.name)).toEqual([]);
    expect(readyFormulas(runWith([field('T', 'temperature', 1, 'K')])).map((r) => r.name)).toEqual([
      'heat flux',
      'heat flux through walls',
      'time of arrival',
      'change since the first step',
      'change since the step before',
    ]);
  });
});
