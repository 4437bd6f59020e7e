import { compareValues } from './compare-values.ts';
import type { RunTable, RunValue } from './run-table.ts';

/** Which runs of a set stay: numbers within ends (null is none), or some texts. Runs that say nothing of it go. */
export type RowFilter = { key: string } & (
  | { kind: 'between'; low: number | null; high: number | null }
  | { kind: 'among'; texts: readonly string[] }
);

/** How the rows of a set are looked at. */
export interface RowsView {
  /** Sorted by a column, by its key; null keeps their order. */
  sort: { key: string; down: boolean } | null;
  filters: readonly RowFilter[];
  /** Runs that are hidden by hand, by their ids. */
  hidden: readonly string[];
  /** Put together by the values of a column, by its key. */
  group: string | null;
}

/** Rows that belong together. */
export interface RowGroup {
  /** What they have in common; null where nothing groups them, or they say nothing of it. */
  value: RunValue;
  /** Indices into the table. */
  rows: number[];
}

/** The rows of a table that are shown, in the order in which they stand. What a view says of columns that are gone is passed over. */
export function shownRows(table: RunTable, { sort, filters, hidden, group }: RowsView): RowGroup[] {
  const column = (key: string) => table.columns.find((c) => c.key === key);
  const away = new Set(hidden);
  let rows = table.rows.flatMap(({ id }, row) => (away.has(id) ? [] : [row]));
  for (const filter of filters) {
    const values = column(filter.key)?.values;
    if (values) rows = rows.filter((row) => passes(values[row], filter));
  }
  const sorted = sort && column(sort.key);
  if (sort && sorted) {
    const { values } = sorted;
    rows.sort((a, b) => compareValues(values[a], values[b], sort.down) || a - b);
  }
  const grouping = group === null ? undefined : column(group);
  if (!grouping) return [{ value: null, rows }];
  const groups = new Map<RunValue, number[]>();
  for (const row of rows) {
    const value = grouping.values[row];
    groups.set(value, [...(groups.get(value) ?? []), row]);
  }
  return [...groups]
    .map(([value, of]) => ({ value, rows: of }))
    .sort((a, b) => compareValues(a.value, b.value));
}

function passes(value: RunValue, filter: RowFilter): boolean {
  if (value === null) return false;
  if (filter.kind === 'among') return filter.texts.includes(String(value));
  const { low, high } = filter;
  return typeof value === 'number' && (low === null || value >= low) && (high === null || value <= high);
}
