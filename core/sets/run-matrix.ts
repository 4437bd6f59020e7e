import { compareValues } from './compare-values.ts';
import type { RunColumn, RunTable, RunValue } from './run-table.ts';

/** How the runs of a set are laid out: one parameter goes across, one down, and each of the others stands at one value. */
export interface MatrixWish {
  /** Keys of columns; null for none. */
  across: string | null;
  down: string | null;
  /** Of the others, what is shown, by their keys; of what is not said the first value. */
  at: Readonly<Record<string, RunValue>>;
}

/** Runs by their inputs. */
export interface RunMatrix {
  across: RunValue[];
  down: RunValue[];
  /** Of each place, down and across, the rows of the table that were made with just these inputs: one, mostly. */
  cells: number[][][];
  /** The other inputs, with their values and the one that is shown. */
  others: { key: string; values: RunValue[]; shown: RunValue }[];
}

/**
 * The runs of a table by two of its inputs.
 *
 * @param rows those that are shown, as indices into the table
 */
export function runMatrix(table: RunTable, rows: readonly number[], wish: MatrixWish): RunMatrix {
  const values = (key: string | null): RunValue[] => {
    const column = table.columns.find((c) => c.key === key);
    return column ? inOrder(new Set(rows.map((row) => column.values[row]))) : [null];
  };
  const across = values(wish.across);
  const down = values(wish.down);
  const others = table.columns
    .filter((c) => c.role === 'input' && c.key !== wish.across && c.key !== wish.down)
    .map(({ key }) => {
      const all = values(key);
      const wished = wish.at[key];
      return { key, values: all, shown: wished !== undefined && all.includes(wished) ? wished : all[0] };
    })
    // What differs in every run tells runs apart, and lays nothing out.
    .filter((o) => o.values.length > 1 && o.values.length < rows.length);
  const valuesOf = (key: string | null) => table.columns.find((c) => c.key === key)?.values;
  const shown = others.map((o) => ({ wanted: o.shown, values: valuesOf(o.key)! }));
  const [beside, below] = [valuesOf(wish.across), valuesOf(wish.down)];
  const [columnOf, rowOf] = [placesOf(across), placesOf(down)];
  const cells = down.map(() => across.map((): number[] => []));
  for (const row of rows)
    if (shown.every(({ wanted, values }) => values[row] === wanted))
      cells[rowOf.get(below?.[row] ?? null)!][columnOf.get(beside?.[row] ?? null)!].push(row);
  return { across, down, cells, others };
}

/**
 * The inputs that are not the same in all runs, those with the most values first; what differs in every run tells runs apart, and
 * comes last.
 */
export function varyingInputs(table: RunTable): { column: RunColumn; count: number; differs: boolean }[] {
  return table.columns
    .filter((c) => c.role === 'input')
    .map((column) => {
      const count = new Set(column.values).size;
      return { column, count, differs: count >= table.rows.length };
    })
    .filter(({ count }) => count > 1)
    .sort((a, b) => Number(a.differs) - Number(b.differs) || b.count - a.count);
}

/**
 * The inputs a set is best laid out by: the two with the most values that come back in other runs, the more of them across. One
 * that says no more than the first, value by value, is passed over: it would leave most places empty.
 */
export function likelyMatrix(table: RunTable): MatrixWish {
  const [across, ...others] = varyingInputs(table);
  const pairs = ({ column }: { column: RunColumn }): number =>
    new Set(column.values.map((value, row) => JSON.stringify([value, across.column.values[row]]))).size;
  const down = others.find((other) => pairs(other) > across.count) ?? others[0];
  return { across: across?.column.key ?? null, down: down?.column.key ?? null, at: {} };
}

const placesOf = (values: readonly RunValue[]) => new Map(values.map((value, i) => [value, i]));

const inOrder = (values: ReadonlySet<RunValue>): RunValue[] =>
  [...values].sort((a, b) => compareValues(a, b));
