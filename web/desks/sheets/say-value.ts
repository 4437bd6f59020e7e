import { sayNumber } from '#core/language/sentence.ts';
import type { RunValue } from '#core/sets/run-table.ts';

/** A value of a run in words; a dash where it says nothing. */
export const sayValue = (value: RunValue): string =>
  value === null ? '–' : typeof value === 'number' ? sayNumber(value) : value;
