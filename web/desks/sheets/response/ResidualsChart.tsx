import type { EChartsCoreOption } from 'echarts/core';
import { sayNumber } from '#core/language/sentence.ts';
import { numberIn } from '#core/sets/column-numbers.ts';
import type { ResponsePlot } from '#core/sets/response-plot.ts';
import type { ChartTone } from '#stage/charts/chart-options.ts';
import { deskTone } from '#web/desks/shared/CurveChart.tsx';
import { useRowChart } from './use-row-chart.ts';

interface Props {
  plot: ResponsePlot;
  isMarked(row: number): boolean;
  onPoint(row: number | null): void;
  onPress(row: number): void;
}

/** What each run has more than the fit says, over what it says: filled of the fit, open of one made without the run. */
export function ResidualsChart({ plot, isMarked, onPoint, onPress }: Props) {
  const options = () => residualOptions(plot, deskTone(), isMarked);
  const { element } = useRowChart({ options, onPoint, onPress }, [plot, isMarked]);
  return (
    <div
      ref={element}
      role="img"
      aria-label={`Residuals of ${plot.output.name}`}
      className="min-h-0 flex-1"
      data-testid="residuals"
    />
  );
}

function residualOptions(
  { fit, output, rows }: ResponsePlot,
  tone: ChartTone,
  isMarked: (row: number) => boolean,
): EChartsCoreOption {
  const letters = { color: tone.ink, fontFamily: tone.font, fontSize: tone.letters };
  const unit = output.unit ? ` (${output.unit})` : '';
  const axis = (name: string, nameGap: number) => ({
    type: 'value',
    scale: true,
    name,
    nameLocation: 'middle',
    nameGap,
    nameTextStyle: letters,
    axisLabel: { ...letters, color: tone.soft, formatter: sayNumber },
    splitLine: { lineStyle: { color: tone.soft, opacity: 0.18 } },
    axisLine: { onZero: true, lineStyle: { color: tone.ink } },
  });
  const points = (values: readonly number[]) =>
    (fit?.used ?? []).flatMap((sample, i) => {
      const row = rows[sample];
      if (!Number.isFinite(values[i])) return [];
      const told = numberIn(output, row) - values[i];
      const marked = isMarked(row);
      const border = marked ? '#a4431f' : '#0072b2';
      return [
        {
          value: [told, values[i]],
          row,
          symbolSize: marked ? 14 : 9,
          itemStyle: { color: border, borderColor: border, borderWidth: marked ? 3 : 1.5 },
        },
      ];
    });
  return {
    animation: false,
    textStyle: letters,
    grid: { left: 76, right: 24, top: 44, bottom: 52 },
    legend: { top: 6, left: 70, itemGap: 24, textStyle: letters },
    xAxis: axis(`${output.name} as the fit says${unit}`, 30),
    yAxis: axis(`more than the fit says${unit}`, 52),
    series: [
      { type: 'scatter', name: 'of the fit', color: '#0072b2', data: points(fit?.residuals ?? []) },
      {
        type: 'scatter',
        name: 'of a fit without the run',
        symbol: 'emptyCircle',
        color: '#0072b2',
        data: points(fit?.leftOut ?? []),
      },
    ],
  };
}
