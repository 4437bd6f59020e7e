import { boundedNumber } from '../model/bounded-number.ts';
import { z } from '../model/schema.ts';

/**
 * How values are spaced along a scale: evenly, by their logarithm, or by a logarithm that runs through zero and is nearly
 * straight within ±`linear`.
 */
export type Spacing = { kind: 'linear' } | { kind: 'log' } | { kind: 'symlog'; linear: number };

export const spacingSchema: z.ZodType<Spacing> = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('linear') }),
  z.object({ kind: z.literal('log') }),
  z.object({ kind: z.literal('symlog'), linear: boundedNumber().positive() }),
]);

export const LINEAR: Spacing = { kind: 'linear' };

/**
 * A value as a length along the scale. Through zero: sign(v) ln(1 + |v|/linear), after Webber, "A bi-symmetric log
 * transformation for wide-range data", Measurement Science and Technology 24 (2013).
 *
 * @returns NaN where a value has no logarithm
 */
export function spaced(value: number, spacing: Spacing): number {
  if (spacing.kind === 'log') return value > 0 ? Math.log(value) : Number.NaN;
  if (spacing.kind === 'symlog') return Math.sign(value) * Math.log1p(Math.abs(value) / spacing.linear);
  return value;
}

/** The way back. */
export function unspaced(length: number, spacing: Spacing): number {
  if (spacing.kind === 'log') return Math.exp(length);
  if (spacing.kind === 'symlog') return Math.sign(length) * Math.expm1(Math.abs(length)) * spacing.linear;
  return length;
}
