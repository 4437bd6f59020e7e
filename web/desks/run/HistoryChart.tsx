import { LineChart } from 'echarts/charts';
import { GridComponent, LegendComponent, TooltipComponent } from 'echarts/components';
import * as echarts from 'echarts/core';
import { CanvasRenderer } from 'echarts/renderers';
import { useEffect, useRef, useState } from 'react';
import { sayNumber } from '#core/language/sentence.ts';
import type { RunTable } from '#core/model/run.ts';
import { problemFrom } from '#engine/server-requests.ts';
import { columnOf, drawnColumns, firstColumn, isFewRows } from '#web/desks/shared/table-columns.ts';

echarts.use([LineChart, GridComponent, TooltipComponent, LegendComponent, CanvasRenderer]);

const colours = ['#a4431f', '#2f6f73', '#7a5195', '#8a7a1f', '#3d5a99', '#b0567a'];

/** The quantities of a table over its time, a few at once. */
export function HistoryChart({ table }: { table: RunTable }) {
  const others = drawnColumns(table);
  const [shown, setShown] = useState<number[]>([]);
  const [problem, setProblem] = useState<string | null>(null);
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    firstColumn(table)
      .then((first) => setShown(first === null ? [] : [first]))
      .catch((error) => setProblem(problemFrom(error).reason));
  }, [table]);
  useEffect(() => {
    if (!box.current) return;
    const chart = echarts.init(box.current);
    let gone = false;
    const column = (i: number): Promise<ArrayLike<number>> => columnOf(table, i);
    const few = isFewRows(table);
    const draw = async () => {
      const time = table.time === null ? null : await column(table.time);
      const values = await Promise.all(shown.map(column));
      if (gone) return;
      const ink = getComputedStyle(document.documentElement).getPropertyValue('--soft');
      const axis = { axisLabel: { color: ink }, axisLine: { lineStyle: { color: ink } } };
      chart.setOption({
        animation: false,
        textStyle: { fontFamily: "'Inter Variable', sans-serif" },
        color: colours,
        grid: { left: 70, right: 20, top: 40, bottom: 45 },
        legend: { top: 0, textStyle: { color: ink } },
        tooltip: { trigger: 'axis', valueFormatter: (v: unknown) => sayNumber(Number(v)) },
        xAxis: {
          type: 'value',
          name: table.time === null ? 'row' : table.columns[table.time].name,
          nameLocation: 'middle',
          nameGap: 28,
          min: 'dataMin',
          max: 'dataMax',
          // A few rows by number: each has its own.
          ...(few && time && Array.from(time).every(Number.isInteger) ? { interval: 1 } : {}),
          ...axis,
        },
        yAxis: { type: 'value', scale: true, splitLine: { lineStyle: { opacity: 0.3 } }, ...axis },
        series: values.map((v, k) => ({
          type: 'line',
          name: table.columns[shown[k]].name,
          showSymbol: few,
          symbol: 'circle',
          symbolSize: 8,
          sampling: 'lttb',
          lineStyle: few ? { width: 1, opacity: 0.45 } : { width: 1.6 },
          data: Array.from(v, (y, i) => [time ? time[i] : i, y]),
        })),
      });
    };
    draw().catch((error) => setProblem(problemFrom(error).reason));
    const resize = new ResizeObserver(() => chart.resize());
    resize.observe(box.current);
    return () => {
      gone = true;
      resize.disconnect();
      chart.dispose();
    };
  }, [table, shown]);
  return (
    <>
      <h2 className="font-book text-[19px] font-medium">{table.name}</h2>
      <div className="mt-2 flex max-h-40 flex-wrap gap-1.5 overflow-y-auto">
        {others.map((i) => (
          <button
            key={table.columns[i].name}
            type="button"
            aria-pressed={shown.includes(i)}
            className={`rounded-full border px-2.5 py-0.5 text-sm ${shown.includes(i) ? 'border-accent bg-accent text-on-accent' : 'border-rule hover:border-soft'}`}
            onClick={() =>
              setShown(shown.includes(i) ? shown.filter((s) => s !== i) : [...shown, i].slice(-6))
            }
          >
            {table.columns[i].name}
          </button>
        ))}
      </div>
      {problem && <p className="mt-2 text-warn">{problem}</p>}
      <div ref={box} role="img" aria-label={`Chart of ${table.name}`} className="mt-3 h-72" />
    </>
  );
}
