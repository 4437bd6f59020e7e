import { LineChart } from 'echarts/charts';
import { GridComponent, LegendComponent, TooltipComponent } from 'echarts/components';
import * as echarts from 'echarts/core';
import { CanvasRenderer } from 'echarts/renderers';
import { useEffect, useRef } from 'react';
import { sayNumber } from '#core/language/sentence.ts';

echarts.use([LineChart, GridComponent, TooltipComponent, LegendComponent, CanvasRenderer]);

const colours = ['#a4431f', '#2f6f73', '#7a5195', '#8a7a1f', '#3d5a99', '#b0567a'];

export interface CurvesDrawn {
  /** What they are drawn along; without values by number, from 0. */
  along: { name: string; values: ArrayLike<number> | null };
  curves: readonly { name: string; values: ArrayLike<number | null> }[];
  /** So few that each value is a dot of its own. */
  few: boolean;
}

/** Curves in one chart. */
export function CurveChart({
  drawn,
  label,
  className,
}: {
  drawn: CurvesDrawn;
  label: string;
  className: string;
}) {
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (!box.current) return;
    const chart = echarts.init(box.current);
    chart.setOption(chartOf(drawn, box.current.clientHeight));
    const resize = new ResizeObserver(() => chart.resize());
    resize.observe(box.current);
    return () => {
      resize.disconnect();
      chart.dispose();
    };
  }, [drawn]);
  return <div ref={box} role="img" aria-label={label} className={className} />;
}

function chartOf({ along, curves, few }: CurvesDrawn, height: number): Record<string, unknown> {
  const ink = getComputedStyle(document.documentElement).getPropertyValue('--soft');
  const axis = { axisLabel: { color: ink }, axisLine: { lineStyle: { color: ink } } };
  const { name, values: places } = along;
  return {
    animation: false,
    textStyle: { fontFamily: "'Inter Variable', sans-serif" },
    color: colours,
    grid: { left: 70, right: 20, top: 40, bottom: 45 },
    legend: { top: 0, textStyle: { color: ink } },
    tooltip: { trigger: 'axis', valueFormatter: (v: unknown) => sayNumber(Number(v)) },
    xAxis: {
      type: 'value',
      name,
      nameLocation: 'middle',
      nameGap: 28,
      min: 'dataMin',
      max: 'dataMax',
      // A few rows by number: each has its own.
      ...(few && places && Array.from(places).every(Number.isInteger) ? { interval: 1 } : {}),
      ...axis,
    },
    yAxis: {
      type: 'value',
      scale: true,
      // So that numbers do not overlap.
      splitNumber: Math.max(2, Math.floor((height - 85) / 30)),
      splitLine: { lineStyle: { opacity: 0.3 } },
      ...axis,
    },
    series: curves.map((curve) => ({
      type: 'line',
      name: curve.name,
      showSymbol: few,
      symbol: 'circle',
      symbolSize: 8,
      sampling: 'lttb',
      lineStyle: few ? { width: 1, opacity: 0.45 } : { width: 1.6 },
      data: Array.from(curve.values, (y, i) => [places ? places[i] : i, y]),
    })),
  };
}
