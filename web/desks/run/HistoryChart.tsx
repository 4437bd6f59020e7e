import { LineChart } from 'echarts/charts';
import { GridComponent, LegendComponent, TooltipComponent } from 'echarts/components';
import * as echarts from 'echarts/core';
import { CanvasRenderer } from 'echarts/renderers';
import { useEffect, useRef, useState } from 'react';
import { sayNumber } from '#core/language/sentence.ts';
import { type RunTable, viewArray } from '#core/model/run.ts';
import { loadFromServer } from '#engine/array-source.ts';
import { problemFrom } from '#engine/server-requests.ts';

echarts.use([LineChart, GridComponent, TooltipComponent, LegendComponent, CanvasRenderer]);

const colours = ['#a4431f', '#2f6f73', '#7a5195', '#8a7a1f', '#3d5a99', '#b0567a'];

/** The quantities of a table over its time, a few at once. */
export function HistoryChart({ table }: { table: RunTable }) {
  const others = table.columns.flatMap((_, i) => (i === table.time ? [] : [i]));
  const [shown, setShown] = useState<number[]>(others.slice(0, 1));
  const [problem, setProblem] = useState<string | null>(null);
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!box.current) return;
    const chart = echarts.init(box.current);
    let gone = false;
    const load = loadFromServer('');
    const column = async (i: number): Promise<ArrayLike<number>> => {
      const ref = table.columns[i].values;
      return viewArray(ref.type, await load(ref));
    };
    const draw = async () => {
      const time = table.time === null ? null : await column(table.time);
      const values = await Promise.all(shown.map(column));
      if (gone) return;
      const ink = getComputedStyle(document.documentElement).getPropertyValue('--soft');
      const axis = { axisLabel: { color: ink }, axisLine: { lineStyle: { color: ink } } };
      chart.setOption({
        animation: false,
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
          ...axis,
        },
        yAxis: { type: 'value', scale: true, splitLine: { lineStyle: { opacity: 0.3 } }, ...axis },
        series: values.map((v, k) => ({
          type: 'line',
          name: table.columns[shown[k]].name,
          showSymbol: false,
          sampling: 'lttb',
          lineStyle: { width: 1.6 },
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
