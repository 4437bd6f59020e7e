import { sayNumber } from '#core/language/sentence.ts';
import { type AxisName, curveAt } from '#core/measure/curves/curve-data.ts';
import { chart } from '#core/scene/charts/chart.ts';
import type { ChartDrawn, CurveDrawn } from '#core/scene/charts/chart-drawn.ts';

/** What it is drawn in. */
export interface ChartTone {
  ink: string;
  /** Of axes and grids. */
  soft: string;
  font: string;
  /** Size of letters in pixels. */
  letters: number;
}

/** Colours of curves, told apart by those who see few colours too; the next one is taken for the next curve. */
export const curveColours = ['#a4431f', '#2f6f73', '#7a5195', '#8a7a1f', '#3d5a99', '#b0567a'] as const;

export const inkOf = ({ look }: CurveDrawn, index: number): string =>
  look.ink ?? curveColours[index % curveColours.length];

export const sayAxis = ({ name, unit }: AxisName): string => (unit ? `${name}, ${unit}` : name);

/** So few places are dots of their own. */
const FEW = 30;

/** More places than this are drawn as bars by none of them, and need no dots. */
const isFew = ({ data }: CurveDrawn): boolean => data.x.length <= FEW && !data.bars;

interface Panel {
  curves: { curve: CurveDrawn; index: number }[];
  /** Curves that share an axis of values, one group an axis. */
  axes: { name: string; curves: number[] }[];
}

function panelsOf({ look, curves }: ChartDrawn): Panel[] {
  const all = curves.map((curve, index) => ({ curve, index }));
  // Without curves there are no axes to draw.
  const groups = all.length === 0 ? [] : look.arrange === 'together' ? [all] : all.map((one) => [one]);
  return groups.map((own) => {
    const axes: Panel['axes'] = [];
    for (const { curve, index } of own) {
      const { unit } = curve.data.up;
      const shared =
        curve.look.axis === 'shared' &&
        axes.find((axis) =>
          axis.curves.every((i) => curves[i].look.axis === 'shared' && curves[i].data.up.unit === unit),
        );
      if (shared) shared.curves.push(index);
      else axes.push({ name: '', curves: [index] });
    }
    for (const axis of axes) {
      const [first, ...more] = axis.curves.map((i) => curves[i]);
      axis.name = first.data.up.unit ?? (more.length > 0 ? '' : first.name);
    }
    return { curves: own, axes };
  });
}

/** Values that a curve is drawn through; none where a logarithm has none. */
function places({ data }: CurveDrawn, { look, now, upToNow }: ChartDrawn): [number, number | null][] {
  const out: [number, number | null][] = [];
  const end = upToNow && data.overSteps && now !== null ? now : Number.POSITIVE_INFINITY;
  for (let i = 0; i < data.x.length; i++) {
    const [x, y] = [data.x[i], data.y[i]];
    if (x > end) {
      // It ends just where it is now.
      if (i > 0 && data.x[i - 1] < end) out.push([end, curveAt(data, end)]);
      break;
    }
    if (look.logAlong && !(x > 0)) continue;
    out.push([x, Number.isNaN(y) || (look.logUp && !(y > 0)) ? null : y]);
  }
  return out;
}

const dashes = { solid: 'solid', dashed: 'dashed', dotted: 'dotted', dots: 'solid' } as const;

/** Room of a panel beside its curves, in sizes of letters. */
const ROOM = { axis: 5.2, foot: 3.4, head: 1.2 };

/** The options of a chart for the library that draws it. */
export function chartOptions(
  drawn: ChartDrawn,
  { ink, soft, font, letters }: ChartTone,
  size: { width: number; height: number },
): Record<string, unknown> {
  const { look, curves, now } = drawn;
  const panels = panelsOf(drawn);
  const count = Math.max(1, panels.length);
  const aside = look.arrange === 'side by side';
  const legend = look.legend && curves.length > 1 ? legendOf(curves, size.width, letters) : null;
  const legendRoom = legend ? legend.room : 0.3 * letters;
  const [across, down] = aside ? [count, 1] : [1, count];
  const cell = {
    width: size.width / across,
    height: (size.height - legendRoom) / down,
  };
  const grid: object[] = [];
  const xAxis: object[] = [];
  const yAxis: object[] = [];
  const series: object[] = [];
  const axisText = { color: soft, fontSize: letters, fontFamily: font };
  for (const [i, panel] of panels.entries()) {
    const sides = panel.axes.map((_, k) => (k % 2 === 0 ? 'left' : 'right'));
    const lefts = sides.filter((s) => s === 'left').length;
    const rights = sides.length - lefts;
    const [left, top] = [aside ? i * cell.width : 0, legendRoom + (aside ? 0 : i * cell.height)];
    const box = {
      left: left + Math.max(1, lefts) * ROOM.axis * letters,
      top: top + ROOM.head * letters,
      width:
        cell.width - (Math.max(1, lefts) + rights) * ROOM.axis * letters - (rights > 0 ? 0 : 1.6 * letters),
      height: cell.height - (ROOM.head + ROOM.foot) * letters,
    };
    grid.push(box);
    const first = panel.curves[0]?.curve.data;
    const wholeNumbers =
      panel.curves.length > 0 &&
      panel.curves.every(({ curve }) => isFew(curve) && curve.data.x.every(Number.isInteger));
    xAxis.push({
      gridIndex: i,
      type: look.logAlong ? 'log' : 'value',
      name: first ? sayAxis(first.along) : '',
      nameLocation: 'middle',
      nameGap: 1.9 * letters,
      nameTextStyle: axisText,
      min: look.from ?? 'dataMin',
      max: look.to ?? 'dataMax',
      ...(wholeNumbers && !look.logAlong ? { minInterval: 1 } : {}),
      axisLabel: { ...axisText, hideOverlap: true, formatter: sayTick },
      axisLine: { show: true, onZero: false, lineStyle: { color: soft } },
      axisTick: { show: true, lineStyle: { color: soft } },
      splitLine: { show: false },
    });
    for (const [k, axis] of panel.axes.entries()) {
      const only = axis.curves.length === 1 && panel.axes.length > 1;
      const colour = only ? inkOf(curves[axis.curves[0]], axis.curves[0]) : soft;
      yAxis.push({
        gridIndex: i,
        type: look.logUp ? 'log' : 'value',
        scale: !axis.curves.some((c) => curves[c].data.bars),
        position: sides[k],
        offset: Math.floor(k / 2) * ROOM.axis * letters,
        name: shortened(axis.name, box.height, letters),
        nameLocation: 'middle',
        nameGap: (ROOM.axis - 1.4) * letters,
        nameTextStyle: { ...axisText, color: only ? colour : ink },
        axisLabel: { ...axisText, color: colour, formatter: sayTick },
        axisLine: { show: panel.axes.length > 1, lineStyle: { color: colour } },
        splitNumber: Math.max(2, Math.floor(box.height / (3 * letters))),
        splitLine: { show: k === 0, lineStyle: { color: soft, opacity: 0.22 } },
      });
      for (const index of axis.curves)
        series.push(seriesOf(curves[index], index, i, yAxis.length - 1, drawn, ink, letters));
    }
    if (now !== null && panel.curves.some(({ curve }) => curve.data.overSteps))
      series.push({
        type: 'line',
        id: `now-${i}`,
        xAxisIndex: i,
        yAxisIndex: yAxis.length - 1,
        data: [],
        silent: true,
        markLine: {
          silent: true,
          symbol: 'none',
          animation: false,
          label: { show: false },
          lineStyle: { color: ink, width: 0.09 * letters, type: 'solid', opacity: 0.55 },
          data: [{ xAxis: now }],
        },
      });
  }
  return {
    animation: false,
    textStyle: { fontFamily: font },
    grid,
    xAxis,
    yAxis,
    series,
    legend: {
      show: legend !== null,
      top: 0.2 * letters,
      left: 'center',
      itemWidth: 1.8 * letters,
      itemHeight: 0.7 * letters,
      itemGap: letters,
      textStyle: {
        color: ink,
        fontSize: letters,
        fontFamily: font,
        ...(legend && { width: legend.longest, overflow: 'truncate' }),
      },
      data: curves.map(({ name }) => ({ name })),
    },
    tooltip: {
      trigger: curves.some((c) => c.data.scattered) ? 'item' : 'axis',
      confine: true,
      valueFormatter: (v: unknown) => (v === null || v === undefined ? 'no value' : sayNumber(Number(v), 5)),
    },
  };
}

function seriesOf(
  curve: CurveDrawn,
  index: number,
  panel: number,
  axis: number,
  drawn: ChartDrawn,
  ink: string,
  letters: number,
): object {
  const { data, look, id, name } = curve;
  const colour = inkOf(curve, index);
  const dots = look.line === 'dots' || data.scattered || isFew(curve);
  const line = look.line !== 'dots' && !data.scattered;
  const common = {
    id,
    name,
    xAxisIndex: panel,
    yAxisIndex: axis,
    itemStyle: { color: colour },
    data: places(curve, drawn),
  };
  if (data.scattered)
    return { ...common, type: 'scatter', symbolSize: 0.35 * letters * look.width, large: true };
  const at = drawn.now !== null && data.overSteps ? curveAt(data, drawn.now) : Number.NaN;
  return {
    ...common,
    type: 'line',
    step: data.bars ? 'end' : false,
    areaStyle: data.bars ? { color: colour, opacity: 0.25 } : undefined,
    showSymbol: dots,
    symbol: 'circle',
    symbolSize: 0.5 * letters,
    sampling: dots ? undefined : 'lttb',
    connectNulls: false,
    lineStyle: {
      color: colour,
      type: dashes[look.line],
      width: line ? 0.14 * letters * look.width : 0,
      opacity: line ? 1 : 0,
    },
    ...(Number.isNaN(at)
      ? {}
      : {
          markPoint: {
            silent: true,
            animation: false,
            symbol: 'circle',
            symbolSize: 0.8 * letters,
            label: { show: false },
            itemStyle: { color: colour, borderColor: ink, borderWidth: 0.08 * letters },
            data: [{ coord: [drawn.now, at] }],
          },
        }),
  };
}

/** How wide a letter is on average, and what stands before a name in the legend, in sizes of letters. */
const LETTER = 0.54;
const BEFORE = 3.4;

/** The room of a legend whose names go on in the next row where they do not fit, and how long a name may be. */
function legendOf(
  curves: readonly CurveDrawn[],
  width: number,
  letters: number,
): { room: number; longest: number } {
  const longest = width - (BEFORE + 1) * letters;
  let [rows, used] = [1, 0];
  for (const { name } of curves) {
    const own = Math.min(longest, LETTER * letters * name.length) + BEFORE * letters;
    if (used > 0 && used + own > width) [rows, used] = [rows + 1, 0];
    used += own;
  }
  return { room: (0.4 + 1.5 * rows) * letters, longest };
}

const sayTick = (value: number): string => sayNumber(value, 5);

/** A name that fits along an axis of that height. */
function shortened(name: string, height: number, letters: number): string {
  const most = Math.max(8, Math.floor(height / (0.52 * letters)));
  return name.length <= most ? name : `${name.slice(0, most - 1)}…`;
}

/** A chart of what it has, without settings of its own. */
export const plainChart = (curves: readonly CurveDrawn[]): ChartDrawn => ({
  look: chart.plain,
  curves,
  now: null,
});
