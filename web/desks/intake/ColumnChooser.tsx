import type { TableReading } from '#core/model/table-reading.ts';
import type { Preview } from '#web/server/reading-jobs.ts';
import { meaningOf, meanings, startOf, withMeaning } from './column-meanings.ts';

interface Props {
  table: NonNullable<Preview['table']>;
  reading: TableReading;
  busy: boolean;
  onChange(reading: TableReading): void;
}

const kinds: [TableReading['as'], string][] = [
  ['history', 'a history: quantities over time'],
  ['points', 'points: one particle a row'],
  ['runs', 'runs: one file and its parameters a row'],
];

/** What the columns of a table mean, chosen above its own first rows. */
export function ColumnChooser({ table, reading, busy, onChange }: Props) {
  return (
    <section aria-label="Columns of the table">
      <p className="font-book text-[17px]">
        {table.count.toLocaleString('en-GB')} rows, read as{' '}
        <select
          className="field font-sans text-sm"
          aria-label="The table is read as"
          value={reading.as}
          disabled={busy}
          onChange={(e) => onChange(startOf(e.target.value as TableReading['as'], table.columns))}
        >
          {kinds.map(([as, label]) => (
            <option key={as} value={as}>
              {label}
            </option>
          ))}
        </select>
      </p>
      <div className="mt-3 overflow-x-auto rounded-lg border border-rule">
        <table className="text-left text-sm">
          <thead>
            <tr className="bg-sunk/60">
              {table.columns.map((column, i) => (
                <th key={column.name} className="px-2 py-1.5 align-bottom font-semibold whitespace-nowrap">
                  <span className="block">{column.name}</span>
                  <select
                    className="field mt-1 h-7 w-full min-w-24 font-normal"
                    aria-label={`Meaning of ${column.name}`}
                    value={meaningOf(reading, i)}
                    disabled={busy}
                    onChange={(e) => onChange(withMeaning(reading, i, e.target.value))}
                  >
                    {meanings(reading).map((m) => (
                      <option key={m} value={m}>
                        {m}
                      </option>
                    ))}
                  </select>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {table.rows.map((row) => (
              <tr key={row.join()} className="border-t border-rule/60">
                {table.columns.map((column, i) => (
                  <td key={column.name} className="px-2 py-0.5 text-soft tabular-nums whitespace-nowrap">
                    {row[i]}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
