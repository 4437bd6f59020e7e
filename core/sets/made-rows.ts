import { type BatchEntry, countOfBatch } from '../batch/batch-log.ts';
import { csvTable } from '../model/csv-text.ts';
import { nameWithUnit } from '../model/quantity.ts';
import type { RunTable } from './run-table.ts';

/** The table of the runs that files were made of, beside those files. */
export const RUNS_TABLE = 'runs.csv';

/**
 * A row for each run, as comma-separated values: what is known of it, how many of its files were made, and what did not match or go
 * well.
 *
 * @param entries of the files that were asked for, by the names of their runs
 */
export function madeRows({ rows, columns }: RunTable, entries: readonly BatchEntry[]): string {
  return csvTable(
    ['run', ...columns.map(nameWithUnit), 'files', 'failed', 'what did not match'],
    rows.map(({ name }, row) => {
      const own = entries.filter((e) => e.run === name);
      const { made, current, failed } = countOfBatch(own);
      const told = own.flatMap((e) => [...e.notes, ...(e.problem ? [e.problem.reason] : [])]);
      const values = columns.map(({ values }) => values[row] ?? '');
      return [name, ...values, made + current, failed, [...new Set(told)].join('; ')];
    }),
  );
}
