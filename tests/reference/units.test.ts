import { describe, expect, it } from 'vitest';
import { convertUnit, isUnit, unitsToShow } from '#core/model/units.ts';

// BIPM, SI Brochure, 9th edition; inch, foot and pound: international yard and pound agreement of 1959; standard
// atmosphere 101,325 Pa; standard gravity 9.80665 m/s². From memory.
describe('numbers in another unit', () => {
  it.each([
    [20, '°C', 293.15, 'K'],
    [100, '°C', 212, '°F'],
    [293.15, 'K', 20, 'degC'],
    [1, 'bar', 100, 'kPa'],
    [1, 'atm', 101325, 'Pa'],
    [1, 'psi', (0.45359237 * 9.80665) / 0.0254 ** 2, 'Pa'],
    [40, 'cm', 0.4, 'm'],
    [12, 'in', 1, 'ft'],
    [1, 'N/mm²', 1, 'MPa'],
    [3000, 'rpm', 100 * Math.PI, 'rad/s'],
    [180, '°', Math.PI, 'rad'],
    [90, 'km/h', 25, 'm/s'],
    [1, 'kWh', 3.6, 'MJ'],
    [1, 'g/cm³', 1000, 'kg/m³'],
    [60, 'l/min', 1e-3, 'm³/s'],
    [2, 'Pa·s', 2000, 'mPa s'],
    [1, 'W/cm²', 10, 'kW/m²'],
    [1, 'kg/(m s^2)', 1, 'Pa'],
  ])('%d %s are %d %s', (value, from, expected, to) => {
    expect(convertUnit(value, from, to)! / expected).toBeCloseTo(1, 9);
  });
  it('are refused where the two do not measure the same', () => {
    for (const [from, to] of [
      ['m', 's'],
      ['K', 'Pa'],
      ['furlongs', 'm'],
      ['constructor', 'm'],
    ])
      expect(convertUnit(1, from, to)).toBeNull();
    expect(isUnit('constructor')).toBe(false);
  });
  it('are offered each unit once, the stored one first', () => {
    expect(unitsToShow('K')).toEqual(['K', '°C', '°F']);
    expect(unitsToShow('kg/(m s^2)').slice(0, 3)).toEqual(['kg/(m s^2)', 'Pa', 'hPa']);
    expect(unitsToShow('loaves')).toEqual(['loaves']);
  });
});
