import { Bookmark } from 'lucide-react';
import { useState } from 'react';
import { likelyMatrix, type MatrixWish, runMatrix } from '#core/sets/run-matrix.ts';
import type { RunColumn, RunTable } from '#core/sets/run-table.ts';
import type { ListedRun } from '#web/server/run-sets.ts';
import { sayValue } from '../say-value.ts';
import { editSet, useRunSet } from '../set-store.ts';
import { RunPicture, sayLabels } from './RunPicture.tsx';
import type { SheetPictures } from './use-sheet-pictures.ts';

interface Props {
  table: RunTable;
  /** Indices of the rows that are shown. */
  rows: readonly number[];
  runs: ReadonlyMap<string, ListedRun>;
  aspect: number;
  sheet: SheetPictures;
}

/** What a set is laid out by: as it is chosen, and else as is likely. */
export function matrixWish(table: RunTable, { across, down, at }: MatrixWish): MatrixWish {
  const likely = likelyMatrix(table);
  return { across: across ?? likely.across, down: down ?? likely.down, at };
}

/** Runs by two of their inputs, one across and one down; each of the others stands at one value. */
export function MatrixView({ table, rows, runs, aspect, sheet }: Props) {
  const { matrix, marked, sheet: settings } = useRunSet();
  /** What is pointed at is shown large on the other side. */
  const [large, setLarge] = useState<{ row: number; onLeft: boolean } | null>(null);
  const wish = matrixWish(table, matrix);
  const laid = runMatrix(table, rows, wish);
  const columnOf = (key: string | null) => table.columns.find((c) => c.key === key) ?? null;
  const [across, down] = [columnOf(wish.across), columnOf(wish.down)];
  const inputs = table.columns.filter((c) => c.role === 'input');
  const change = (to: Partial<MatrixWish>): void => editSet({ type: 'set.matrix', change: to });
  if (inputs.length === 0)
    return (
      <p className="p-6 text-soft">
        No column is an input: the head of a column makes it one, or the names of the runs say more.
      </p>
    );
  return (
    <section aria-label="Matrix" className="relative flex min-h-0 flex-1 flex-col">
      <div className="flex flex-wrap items-center gap-x-5 gap-y-1 px-4 pt-3">
        <AxisField
          label="Across"
          inputs={inputs}
          value={across}
          onChange={(key) => change({ across: key })}
        />
        <AxisField label="Down" inputs={inputs} value={down} onChange={(key) => change({ down: key })} />
        {laid.others.map(({ key, values, shown }) => (
          <label key={key} className="flex items-center gap-2">
            <span className="text-soft">{columnOf(key)!.name}</span>
            <input
              type="range"
              aria-label={columnOf(key)!.name}
              aria-valuetext={sayValue(shown)}
              min={0}
              max={values.length - 1}
              value={values.indexOf(shown)}
              onChange={(e) => change({ at: { ...matrix.at, [key]: values[Number(e.target.value)] } })}
            />
            <span className="w-14 tabular-nums">{sayValue(shown)}</span>
          </label>
        ))}
      </div>
      <div className="min-h-0 flex-1 overflow-auto p-4">
        <table className="border-separate border-spacing-2">
          <caption className="sr-only">Runs by their inputs</caption>
          <thead>
            <tr>
              <td className="text-right text-xs text-soft">{saidAxis(down)}</td>
              {laid.across.map((value) => (
                <th key={String(value)} scope="col" className="text-sm font-medium tabular-nums">
                  {across ? `${across.name} ${sayValue(value)}${across.unit ? ` ${across.unit}` : ''}` : ''}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {laid.down.map((value, i) => (
              <tr key={String(value)}>
                <th
                  scope="row"
                  className="pr-1 text-right text-sm font-medium whitespace-nowrap tabular-nums"
                >
                  {down ? sayValue(value) : ''}
                </th>
                {laid.cells[i].map((cell, j) => (
                  <td
                    key={String(laid.across[j])}
                    className="align-top"
                    style={{
                      width: `min(${settings.width}px, ${Math.max(120, 860 / laid.across.length)}px)`,
                    }}
                  >
                    {cell.length === 0 ? (
                      <span
                        className="flex min-w-28 items-center justify-center rounded-md border border-dashed border-rule text-xs text-soft"
                        style={{ aspectRatio: aspect }}
                      >
                        no run
                      </span>
                    ) : (
                      cell.map((row) => {
                        const { id, name } = table.rows[row];
                        return (
                          <a
                            key={id}
                            href={runs.get(id)?.scene ? `/scene/${runs.get(id)!.scene}` : `/run/${id}`}
                            aria-label={`Open ${name}`}
                            className="relative block min-w-28 overflow-hidden rounded-md border border-rule hover:border-soft"
                            onPointerEnter={() => setLarge({ row, onLeft: 2 * j >= laid.across.length })}
                            onPointerLeave={() => setLarge(null)}
                            onFocus={() => setLarge({ row, onLeft: 2 * j >= laid.across.length })}
                            onBlur={() => setLarge(null)}
                          >
                            <RunPicture id={id} name={name} aspect={aspect} sheet={sheet} />
                            {marked.includes(id) && (
                              <Bookmark
                                size={15}
                                className="absolute top-1 right-1 fill-accent text-accent"
                              />
                            )}
                          </a>
                        );
                      })
                    )}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {large !== null && (
        <figure
          className={`card pointer-events-none absolute bottom-4 w-[46%] max-w-[560px] overflow-hidden ${large.onLeft ? 'left-4' : 'right-4'}`}
        >
          <RunPicture id={table.rows[large.row].id} name="" aspect={aspect} sheet={sheet} />
          <figcaption className="px-3 py-1.5 text-sm">
            <span className="font-medium">{table.rows[large.row].name}</span>{' '}
            <span className="text-soft tabular-nums">{sayLabels(table, large.row, settings.labels)}</span>
          </figcaption>
        </figure>
      )}
    </section>
  );
}

const saidAxis = (column: RunColumn | null): string =>
  column ? `${column.name}${column.unit ? ` ${column.unit}` : ''}` : '';

interface AxisProps {
  label: string;
  inputs: readonly RunColumn[];
  value: RunColumn | null;
  onChange(key: string | null): void;
}

const AxisField = ({ label, inputs, value, onChange }: AxisProps) => (
  <label className="flex items-center gap-2">
    <span className="text-soft">{label}</span>
    <select
      className="field"
      value={value?.key ?? ''}
      onChange={(e) => onChange(e.target.value === '' ? null : e.target.value)}
    >
      {inputs.map(({ key, name }) => (
        <option key={key} value={key}>
          {name}
        </option>
      ))}
    </select>
  </label>
);
