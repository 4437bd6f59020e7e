import { describe, expect, it } from 'vitest';
import { dueStep, stepRange } from './play-clock.ts';
import { sayTime } from './time-text.ts';

const decimals = (decimals: number, unit: string | null = null) => ({
  style: 'decimals' as const,
  decimals,
  unit,
});
const clock = (decimals: number) => ({ style: 'clock' as const, decimals, unit: null });

describe('times', () => {
  it('are said with decimals and unit', () => {
    expect(sayTime(24, 's', decimals(1))).toBe('t = 24.0 s');
    expect(sayTime(0.0125, null, decimals(3))).toBe('t = 0.013');
    expect(sayTime(90, 's', decimals(2, 'min'))).toBe('t = 1.50 min');
    expect(sayTime(0.002, 's', decimals(0, 'ms'))).toBe('t = 2 ms');
  });
  it('in a unit that is not known are not converted', () =>
    expect(sayTime(90, 'turns', decimals(0, 'min'))).toBe('t = 90 turns'));
  it('as a clock never show sixty seconds', () => {
    expect(sayTime(119.6, 's', clock(0))).toBe('2:00 min');
    expect(sayTime(65.25, 's', clock(2))).toBe('1:05.25 min');
    expect(sayTime(2, 'min', clock(0))).toBe('2:00 min');
  });
});

describe('playing', () => {
  it('skips the steps it is late for, and goes round', () => {
    expect(dueStep(0.05, 3, 10, 60)).toBe(3);
    expect(dueStep(1.25, 3, 10, 60)).toBe(15);
    expect(dueStep(6, 3, 10, 60)).toBe(3);
    expect(dueStep(9, 0, 10, 1)).toBe(0);
  });
  it('takes every n-th step of a range', () => {
    expect(stepRange(2, 9, 3)).toEqual([2, 5, 8]);
    expect(stepRange(5, 4, 1)).toEqual([]);
    expect(stepRange(0, 2, 0)).toEqual([0, 1, 2]);
  });
});
