import { useEffect, useState } from 'react';
import { curveFrom } from '#core/measure/curves/curve-data.ts';
import type { RunTable } from '#core/model/run.ts';
import type { ChartDrawn } from '#core/scene/charts/chart-drawn.ts';
import { curve } from '#core/scene/charts/curve.ts';
import { problemFrom } from '#engine/server-requests.ts';
import { plainChart } from '#stage/charts/chart-options.ts';
import { CurveChart } from '#web/desks/shared/CurveChart.tsx';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { columnOf, drawnColumns, firstColumn } from '#web/desks/shared/table-columns.ts';

/** The quantities of a table over its time, a few at once. */
export function HistoryChart({ table }: { table: RunTable }) {
  const others = drawnColumns(table);
  const [shown, setShown] = useState<number[]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  const [drawn, setDrawn] = useState<ChartDrawn | null>(null);
  useEffect(() => {
    firstColumn(table)
      .then((first) => setShown(first === null ? [] : [first]))
      .catch((error) => setProblem(problemFrom(error).reason));
  }, [table]);
  useEffect(() => {
    let gone = false;
    const column = (i: number): Promise<ArrayLike<number>> => columnOf(table, i);
    const draw = async () => {
      const along = table.time === null ? null : table.columns[table.time];
      const time = table.time === null ? null : await column(table.time);
      const values = await Promise.all(shown.map(column));
      if (gone) return;
      const rows = Float64Array.from({ length: table.rows }, (_, i) => i);
      setDrawn(
        plainChart(
          values.map((v, k) => {
            const { name, unit } = table.columns[shown[k]];
            const axis = { name: along?.name ?? 'row', unit: along?.unit ?? null };
            const data = curveFrom(axis, { name, unit }, time ?? rows, v, false);
            return { id: name, name, data, look: curve.plain };
          }),
        ),
      );
    };
    draw().catch((error) => setProblem(problemFrom(error).reason));
    return () => {
      gone = true;
    };
  }, [table, shown]);
  return (
    <>
      <h2 className="font-book text-[19px] font-medium">{table.name}</h2>
      <div className="mt-2 flex max-h-40 flex-wrap gap-1.5 overflow-y-auto">
        {others.map((i) => (
          <Pill
            key={table.columns[i].name}
            on={shown.includes(i)}
            onClick={() =>
              setShown(shown.includes(i) ? shown.filter((s) => s !== i) : [...shown, i].slice(-6))
            }
          >
            {table.columns[i].name}
          </Pill>
        ))}
      </div>
      {problem && <p className="mt-2 text-warn">{problem}</p>}
      {drawn && <CurveChart drawn={drawn} label={`Chart of ${table.name}`} className="mt-3 h-72" />}
    </>
  );
}
