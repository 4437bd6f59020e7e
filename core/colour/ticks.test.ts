import { describe, expect, it } from 'vitest';
import { writtenNumber } from './number-style.ts';
import { labelsWithRoom, logTicks, numberTexts, symlogTicks, textsInStyle, tidyEnds } from './ticks.ts';

// Ticks worked out by hand.
describe('ticks along a logarithm', () => {
  it('are powers of ten where there are some', () => {
    expect(logTicks(1, 10000)).toEqual([1, 10, 100, 1000, 10000]);
    expect(logTicks(0.002, 30)).toEqual([0.01, 0.1, 1, 10]);
    expect(logTicks(1e-12, 1e12).length).toBeLessThanOrEqual(9);
  });
  it('are 1, 2 and 5 of them where there are few, and round numbers within one', () => {
    expect(logTicks(1, 30)).toEqual([1, 2, 5, 10, 20]);
    expect(logTicks(20, 60)).toEqual([20, 30, 40, 50, 60]);
  });
  it('through zero stand to both sides of it', () => {
    expect(symlogTicks(-1000, 1000, 1, 4)).toEqual([-1000, -100, -10, -1, 0, 1, 10, 100, 1000]);
    expect(symlogTicks(0, 1000, 10, 4)).toEqual([0, 10, 100, 1000]);
  });
});

describe('round ends', () => {
  it('leave nothing out', () => {
    expect(tidyEnds(30.006, 182.57)).toEqual([20, 200]);
    expect(tidyEnds(0.141, 0.395)).toEqual([0.14, 0.4]);
    expect(tidyEnds(5, 5)).toEqual([5, 5]);
  });
});

describe('labels with room', () => {
  it('are every so many, the ends among them', () => {
    const places = Array.from({ length: 101 }, (_, i) => i * 3);
    const said = labelsWithRoom(places, Array(101).fill(20));
    const chosen = said.flatMap((s, i) => (s ? [i] : []));
    expect(chosen[0]).toBe(0);
    expect(chosen.at(-1)).toBe(100);
    const gaps = chosen.slice(1).map((v, i) => v - chosen[i]);
    expect(new Set(gaps).size).toBe(1);
  });
  it('never touch, however many there are', () => {
    for (let n = 1; n < 260; n++) {
      const places = Array.from({ length: n }, (_, i) => (i * 300) / Math.max(1, n - 1));
      const said = labelsWithRoom(places, Array(n).fill(16));
      const chosen = places.filter((_, i) => said[i]);
      for (let i = 1; i < chosen.length; i++) expect(chosen[i] - chosen[i - 1]).toBeGreaterThanOrEqual(16);
      expect(chosen.length).toBeGreaterThan(n === 1 ? 0 : 1);
    }
  });
});

describe('numbers in a style', () => {
  it('far apart have each the digits they need', () => {
    const texts = (numbers: number[]): string[] => textsInStyle(numbers, { kind: 'as needed' }).texts;
    expect(texts([0.01, 0.1, 1, 10, 100])).toEqual(['0.01', '0.1', '1', '10', '100']);
    expect(texts([1e-9, 1e-6, 1e-3, 1])).toEqual(['1·10⁻⁹', '1·10⁻⁶', '1·10⁻³', '1·10⁰']);
    expect(texts([-1000, -10, 0, 10, 1000])).toEqual(['−1000', '−10', '0', '10', '1000']);
    expect(numberTexts([0.01, 1, 100])).toEqual(['0.01', '1', '100']);
    expect(numberTexts([3.35e-7, 1, 4e4])).toEqual(['3.35·10⁻⁷', '1.00·10⁰', '4.00·10⁴']);
    // An even row has as many decimals in each.
    expect(texts([0, 0.25, 0.5, 0.75, 1])).toEqual(['0.00', '0.25', '0.50', '0.75', '1.00']);
  });
  it('have so many decimals, digits, or a power of ten', () => {
    expect(writtenNumber(4.27159, { kind: 'decimals', count: 2 })).toBe('4.27');
    expect(writtenNumber(-0.001, { kind: 'decimals', count: 1 })).toBe('0.0');
    expect(writtenNumber(12345, { kind: 'digits', count: 3 })).toBe('12300');
    expect(writtenNumber(0.012345, { kind: 'digits', count: 2 })).toBe('0.012');
    expect(writtenNumber(123456, { kind: 'powers', count: 3 })).toBe('1.23·10⁵');
    expect(writtenNumber(-0.00052, { kind: 'powers', count: 2 })).toBe('−5.2·10⁻⁴');
    expect(textsInStyle([1, 2], { kind: 'decimals', count: 1 })).toEqual({ texts: ['1.0', '2.0'], power: 0 });
  });
});
