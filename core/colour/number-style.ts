import { format } from 'd3-format';
import { wholeNumber } from '../model/bounded-number.ts';
import { z } from '../model/schema.ts';

/**
 * How the numbers of a scale are written: with as many digits as tell them apart, so many decimals, so many significant
 * digits, or as powers of ten with so many significant digits.
 */
export type NumberStyle = { kind: 'as needed' } | { kind: 'decimals' | 'digits' | 'powers'; count: number };

export const PLAIN_NUMBERS: NumberStyle = { kind: 'as needed' };

export const numberStyleSchema: z.ZodType<NumberStyle> = z.union([
  z.object({ kind: z.literal('as needed') }),
  z.object({ kind: z.enum(['decimals', 'digits', 'powers']), count: wholeNumber().min(0).max(12) }),
]);

const RAISED = '⁰¹²³⁴⁵⁶⁷⁸⁹';

/** A power of ten as it stands above the line. */
export const raised = (power: number): string =>
  [...String(power)].map((c) => (c === '-' ? '⁻' : RAISED[Number(c)])).join('');

/** A number in a style that does not depend on others beside it. */
export function writtenNumber(value: number, style: Exclude<NumberStyle, { kind: 'as needed' }>): string {
  const { kind, count } = style;
  // A zero has no sign.
  const v = value === 0 ? 0 : value;
  if (kind === 'decimals') {
    const said = format(`.${count}f`)(v);
    return Number(said.replace('−', '-')) === 0 ? format(`.${count}f`)(0) : said;
  }
  const digits = Math.max(1, count);
  if (kind === 'digits') return format(`.${digits}~r`)(Number(v.toPrecision(digits)));
  if (v === 0) return '0';
  const [mantissa, exponent] = v.toExponential(digits - 1).split('e');
  const said = format(`.${digits - 1}f`)(Number(mantissa));
  return `${said}·10${raised(Number(exponent))}`;
}
