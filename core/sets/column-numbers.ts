import type { RunColumn } from './run-table.ts';

/** What a run says as a number; NaN where it says none. */
export const numberIn = ({ values }: RunColumn, row: number): number => {
  const value = values[row];
  return typeof value === 'number' ? value : Number.NaN;
};

export const numbersIn = (column: RunColumn, rows: readonly number[]): number[] =>
  rows.map((row) => numberIn(column, row));

/** The lowest and the highest of some numbers, NaN left out; the wrong way round where there is none. */
export function endsOfNumbers(values: readonly number[]): [low: number, high: number] {
  const known = values.filter(Number.isFinite);
  return [
    known.reduce((a, b) => Math.min(a, b), Number.POSITIVE_INFINITY),
    known.reduce((a, b) => Math.max(a, b), Number.NEGATIVE_INFINITY),
  ];
}
