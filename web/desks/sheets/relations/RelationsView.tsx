import { useMemo } from 'react';
import { correlationOf } from '#core/response/correlation.ts';
import { numbersIn } from '#core/sets/column-numbers.ts';
import type { RunColumn, RunTable } from '#core/sets/run-table.ts';
import { columnsInOrder } from '../columns-in-order.ts';
import { editSet, useRunSet } from '../set-store.ts';
import { ParallelAxes } from './ParallelAxes.tsx';
import { SmallScatter } from './SmallScatter.tsx';

interface Props {
  table: RunTable;
  /** Indices of the rows that are shown. */
  rows: readonly number[];
}

/** More columns than this are too small to be read beside each other. */
const MOST_COLUMNS = 8;

/** How all numbers of the runs go together: along parallel axes, and in pairs. */
export function RelationsView({ table, rows }: Props) {
  const { marked } = useRunSet();
  const numeric = useMemo(
    () => columnsInOrder(table).filter((c) => c.numeric && c.role !== 'label'),
    [table],
  );
  const columns = numeric.slice(0, MOST_COLUMNS);
  const isMarked = useMemo(() => {
    const ids = new Set(marked);
    return (row: number) => ids.has(table.rows[row].id);
  }, [marked, table]);
  /** Marks those runs, or takes their marks away where all of them have one. */
  const onBox = (some: readonly number[]): void => {
    if (some.length === 0) return;
    editSet({
      type: 'set.mark',
      runs: some.map((row) => table.rows[row].id),
      on: some.some((r) => !isMarked(r)),
    });
  };
  if (columns.length < 2)
    return (
      <p className="p-6 text-soft">At least two columns of numbers that are inputs or outputs are needed.</p>
    );
  return (
    <section aria-label="Relations" className="min-h-0 flex-1 overflow-auto p-4">
      <ParallelAxes columns={columns} rows={rows} isMarked={isMarked} onBox={onBox} />
      <p className="mt-1 mb-4 text-xs text-soft">
        Drag along an axis, or over points below: those runs are marked, everywhere in the set.
        {numeric.length > columns.length &&
          ` The first ${columns.length} of ${numeric.length} columns are shown.`}
      </p>
      <PairTable columns={columns} rows={rows} isMarked={isMarked} onBox={onBox} />
    </section>
  );
}

interface PairProps {
  columns: readonly RunColumn[];
  rows: readonly number[];
  isMarked(row: number): boolean;
  onBox(rows: readonly number[]): void;
}

/** Every two columns: as points below the diagonal, and above it how far they go together. */
function PairTable({ columns, rows, isMarked, onBox }: PairProps) {
  return (
    <table className="border-separate border-spacing-1 text-sm">
      <caption className="sr-only">Every two columns: their points, and how far they go together</caption>
      <tbody>
        {columns.map((down, i) => (
          <tr key={down.key}>
            <th scope="row" className="max-w-28 truncate pr-2 text-right font-medium" title={down.name}>
              {down.name}
            </th>
            {columns.map((across, j) => (
              <td key={across.key} className="p-0">
                {i === j ? (
                  <span className="flex h-[84px] w-[112px] items-center justify-center rounded bg-sunk px-1 text-center text-xs font-medium">
                    {across.name}
                  </span>
                ) : i > j ? (
                  <SmallScatter across={across} down={down} rows={rows} isMarked={isMarked} onBox={onBox} />
                ) : (
                  <Together a={across} b={down} rows={rows} />
                )}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}

/** How far two columns go together, as a number on a wash that is as strong. */
function Together({ a, b, rows }: { a: RunColumn; b: RunColumn; rows: readonly number[] }) {
  const { linear, ordered, runs } = useMemo(
    () => correlationOf(numbersIn(a, rows), numbersIn(b, rows)),
    [a, b, rows],
  );
  const said = (v: number | null): string => (v === null ? 'not told' : v.toFixed(2));
  const strength = Math.abs(linear ?? 0);
  return (
    <span
      className="flex h-[84px] w-[112px] flex-col items-center justify-center rounded tabular-nums"
      style={{
        backgroundColor: `color-mix(in srgb, ${(linear ?? 0) < 0 ? '#0072b2' : '#d55e00'} ${Math.round(45 * strength)}%, transparent)`,
      }}
      title={`${a.name} and ${b.name}: ${said(linear)} along a line (Pearson), ${said(ordered)} in their order (Spearman), of ${runs} runs`}
    >
      <span className="text-base font-medium">{said(linear)}</span>
      <span className="text-xs text-soft">in order {said(ordered)}</span>
    </span>
  );
}
