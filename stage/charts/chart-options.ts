import { sayNumber } from '#core/language/sentence.ts';
import { type AxisName, curveAt } from '#core/measure/curves/curve-data.ts';
import { chart } from '#core/scene/charts/chart.ts';
import type { ChartDrawn, CurveDrawn } from '#core/scene/charts/chart-drawn.ts';
import { isSheetDrawn, type SheetDrawn, scaleSeries, seenAlong, sheetSeries } from './sheet-panel.ts';

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

/** The panels of a chart; the grids of the library are in their order. */
export function panelsOf({ look, curves }: ChartDrawn): Panel[] {
  const all = curves.map((curve, index) => ({ curve, index }));
  // A picture over the steps has no axes in common with curves.
  const lines = all.filter(({ curve }) => !isSheetDrawn(curve));
  const groups =
    look.arrange === 'together'
      ? [lines, ...all.filter((one) => !lines.includes(one)).map((one) => [one])]
      : all.map((one) => [one]);
  // Without curves there are no axes to draw.
  return groups
    .filter((own) => own.length > 0)
    .map((own) => {
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
        axis.name = isSheetDrawn(first)
          ? sayAxis(first.data.up)
          : (first.data.up.unit ?? (more.length > 0 ? '' : first.name));
      }
      return { curves: own, axes };
    });
}

/** What a chart shows of a curve, along it: as it is set, or the stretch of the steps; null for an end of the curve. */
function shownAlong({ data }: CurveDrawn, { look, stretch }: ChartDrawn): [number | null, number | null] {
  const [from, to] = data.overSteps && stretch ? stretch : [null, null];
  return [look.from ?? from, look.to ?? to];
}

/** Values that a curve is drawn through; none where a logarithm has none. */
function places(curve: CurveDrawn, drawn: ChartDrawn): [number, number | null][] {
  const { data } = curve;
  const { look, now, upToNow } = drawn;
  const out: [number, number | null][] = [];
  const [from, to] = shownAlong(curve, drawn);
  const begin = from ?? Number.NEGATIVE_INFINITY;
  const present = upToNow && data.overSteps && now !== null ? now : Number.POSITIVE_INFINITY;
  const end = Math.min(to ?? Number.POSITIVE_INFINITY, present);
  const add = (x: number, y: number): void => {
    if (look.logAlong && !(x > 0)) return;
    out.push([x, Number.isNaN(y) || (look.logUp && !(y > 0)) ? null : y]);
  };
  for (let i = 0; i < data.x.length; i++) {
    const [x, y] = [data.x[i], data.y[i]];
    const before = i > 0 && !data.scattered ? data.x[i - 1] : Number.NaN;
    // It begins and ends just where it is cut off.
    if (before < begin && x > begin) add(begin, curveAt(data, begin));
    if (x > end) {
      if (before < end) add(end, curveAt(data, end));
      if (!data.scattered) break;
      continue;
    }
    if (x >= begin) add(x, y);
  }
  return out;
}

const dashes = { solid: 'solid', dashed: 'dashed', dotted: 'dotted', dots: 'solid' } as const;

/** Room of a panel beside its curves, in sizes of letters. */
const ROOM = { axis: 5.2, foot: 3.4, head: 1.2, colours: 2.2 };

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
  // The colours of a picture over the steps say what they stand for beside it.
  const named = curves.filter((c) => !isSheetDrawn(c));
  const legend = look.legend && named.length > 1 ? legendOf(named, size.width, letters) : null;
  const legendRoom = legend ? legend.room : 0.3 * letters;
  const [across, down] = aside ? [count, 1] : [1, count];
  const cell = {
    width: size.width / across,
    height: (size.height - legendRoom) / down,
  };
  const grid: { left: number; top: number; width: number; height: number }[] = [];
  const xAxis: object[] = [];
  const yAxis: object[] = [];
  const series: object[] = [];
  const sheets: { sheet: SheetDrawn; box: (typeof grid)[number] }[] = [];
  const axisText = { color: soft, fontSize: letters, fontFamily: font };
  for (const [i, panel] of panels.entries()) {
    const sides = panel.axes.map((_, k) => (k % 2 === 0 ? 'left' : 'right'));
    const lefts = sides.filter((s) => s === 'left').length;
    const rights = sides.length - lefts;
    const [left, top] = [aside ? i * cell.width : 0, legendRoom + (aside ? 0 : i * cell.height)];
    const only = panel.curves[0]?.curve;
    const sheet = only && isSheetDrawn(only) ? only : null;
    const [from, to] = panel.curves
      .map(({ curve }) => shownAlong(curve, drawn))
      .reduce(([a, b], [c, d]) => [a === c ? a : null, b === d ? b : null]);
    const seen = sheet && seenAlong(sheet, from, to, look.logAlong);
    const beside = sheet ? ROOM.colours + ROOM.axis : rights > 0 ? rights * ROOM.axis : 1.6;
    const box = {
      left: left + Math.max(1, lefts) * ROOM.axis * letters,
      top: top + ROOM.head * letters,
      width: Math.max(8, cell.width - (Math.max(1, lefts) * ROOM.axis + beside) * letters),
      height: Math.max(8, cell.height - (ROOM.head + ROOM.foot) * letters),
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
      min: seen ? seen.from : (from ?? 'dataMin'),
      max: seen ? seen.to : (to ?? 'dataMax'),
      // What a picture shows is told by itself.
      ...(sheet && { axisPointer: { show: false }, tooltip: { show: false } }),
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
        type: look.logUp && !sheet ? 'log' : 'value',
        ...(sheet && { min: sheet.data.sheet.places[0], max: sheet.data.sheet.places.at(-1) }),
        scale: !axis.curves.some((c) => curves[c].data.bars),
        position: sides[k],
        offset: Math.floor(k / 2) * ROOM.axis * letters,
        name: shortened(axis.name, box.height, letters),
        nameLocation: 'middle',
        nameGap: (ROOM.axis - 1.4) * letters,
        nameTextStyle: { ...axisText, color: only ? colour : ink },
        axisLabel: { ...axisText, color: colour, hideOverlap: true, formatter: sayTick },
        axisLine: { show: panel.axes.length > 1, lineStyle: { color: colour } },
        splitNumber: Math.max(2, Math.floor(box.height / (3 * letters))),
        splitLine: { show: k === 0 && !sheet, lineStyle: { color: soft, opacity: 0.22 } },
      });
      for (const index of axis.curves)
        if (!sheet)
          series.push(
            seriesOf(curves[index], index, i, yAxis.length - 1, drawn, ink, letters),
            ...roomOf(curves[index], i, yAxis.length - 1, drawn),
          );
    }
    if (sheet && seen) {
      const end = drawn.upToNow && now !== null ? now : Number.POSITIVE_INFINITY;
      series.push(sheetSeries(sheet, { xAxisIndex: i, yAxisIndex: yAxis.length - 1 }, seen, end));
      sheets.push({ sheet, box });
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
  for (const { sheet, box } of sheets) {
    const { scale, unit } = sheet.colours;
    const customValues = scale
      .ticks(Math.max(2, Math.floor(box.height / (3 * letters))))
      .map((v) => scale.shownNumber(v));
    const gridIndex = grid.length;
    grid.push({
      left: box.left + box.width + ROOM.head * letters,
      top: box.top,
      width: letters,
      height: box.height,
    });
    xAxis.push({ gridIndex, type: 'value', show: false, min: 0, max: 1, axisPointer: { show: false } });
    yAxis.push({
      gridIndex,
      type: scale.spacing.kind === 'log' ? 'log' : 'value',
      position: 'right',
      min: scale.shownNumber(scale.low),
      max: scale.shownNumber(scale.high),
      name: shortened(sayAxis({ name: sheet.name, unit }), box.height, letters),
      nameLocation: 'middle',
      nameRotate: 90,
      nameGap: (ROOM.axis - 1.4) * letters,
      nameTextStyle: { ...axisText, color: ink },
      // Named are the values that the legend names.
      axisLabel: { ...axisText, hideOverlap: true, formatter: sayTick, customValues },
      axisTick: { customValues },
      axisLine: { show: false },
      splitLine: { show: false },
    });
    series.push(scaleSeries(scale, { xAxisIndex: xAxis.length - 1, yAxisIndex: yAxis.length - 1 }));
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
      data: named.map(({ name }) => ({ name })),
    },
    tooltip: {
      trigger: curves.some((c) => c.data.scattered) ? 'item' : 'axis',
      confine: true,
      valueFormatter: (v: unknown) => (v === null || v === undefined ? 'no value' : sayNumber(Number(v), 5)),
    },
  };
}

/** Keeps the axes where the whole of a curve needs them while it is drawn up to now: in a film they stand still. */
function roomOf(curve: CurveDrawn, panel: number, axis: number, drawn: ChartDrawn): object[] {
  if (!drawn.upToNow || !curve.data.overSteps) return [];
  const whole = places(curve, { ...drawn, upToNow: false });
  const ends = (values: number[]): [number, number] => [
    values.reduce((a, b) => Math.min(a, b)),
    values.reduce((a, b) => Math.max(a, b)),
  ];
  const known = whole.flatMap(([x, y]) => (y === null ? [] : [{ x, y }]));
  if (known.length === 0) return [];
  const [x, y] = [ends(known.map((p) => p.x)), ends(known.map((p) => p.y))];
  return [
    {
      type: 'line',
      id: `room-${curve.id}`,
      xAxisIndex: panel,
      yAxisIndex: axis,
      data: [
        [x[0], y[0]],
        [x[1], y[1]],
      ],
      silent: true,
      symbol: 'none',
      lineStyle: { opacity: 0 },
      tooltip: { show: false },
    },
  ];
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
