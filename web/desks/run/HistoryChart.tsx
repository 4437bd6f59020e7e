import { useEffect, useState } from 'react';
import type { RunTable } from '#core/model/run.ts';
import { problemFrom } from '#engine/server-requests.ts';
import { CurveChart, type CurvesDrawn } from '#web/desks/shared/CurveChart.tsx';
import { Pill } from '#web/desks/shared/Pill.tsx';
import { columnOf, drawnColumns, firstColumn, isFewRows } from '#web/desks/shared/table-columns.ts';

/** The quantities of a table over its time, a few at once. */
export function HistoryChart({ table }: { table: RunTable }) {
  const others = drawnColumns(table);
  const [shown, setShown] = useState<number[]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  const [drawn, setDrawn] = useState<CurvesDrawn | null>(null);
  useEffect(() => {
    firstColumn(table)
      .then((first) => setShown(first === null ? [] : [first]))
      .catch((error) => setProblem(problemFrom(error).reason));
  }, [table]);
  useEffect(() => {
    let gone = false;
    const column = (i: number): Promise<ArrayLike<number>> => columnOf(table, i);
    const draw = async () => {
      const time = table.time === null ? null : await column(table.time);
      const values = await Promise.all(shown.map(column));
      if (gone) return;
      setDrawn({
        along: { name: table.time === null ? 'row' : table.columns[table.time].name, values: time },
        curves: values.map((v, k) => ({ name: table.columns[shown[k]].name, values: v })),
        few: isFewRows(table),
      });
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
