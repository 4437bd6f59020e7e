import { describe, expect, it } from 'vitest';
import { narrowNumberText, numberText, typedNumber, widthFor } from './number-text.ts';

describe('numbers in fields', () => {
  it('are whole: as many digits as count, and room for all of them', () => {
    expect(numberText(1_300_000)).toBe('1300000');
    expect(numberText(0.1 + 0.2)).toBe('0.3');
    expect(Number.parseFloat(widthFor('1300000'))).toBeGreaterThan(8);
  });
  it.each([
    [1_300_000, '1300000'],
    [130_000_000, '1.3e8'],
    [0.6123724356957945, '0.612372'],
    [-0.00012345678, '-1.23e-4'],
    [-123456.789, '-123457'],
    [0, '0'],
  ])('of %d fit a narrow field truthfully as %s', (value, text) => {
    expect(narrowNumberText(value)).toBe(text);
  });
  it('never lie by more than their last digit, and never leave their field', () => {
    for (let power = -30; power <= 30; power++)
      for (const lead of [1, -1.23456789, 9.99999, 5.5]) {
        const value = lead * 10 ** power;
        const text = narrowNumberText(value);
        expect(text.length).toBeLessThanOrEqual(8);
        expect(Math.abs(Number(text) / value - 1)).toBeLessThan(0.1);
      }
  });
  it('are read with a comma or a true minus, and nothing else is a number', () => {
    expect(typedNumber('−0,5')).toBe(-0.5);
    for (const text of ['', '  ', 'x', '1;2']) expect(typedNumber(text)).toBeNull();
  });
});
