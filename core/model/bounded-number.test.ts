import { expect, it } from 'vitest';
import { boundedNumber } from './bounded-number.ts';

it('numbers of a document say which bound they break: that of all numbers, or that of their thing', () => {
  const share = boundedNumber().min(0).max(10);
  const said = (value: unknown): string | undefined => share.safeParse(value).error?.issues[0].message;
  expect(said(3)).toBeUndefined();
  for (const value of [Number.NaN, Number.POSITIVE_INFINITY, 1e31, -1e31])
    expect(boundedNumber().safeParse(value).error?.issues[0].message, String(value)).toBe(
      'the number must be finite and within ±1e30',
    );
  expect(said(12)).toMatch(/10/);
  expect(said('12')).toBe('a number is expected here');
});
