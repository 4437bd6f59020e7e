import { sayNumber } from '../language/sentence.ts';
import type { Reading } from './reading.ts';

const DIGITS = 5;

const list = (values: readonly number[]): string => `(${values.map((v) => sayNumber(v, DIGITS)).join(', ')})`;

/** The number alone, with its unit. */
export function sayValueRead({ value, unit }: Pick<Reading, 'value' | 'unit'>): string {
  const said = typeof value === 'number' ? sayNumber(value, DIGITS) : list(value);
  return unit ? `${said} ${unit}` : said;
}

const KINDS = ['point', 'line', 'face', 'cell'] as const;

/** What it was measured on: `12 parts, 3,400 faces`. */
export function sayMeasuredOn({ on: { parts, dimension, cells } }: Pick<Reading, 'on'>): string {
  const what = parts.length === 1 ? parts[0] : `${parts.length} parts`;
  const kind = KINDS[dimension] ?? 'cell';
  return `${what}, ${cells.toLocaleString('en')} ${kind}${cells === 1 ? '' : 's'}`;
}

/** What else there is to say of an answer, one sentence each. */
export function sayBesideReading({ place, moment, note, missing, positive, unit }: Reading): string[] {
  const out: string[] = [];
  if (place) out.push(`At ${list(place)}.`);
  if (moment) out.push(`Moment ${list(moment)}${unit ? ` ${unit}·length` : ''}.`);
  if (positive) out.push(`Positive along ${sayDirection(positive)}, as the arrow on the stage shows.`);
  if (missing) out.push(`${sayNumber(100 * missing, 2)} % of it has no value and was left out.`);
  if (note) out.push(`Look again: ${note}.`);
  return out;
}

/** `+y`, or the numbers of a direction that is no axis. */
export function sayDirection(along: readonly number[]): string {
  const length = Math.hypot(...along) || 1;
  const axis = along.findIndex((v) => Math.abs(v) > 0.9999 * length);
  return axis < 0 ? list(along) : `${along[axis] < 0 ? '−' : '+'}${'xyz'[axis]}`;
}
