import { sayNumber } from '#core/language/sentence.ts';
import type { RunColumn, RunValue } from '#core/sets/run-table.ts';

/** A value of a run in words; a dash where it says nothing. */
export const sayValue = (value: RunValue): string =>
  value === null ? '–' : typeof value === 'number' ? sayNumber(value) : value;

/** A value of a column with its unit. */
export const sayColumnValue = ({ unit, values }: Pick<RunColumn, 'unit' | 'values'>, row: number): string =>
  `${sayValue(values[row])}${unit && values[row] !== null ? ` ${unit}` : ''}`;
