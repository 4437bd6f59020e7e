import type { ColumnRole, RunColumn, RunTable } from '#core/sets/run-table.ts';

const order: readonly ColumnRole[] = ['label', 'input', 'output'];

/** What the runs are called, then what was chosen for them, then what came of it. */
export const columnsInOrder = (table: RunTable): RunColumn[] =>
  order.flatMap((role) => table.columns.filter((c) => c.role === role));

export const roleWords: Record<ColumnRole, { name: string; says: string }> = {
  input: { name: 'input', says: 'chosen for each run' },
  output: { name: 'output', says: 'came of the run' },
  label: { name: 'label', says: 'tells runs apart' },
};
