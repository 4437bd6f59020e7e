import { describe, expect, it } from 'vitest';
import { curveFrom } from '#core/measure/curves/curve-data.ts';
import { chart } from '#core/scene/charts/chart.ts';
import type { ChartDrawn, CurveDrawn } from '#core/scene/charts/chart-drawn.ts';
import { curve } from '#core/scene/charts/curve.ts';
import { echarts } from './chart-library.ts';
import { chartOptions, curveColours, plainChart } from './chart-options.ts';

const tone = { ink: '#111111', soft: '#666666', font: 'sans-serif', letters: 12 };
const size = { width: 640, height: 320 };
const x = Float64Array.from({ length: 50 }, (_, i) => i / 10);

const drawn = (
  id: string,
  unit: string | null,
  of: (t: number) => number,
  look: Partial<CurveDrawn['look']> = {},
): CurveDrawn => ({
  id,
  name: id,
  data: curveFrom({ name: 'time', unit: 's' }, { name: id, unit }, x, x.map(of), true),
  look: { ...curve.plain, ...look },
});

interface Made {
  grid: { left: number; top: number; width: number; height: number }[];
  xAxis: { type: string; name: string; min: unknown }[];
  yAxis: { type: string; name: string; position: string; gridIndex: number }[];
  series: {
    id: string;
    yAxisIndex: number;
    type: string;
    data: [number, number | null][];
    markPoint?: object;
  }[];
  legend: { show: boolean };
}

const made = (of: Partial<ChartDrawn> & { curves: CurveDrawn[] }): Made =>
  chartOptions({ ...plainChart(of.curves), ...of }, tone, size) as unknown as Made;

/** Drawn by the library itself, as SVG. */
function svg(of: ChartDrawn): string {
  const own = echarts.init(null, null, { renderer: 'svg', ssr: true, ...size });
  own.setOption(chartOptions(of, tone, size), { notMerge: true });
  const text = own.renderToSVGString();
  own.dispose();
  return text;
}

describe('charts', () => {
  it('of no curves are empty, and draw', () => {
    expect(made({ curves: [] })).toMatchObject({ grid: [], xAxis: [], yAxis: [], series: [] });
    expect(svg(plainChart([]))).toMatch(/^<svg/);
  });

  it('have one axis for curves of a unit, and others of their own on the other side', () => {
    const { yAxis, series, xAxis, legend } = made({
      curves: [
        drawn('a', 'K', Math.sin),
        drawn('b', 'K', Math.cos),
        drawn('c', 'N', Math.sin),
        drawn('d', 'K', Math.cos, { axis: 'own' }),
      ],
    });
    expect(yAxis.map((a) => [a.name, a.position])).toEqual([
      ['K', 'left'],
      ['N', 'right'],
      ['K', 'left'],
    ]);
    expect(series.map((s) => [s.id, s.yAxisIndex])).toEqual([
      ['a', 0],
      ['b', 0],
      ['c', 1],
      ['d', 2],
    ]);
    expect(xAxis.map((a) => a.name)).toEqual(['time, s']);
    expect(legend.show).toBe(true);
  });

  it('stand one above the other or side by side, each within the picture', () => {
    const curves = [drawn('a', 'K', Math.sin), drawn('b', 'N', Math.cos)];
    for (const arrange of ['stacked', 'side by side'] as const) {
      const { grid } = made({ curves, look: { ...chart.plain, arrange } });
      expect(grid).toHaveLength(2);
      for (const g of grid) {
        expect(Math.min(g.width, g.height)).toBeGreaterThan(40);
        expect(g.left + g.width).toBeLessThanOrEqual(size.width);
        expect(g.top + g.height).toBeLessThanOrEqual(size.height);
      }
      expect(arrange === 'stacked' ? grid[1].top > grid[0].top : grid[1].left > grid[0].left).toBe(true);
    }
  });

  it('leave out what has no logarithm, and end where they are told to', () => {
    const curves = [drawn('a', null, (t) => t - 2)];
    const log = made({ curves, look: { ...chart.plain, logUp: true, logAlong: true } });
    expect(log.series[0].data.every(([t]) => t > 0)).toBe(true);
    expect(log.series[0].data.filter(([t, v]) => t < 1.95 && v !== null)).toEqual([]);
    const { series } = made({ curves, now: 2.05, upToNow: true });
    expect(series[0].data.at(-1)![0]).toBe(2.05);
    expect(series[0].data.at(-1)![1]).toBeCloseTo(0.05, 9);
    expect(series[0].markPoint).toBeDefined();
  });

  it('keep their axes while curves are drawn up to now, so that they stand still in films', () => {
    const curves = [drawn('a', null, (t) => Math.sin(t))];
    const whole = made({ curves }).series[0].data;
    const extent = (k: 0 | 1, data: [number, number | null][]) => {
      const values = data.flatMap((p) => (p[k] === null ? [] : [p[k] as number]));
      return [Math.min(...values), Math.max(...values)];
    };
    for (const now of [0.1, 1, 3]) {
      const { series } = made({ curves, now, upToNow: true });
      const room = series.find((s) => (s as { id?: string }).id === 'room-a')!;
      for (const k of [0, 1] as const) expect(extent(k, room.data)).toEqual(extent(k, whole));
      expect(room).toMatchObject({ symbol: 'none', lineStyle: { opacity: 0 }, silent: true });
    }
    expect(made({ curves, now: 1 }).series).toHaveLength(2);
  });

  it('show the stretch of the steps of curves over them, and all of the others', () => {
    const along = {
      ...drawn('b', null, Math.cos),
      data: { ...drawn('b', null, Math.cos).data, overSteps: false },
    };
    const over = made({ curves: [drawn('a', null, (t) => t)], stretch: [1.25, 2.05] });
    expect(over.xAxis[0]).toMatchObject({ min: 1.25, max: 2.05 });
    const { data } = over.series[0];
    expect([data[0], data.at(-1)]).toEqual([
      [1.25, expect.closeTo(1.25, 9)],
      [2.05, expect.closeTo(2.05, 9)],
    ]);
    expect(data).toHaveLength(10);
    expect(made({ curves: [along], stretch: [1, 2] }).series[0].data).toHaveLength(50);
    expect(made({ curves: [along], stretch: [1, 2] }).xAxis[0].min).toBe('dataMin');
    // What is set for the chart itself comes first.
    const own = made({
      curves: [drawn('a', null, (t) => t)],
      stretch: [1, 2],
      look: { ...chart.plain, from: 1.5 },
    });
    expect(own.xAxis[0]).toMatchObject({ min: 1.5, max: 2 });
  });

  it('are drawn by the library in their colours, with names, dots and bars', () => {
    const data = { ...drawn('c', null, Math.sin).data, scattered: true, overSteps: false };
    const text = svg({
      ...plainChart([
        drawn('first', 'K', Math.sin),
        drawn('second', 'K', Math.cos, { ink: '#123456', line: 'dashed' }),
        { ...drawn('dots', null, Math.sin), data },
        { ...drawn('bars', null, Math.abs), data: { ...data, scattered: false, bars: true } },
      ]),
      now: 1,
    });
    for (const wanted of ['first', 'second', 'time, s', curveColours[0], '#123456'])
      expect(text).toContain(wanted);
  });
});
