import { format, formatSpecifier } from 'd3-format';
import { sayNumber } from './sentence.ts';

/** Ways to write a number that mean something for one: `e`, `f`, `g`, `r`, `d`, `%`, `s`, `p`, or none. */
const KINDS = 'efgrd%sp';

/** Whether a text is a format specification for numbers: `.2f`, `+.3e`, `,d`; those of Python, by d3-format. */
export function isNumberFormat(spec: string): boolean {
  try {
    const { type } = formatSpecifier(spec);
    return type === '' || KINDS.includes(type);
  } catch {
    return false;
  }
}

/**
 * A number as a specification says, as sentences say it without one. Powers of ten are written as such: `1.20 × 10⁵`.
 *
 * @param spec one for which `isNumberFormat` holds
 */
export function formattedNumber(value: number, spec: string | null): string {
  if (spec === null || spec === '') return sayNumber(value);
  const said = format(spec)(value);
  return said.replace(/e([+−-]?)(\d+)/, (_, sign: string, power: string) => {
    const raised = [...power].map((c) => '⁰¹²³⁴⁵⁶⁷⁸⁹'[Number(c)]).join('');
    return ` × 10${sign === '' || sign === '+' ? '' : '⁻'}${raised}`;
  });
}
