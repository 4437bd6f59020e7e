import type { EChartsCoreOption } from 'echarts/core';
import { sayNumber } from '#core/language/sentence.ts';
import type { ResponseCurve, ResponsePlot } from '#core/sets/response-plot.ts';
import type { RunColumn } from '#core/sets/run-table.ts';
import type { ChartTone } from '#stage/charts/chart-options.ts';
import { sayValue } from '../say-value.ts';

/** Colours of curves, told apart also by those who see few of them (Okabe and Ito 2008). */
const COLOURS = ['#0072b2', '#d55e00', '#009e73', '#cc79a7', '#e69f00', '#56b4e9', '#7a7a7a', '#b8a800'];

/** So many curves have their band drawn: more of them only hide each other. */
const MOST_BANDS = 3;

/** Half of a band, in standard deviations: about 95 of 100 lie within. */
const BAND = 1.96;

export const colourOf = (curve: number): string => COLOURS[curve % COLOURS.length];

const axisName = ({ name, unit }: RunColumn): string => (unit ? `${name} (${unit})` : name);

/**
 * A response as a chart.
 *
 * @param isMarked whether the run of a row is marked
 */
export function responseOptions(
  { curves, across, output }: ResponsePlot,
  tone: ChartTone,
  group: RunColumn | null,
  isMarked: (row: number) => boolean,
): EChartsCoreOption {
  const letters = { color: tone.ink, fontFamily: tone.font, fontSize: tone.letters };
  const axis = (column: RunColumn, isAcross: boolean) => ({
    type: 'value',
    scale: true,
    name: axisName(column),
    nameLocation: 'middle',
    nameGap: isAcross ? 30 : 52,
    nameTextStyle: letters,
    axisLabel: { ...letters, color: tone.soft, formatter: sayNumber },
    splitLine: { lineStyle: { color: tone.soft, opacity: 0.18 } },
    axisLine: { lineStyle: { color: tone.soft } },
  });
  const bands = curves.length <= MOST_BANDS;
  return {
    animation: false,
    textStyle: letters,
    grid: { left: 76, right: 24, top: group ? 44 : 20, bottom: 52 },
    legend: group
      ? { top: 6, left: 70, itemGap: 24, textStyle: letters, data: curves.map((c) => nameOf(c, group)) }
      : { show: false },
    xAxis: axis(across, true),
    yAxis: axis(output, false),
    series: curves.flatMap((curve, i) => [
      ...(bands ? bandOf(curve, i) : []),
      ...lineOf(curve, i, group),
      pointsOf(curve, i, group, isMarked),
    ]),
  };
}

const nameOf = ({ group }: ResponseCurve, column: RunColumn): string =>
  `${column.name} ${sayValue(group)}${column.unit && group !== null ? ` ${column.unit}` : ''}`;

const plain = { type: 'line', symbol: 'none', silent: true } as const;

/** What lies within the band, on top of what lies below it. */
function bandOf({ fitted }: ResponseCurve, i: number): object[] {
  if (!fitted.some((p) => p.off !== null)) return [];
  const stack = `band ${i}`;
  return [
    { ...plain, stack, lineStyle: { opacity: 0 }, data: fitted.map((p) => [p.x, p.y - BAND * p.off!]) },
    {
      ...plain,
      stack,
      stackStrategy: 'all',
      lineStyle: { opacity: 0 },
      areaStyle: { color: colourOf(i), opacity: 0.14 },
      data: fitted.map((p) => [p.x, 2 * BAND * p.off!]),
    },
  ];
}

/** The fit; where there is none, from run to run. */
function lineOf({ fitted, points }: ResponseCurve, i: number, group: RunColumn | null): object[] {
  const isFitted = fitted.length > 0;
  if (!isFitted && group === null) return [];
  return [
    {
      ...plain,
      lineStyle: { color: colourOf(i), width: isFitted ? 2 : 1.2, type: isFitted ? 'solid' : 'dashed' },
      data: (isFitted ? fitted : points).map((p) => [p.x, p.y]),
    },
  ];
}

const pointsOf = (
  curve: ResponseCurve,
  i: number,
  group: RunColumn | null,
  isMarked: (row: number) => boolean,
): object => ({
  type: 'scatter',
  name: group ? nameOf(curve, group) : 'runs',
  color: colourOf(i),
  cursor: 'pointer',
  data: curve.points.map(({ row, x, y }) => ({
    value: [x, y],
    row,
    symbolSize: isMarked(row) ? 15 : 9,
    itemStyle: isMarked(row) ? { borderColor: '#a4431f', borderWidth: 3 } : {},
  })),
});
