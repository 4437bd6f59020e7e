import { describe, expect, it } from 'vitest';
import { formattedNumber, isNumberFormat } from './number-format.ts';

describe('a number as a format specification says', () => {
  // What Python 3 prints for format(value, spec), from memory; its minus is that of typography here.
  it.each([
    [3.2549, '.2f', '3.25'],
    [3.2549, '.0f', '3'],
    [2.5e-7, '.3f', '0.000'],
    [-0.5, '.1f', '−0.5'],
    [1234567.891, ',.2f', '1,234,567.89'],
    [42, '+d', '+42'],
    [42, '05d', '00042'],
    [0.1234, '.1%', '12.3%'],
    [123.456, '.4g', '123.5'],
    [0.000012345, '.3g', '0.0000123'],
    [7, '>5d', '    7'],
  ])('%f as %s', (value, spec, said) => {
    expect(formattedNumber(value, spec)).toBe(said);
  });

  it('has powers of ten above the line', () => {
    expect(formattedNumber(123456, '.2e')).toBe('1.23 × 10⁵');
    expect(formattedNumber(-0.00123, '.1e')).toBe('−1.2 × 10⁻³');
    expect(formattedNumber(0, '.1e')).toBe('0.0 × 10⁰');
    expect(formattedNumber(6.02214076e23, '.3e')).toBe('6.022 × 10²³');
  });

  it('is said as in sentences without one', () => {
    expect(formattedNumber(0.4, null)).toBe('0.4');
    expect(formattedNumber(1450, '')).toBe('1450');
  });

  it('knows what is no format for a number', () => {
    for (const spec of ['.2f', '.3e', '.4g', 'd', ',', '+.1f', '010.2f', '.2%', ''])
      expect(isNumberFormat(spec), spec).toBe(true);
    for (const spec of ['.2q', 'two', '.f2', 'c', 'x', '%H:%M'])
      expect(isNumberFormat(spec), spec).toBe(false);
  });
});
