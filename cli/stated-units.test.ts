import { describe, expect, it } from 'vitest';
import { choicesOfUnits, readUnit } from './stated-units.ts';

const fields = [
  { key: 'point:T', name: 'T' },
  { key: 'point:p', name: 'p' },
  { key: 'cell:p', name: 'p' },
];
const chosen = (...texts: string[]) =>
  choicesOfUnits(
    texts.map((t) => readUnit(t)!),
    fields,
  );

describe('units of the command line', () => {
  it('are those of time, of length and of quantities, wherever these lie', () => {
    expect(chosen('time=s', 'length = mm', 'T=°C', 'p=kg/(m s^2)')).toEqual({
      timeUnit: 's',
      lengthUnit: 'mm',
      units: { 'point:T': '°C', 'point:p': 'kg/(m s^2)', 'cell:p': 'kg/(m s^2)' },
    });
    expect(chosen()).toEqual({});
  });

  it('are those of a quantity that is called time, where there is one', () => {
    const residence = [{ key: 'cell:time', name: 'time' }];
    expect(choicesOfUnits([{ of: 'time', unit: 'min' }], residence)).toEqual({
      units: { 'cell:time': 'min' },
    });
  });

  it.each(['', 's', '=s', 'time=', ' = ', `time=${'x'.repeat(41)}`])('are not read of “%s”', (text) => {
    expect(readUnit(text)).toBeNull();
  });

  it('of nothing are told with what there is', () => {
    expect(() => chosen('U=m/s')).toThrowError(
      expect.objectContaining({
        reason: 'the run has no quantity "U"',
        where: '--units',
        remedy: 'Give the unit of one of these: time, length, T, p.',
      }),
    );
  });
});
