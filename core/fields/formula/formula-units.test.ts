import { all, create } from 'mathjs';
import { describe, expect, it } from 'vitest';
import { randomNumbers } from '../../model/random-numbers.ts';
import { parseFormula } from './parse-formula.ts';

/** The units library of mathjs, and its evaluation: both made by others. */
const math = create(all, {});

const units: Record<string, string | null> = {
  p: 'Pa',
  q: 'kPa',
  u: 'm/s',
  rho: 'kg/m³',
  T: 'K',
  warm: '°C',
  cool: '°C',
  angle: '°',
  L: 'mm',
  share: '',
  unknown: null,
};
const values: Record<string, number> = {
  p: 101325,
  q: 5,
  u: 3,
  rho: 1.2,
  T: 300,
  warm: 180,
  cool: 20,
  angle: 30,
  L: 40,
  share: 0.25,
  unknown: 7,
};
const kindOf = (name: string) => (name in units ? { components: 1, unit: units[name] } : null);
const unitOf = (text: string) => parseFormula(text).typed(kindOf).kind.unit;
const numberOf = (text: string) =>
  parseFormula(text).evaluate(
    1,
    (name) => values[name] ?? null,
    (name) => units[name],
  )[0];

const inMathjs = (unit: string): string =>
  unit.replaceAll('³', '^3').replaceAll('²', '^2').replaceAll('·', ' ');

describe('units of formulas', () => {
  it('say what a number with a unit counts as where the other unit is not known', () => {
    const unsure = (text: string) => parseFormula(text).typed(kindOf).unsure;
    expect(unsure('150 MPa / (unknown * 2)')).toBe(
      'the unit of unknown * 2 is not known, so 150 MPa counts as 150',
    );
    // It stays with all that is made of it.
    expect(unsure('3 * abs(sqrt(unknown + 2 kPa)) - share')).toMatch(/so 2 kPa counts as 2$/);
    for (const sure of ['unknown / 2', 'p + 2 kPa', 'unknown * p', 'q > 3', '2 kPa + 3 Pa'])
      expect(unsure(sure)).toBeUndefined();
  });
  it.each([
    'rho * u ^ 2',
    'p / rho',
    'p * L ^ 2',
    'sqrt(p / rho)',
    'u / L',
    'p / (rho * u ^ 2)',
    'u ^ 3 * rho',
  ])('%s has the unit, and the value in it, that a units library finds', (text) => {
    const unit = unitOf(text);
    expect(unit).not.toBeNull();
    const scope = Object.fromEntries(
      Object.entries(values).map(([name, v]) => [
        name,
        units[name] ? math.unit(v, inMathjs(units[name].replace('°C', 'degC').replace('°', 'deg'))) : v,
      ]),
    );
    const found = math.evaluate(text, scope) as { toNumber(unit: string): number } | number;
    const number = typeof found === 'number' ? found : found.toNumber(inMathjs(unit!));
    expect(numberOf(text) / number).toBeCloseTo(1, 5);
  });

  it.each([
    ['p + q', 106325, 'Pa'],
    ['q + p', 106.325, 'kPa'],
    ['p > 1 bar', 1, ''],
    ['p > 1.02 bar', 0, ''],
    ['T > 20 °C', 1, ''],
    ['T > 30 °C', 0, ''],
    ['warm - cool', 160, 'K'],
    ['warm - 20', 160, 'K'],
    ['sin(angle)', 0.5, ''],
    ['p / 1 bar', 1.01325, ''],
    ['u / (2 m/s)', 1.5, ''],
    ['rho * u ^ 2 / 2', 5.4, 'Pa'],
    ['exp(p / q) * 0 + 2', 2, ''],
    ['L * L * p', 162120000, 'mm²·Pa'],
    ['5 m/s', 5, 'm/s'],
    ['u + 500 mm/s', 3.5, 'm/s'],
    ['max(p, 2 bar)', 200000, 'Pa'],
    ['2 * 3', 6, ''],
    ['share + 1', 1.25, ''],
    ['unknown * p', 709275, null],
    ['unknown + p', 101332, null],
    ['p ^ 2', 101325 ** 2, 'Pa²'],
    ['if(T > 280 K, q, 1 bar)', 5, 'kPa'],
    ['abs(-2 mm)', 2, 'mm'],
  ])('%s is %d, with its unit', (text, value, unit) => {
    if (unit !== null) expect(unitOf(text)).toBe(unit);
    expect(numberOf(text)).toBeCloseTo(value, value > 1e6 ? -5 : 2);
  });

  it.each([
    ['p + T', /"p" is in Pa, "T" in K: they cannot be added/],
    ['p > T', /they cannot be compared/],
    ['share + p', /"share" is a pure number, "p" in Pa/],
    ['exp(p)', /divide it by something in Pa, as in exp\(p \/ 1 Pa\)/],
    ['sin(p)', /takes an angle, and "p" is in Pa/],
    ['p ^ share', /raised only to a number/],
    ['2 ^ p', /a power is a pure number/],
    ['if(p > 1 bar, p, T)', /cannot be chosen between/],
    ['vector(p, T, 1)', /cannot be parts of one vector/],
  ])('%s is refused: %s', (text, why) => expect(() => unitOf(text)).toThrow(why));

  it('values of random formulas are those that mathjs finds, and no more is lost than single precision', () => {
    const next = randomNumbers(20261128);
    const pick = <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)];
    const write = (depth: number): string => {
      if (depth === 0) return pick(['a', 'b', 'c', '2', '0.5', '3']);
      const [left, right] = [write(depth - 1), write(depth - 1)];
      return pick([
        `(${left} + ${right})`,
        `(${left} - ${right})`,
        `(${left} * ${right})`,
        `(${left}) / (2 + (${right}) ^ 2)`,
        `max(${left}, ${right})`,
        `sin(${left})`,
        `abs(${left})`,
        `(${left} > ${right} ? ${left} : ${right} * 2)`,
      ]);
    };
    const rows = 5000;
    const columns = Object.fromEntries(
      ['a', 'b', 'c'].map((name) => [name, Float64Array.from({ length: rows }, () => 4 * next() - 2)]),
    );
    for (let i = 0; i < 60; i++) {
      const text = write(4);
      const own = parseFormula(text).evaluate(rows, (name) => columns[name]);
      const theirs = math.compile(text);
      // Within a block, at its end, and in the next ones.
      for (const row of [0, 1, 2047, 2048, 4095, 4096, 4999]) {
        const scope = { a: columns.a[row], b: columns.b[row], c: columns.c[row] };
        const wanted = Number(theirs.evaluate(scope));
        expect(Math.abs(own[row] - wanted)).toBeLessThanOrEqual(1e-6 * Math.max(1, Math.abs(wanted)));
      }
    }
  });
});
