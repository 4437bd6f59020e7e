import { describe, expect, it } from 'vitest';
import { CompiledScale } from '#core/colour/compiled-scale.ts';
import { curveFrom } from '#core/measure/curves/curve-data.ts';
import { sheetOf } from '#core/measure/curves/sheet.ts';
import { evenBands } from '#core/model/levels.ts';
import type { ChartDrawn, CurveDrawn } from '#core/scene/charts/chart-drawn.ts';
import { curve as curveThing } from '#core/scene/charts/curve.ts';
import { chartOptions, panelsOf, plainChart } from './chart-options.ts';
import { isSheetDrawn, type SheetDrawn, sayOfSheet, seenAlong, sheetPixels } from './sheet-panel.ts';

const scale = CompiledScale.of({ map: 'heat', reversed: false, bands: null, low: 0, high: 10 });
/** Ten places at 0 s and at 10 s: what is seen is the place, at both. */
const data = sheetOf(
  [0, 10].map(() =>
    curveFrom({ name: 'way along it', unit: 'm' }, { name: 'T', unit: 'K' }, [0, 5, 10], [0, 5, 10], false),
  ),
  { name: 'time', unit: 's' },
  [0, 10],
);
const drawn: SheetDrawn = {
  id: 'sheet',
  name: 'T',
  data,
  look: curveThing.plain,
  colours: { scale, unit: 'K' },
};
const line: CurveDrawn = {
  id: 'line',
  name: 'line',
  data: curveFrom({ name: 'time', unit: 's' }, { name: 'p', unit: 'Pa' }, [0, 10], [1, 2], true),
  look: curveThing.plain,
};
const tone = { ink: '#111111', soft: '#666666', font: 'sans-serif', letters: 12 };
const size = { width: 640, height: 480 };

const at = (pixels: Uint8ClampedArray, width: number, x: number, y: number): number[] => [
  ...pixels.subarray(4 * (y * width + x), 4 * (y * width + x) + 4),
];
const bytes = (value: number): number[] => [...scale.colour(value).map((c) => Math.round(255 * c)), 255];

describe('pictures over the steps', () => {
  it('have the colours of their scale, the low end of the curves at the foot', () => {
    const pixels = sheetPixels(data, scale, { from: 0, to: 10, log: false }, 4, 100);
    for (const [row, value] of [
      [99, 0.05],
      [50, 4.95],
      [0, 9.95],
    ])
      for (const [k, byte] of at(pixels, 4, 2, row).entries())
        expect(Math.abs(byte - bytes(value)[k])).toBeLessThanOrEqual(1);
  });

  it('have no more colours than their scale has bands', () => {
    const banded = CompiledScale.of({ ...scale.colours, bands: evenBands(4) });
    const pixels = sheetPixels(data, banded, { from: 0, to: 10, log: false }, 2, 64);
    const colours = new Set(Array.from({ length: 64 }, (_, row) => at(pixels, 2, 0, row).join()));
    expect(colours.size).toBe(4);
  });

  it('end at the step on show, and are clear beyond their steps and where the scale hides', () => {
    const pixels = sheetPixels(data, scale, { from: 0, to: 20, log: false }, 20, 4, 5);
    const clear = Array.from({ length: 20 }, (_, x) => at(pixels, 20, x, 1)[3] === 0);
    expect(clear).toEqual(Array.from({ length: 20 }, (_, x) => x >= 5));
    const hiding = CompiledScale.of({ ...scale.colours, shownFrom: 5 });
    const half = sheetPixels(data, hiding, { from: 0, to: 10, log: false }, 1, 10);
    expect(Array.from({ length: 10 }, (_, y) => at(half, 1, 0, y)[3])).toEqual([
      255, 255, 255, 255, 255, 0, 0, 0, 0, 0,
    ]);
  });

  it('begin where a logarithm does', () => {
    expect(seenAlong(drawn, null, null, true)).toEqual({ from: 10, to: 10, log: true });
    expect(seenAlong(drawn, 2, null, false)).toEqual({ from: 2, to: 10, log: false });
  });

  it('stand in a panel of their own with their colours beside them, curves together in another', () => {
    const both: ChartDrawn = { ...plainChart([line, drawn, { ...line, id: 'second' }]), now: 4 };
    expect(panelsOf(both).map((p) => p.curves.map((c) => c.curve.id))).toEqual([
      ['line', 'second'],
      ['sheet'],
    ]);
    const made = chartOptions(both, tone, size) as {
      grid: { left: number; top: number; width: number; height: number }[];
      yAxis: { name: string; min?: number; max?: number; gridIndex: number }[];
      series: { id?: string; type: string; xAxisIndex: number }[];
      legend: { show: boolean; data: { name: string }[] };
    };
    expect(made.grid).toHaveLength(3);
    for (const g of made.grid) expect(g.left + g.width).toBeLessThanOrEqual(size.width);
    expect(made.yAxis.map((a) => a.name)).toEqual(['Pa', 'way along it, m', 'T, K']);
    expect(made.yAxis[2]).toMatchObject({ gridIndex: 2, min: 0, max: 10 });
    expect(made.series.filter((s) => s.type === 'custom')).toHaveLength(2);
    expect(made.legend.data.map((d) => d.name)).toEqual(['line', 'line']);
  });

  it('say what they show at a place', () => {
    expect(isSheetDrawn(drawn)).toBe(true);
    expect(isSheetDrawn(line)).toBe(false);
    expect(sayOfSheet(drawn, 2, 7.5)).toBe('time 2 s, way along it 7.5 m: T 7.5 K');
    expect(sayOfSheet(drawn, 12, 7.5)).toBeNull();
    const celsius = CompiledScale.of({ ...scale.colours, unit: { factor: 1, shift: -273.15 } });
    const shown = { ...drawn, colours: { scale: celsius, unit: '°C' } };
    expect(sayOfSheet(shown, 2, 7.5)).toBe('time 2 s, way along it 7.5 m: T −265.6 °C');
  });
});
