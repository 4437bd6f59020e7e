import { type RunTable, viewArray } from '#core/model/run.ts';
import { tellingColumn } from '#core/model/telling-column.ts';
import { loadFromServer } from '#engine/array-source.ts';

/** So many columns and rows are looked through for the one that is shown first. */
const MOST = { columns: 24, rows: 20_000 };

export async function columnOf(table: RunTable, i: number): Promise<ArrayLike<number>> {
  const { values } = table.columns[i];
  return viewArray(values.type, await loadFromServer('')(values));
}

/** Columns of a table that are drawn over its time or its rows. */
export const drawnColumns = (table: RunTable): number[] =>
  table.columns.flatMap((_, i) => (i === table.time ? [] : [i]));

/** The column a table is shown by at first; null where it has only its time. */
export async function firstColumn(table: RunTable): Promise<number | null> {
  const drawn = drawnColumns(table);
  if (drawn.length === 0) return null;
  if (drawn.length > MOST.columns || table.rows > MOST.rows) return drawn[0];
  return drawn[tellingColumn(await Promise.all(drawn.map((i) => columnOf(table, i))))];
}

/** With so few rows each is a thing of its own, and shown as a dot. */
export const isFewRows = (table: RunTable): boolean => table.rows <= 40;
